// Skins what a GLB's first animation moves at many times with three's CPU skinning, which is not of Pantry's making, and
// prints the seconds that it took, without its start and reading.
// Usage: node time-skin.mjs FILE TIMES
import { sceneOf } from './three-scene.mjs';

const three = await import('three');
const scene = await sceneOf(process.argv[2]);
const count = Number(process.argv[3]);
const mixer = new three.AnimationMixer(scene);
mixer.clipAction(scene.animations[0]).play();
const meshes = [];
scene.traverse((object) => object.isSkinnedMesh && meshes.push(object));
const at = new three.Vector3();
const pose = (time) => {
  mixer.setTime(time);
  scene.updateMatrixWorld(true);
  let sum = 0;
  for (const mesh of meshes) {
    const position = mesh.geometry.getAttribute('position');
    for (let i = 0; i < position.count; i++) {
      mesh.getVertexPosition(i, at);
      sum += at.x;
    }
  }
  return sum;
};
pose(0);
const start = process.hrtime.bigint();
let all = 0;
for (let i = 0; i < count; i++) {
  all += pose((i % 30) / 30);
}
if (!Number.isFinite(all)) {
  throw new Error('a point is no number');
}
process.stdout.write(String(Number(process.hrtime.bigint() - start) / 1e9));
