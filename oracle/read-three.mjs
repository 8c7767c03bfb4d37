// Reads a layer or package with three's USDLoader, which is not of Pantry's making, and prints what it holds as JSON.
// Usage: node read-three.mjs FILE
import { readFileSync } from 'node:fs';

// The loader makes images of textures, for which a browser would be needed; a name is enough here.
globalThis.self = globalThis;
globalThis.URL.createObjectURL ??= () => 'blob:none';
globalThis.document = { createElementNS: () => ({ addEventListener() {}, removeEventListener() {} }) };
const { USDLoader } = await import('three/examples/jsm/loaders/USDLoader.js');

const file = process.argv[2];
const bytes = readFileSync(file);
const group = new USDLoader().parse(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
group.updateMatrixWorld(true);
const meshes = [];
group.traverse((object) => {
  if (object.isMesh) {
    const position = object.geometry.getAttribute('position');
    object.geometry.computeBoundingBox();
    const box = object.geometry.boundingBox.clone().applyMatrix4(object.matrixWorld);
    meshes.push({
      name: object.name,
      triangles: (object.geometry.index ?? position).count / 3,
      min: box.min.toArray(),
      max: box.max.toArray(),
    });
  }
});
process.stdout.write(JSON.stringify({ meshes }));
