// Poses what a file's first animation moves, as three reads and skins it, and prints where its points come to as JSON.
// Usage: node pose.mjs FILE SECONDS…
import { sceneOf } from './three-scene.mjs';

const three = await import('three');
const [file, ...times] = process.argv.slice(2);
const scene = await sceneOf(file);
const clips = scene.animations.map((clip) => ({ name: clip.name, seconds: clip.duration }));
const mixer = new three.AnimationMixer(scene);
const action = mixer.clipAction(scene.animations[0]);
action.setLoop(three.LoopOnce);
action.clampWhenFinished = true;
action.play();
const poses = times.map((time) => {
  mixer.setTime(Number(time));
  scene.updateMatrixWorld(true);
  const points = [];
  scene.traverse((object) => {
    if (object.isMesh) {
      object.skeleton?.update();
      const position = object.geometry.getAttribute('position');
      const at = new three.Vector3();
      for (let i = 0; i < position.count; i++) {
        object.getVertexPosition(i, at);
        at.applyMatrix4(object.matrixWorld);
        points.push(at.x, at.y, at.z);
      }
    }
  });
  return points;
});
process.stdout.write(JSON.stringify({ clips, poses }));
