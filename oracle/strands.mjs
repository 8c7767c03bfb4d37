// Reads a file with the loader that three has for it, which is not of Pantry's making, and prints the points and lines that it
// holds as JSON: of each object its kind, its places and its colours as they are to be shown, and how many triangles it has.
// Usage: node strands.mjs FILE
import { sceneOf } from './three-scene.mjs';

const scene = await sceneOf(process.argv[2]);
const objects = [];
scene.traverse((object) => {
  if (object.geometry) {
    const { position, color } = object.geometry.attributes;
    objects.push({
      kind: object.type,
      triangles: object.isMesh ? (object.geometry.index?.count ?? 0) / 3 : 0,
      places: [...position.array],
      colours: color ? [...color.array.keys()].map((i) => color.getComponent(Math.floor(i / 3), i % 3)) : [],
    });
  }
});
process.stdout.write(JSON.stringify({ objects }));
