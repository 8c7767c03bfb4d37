// Validates a glTF or GLB file with the Khronos validator and counts it with glTF-Transform; prints one JSON document.
// Usage: node validate-gltf.mjs FILE
import { readFileSync } from 'node:fs';
import { NodeIO, getBounds } from '@gltf-transform/core';
import validator from 'gltf-validator';

const file = process.argv[2];
const report = await validator.validateBytes(new Uint8Array(readFileSync(file)), { maxIssues: 20 });
const document = await new NodeIO().read(file);
const root = document.getRoot();
let drawn = 0;
const uses = {};
root.listScenes()[0].traverse((node) => {
  if (node.getMesh()) {
    const number = root.listMeshes().indexOf(node.getMesh());
    uses[number] = (uses[number] ?? 0) + 1;
  }
  for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
    // Points and lines draw no triangles, and need no indices.
    drawn += primitive.getMode() === 4 ? primitive.getIndices().getCount() / 3 : 0;
  }
});
const bounds = getBounds(root.listScenes()[0]);
process.stdout.write(
  JSON.stringify({
    errors: report.issues.numErrors,
    warnings: report.issues.numWarnings,
    messages: report.issues.messages.slice(0, 5).map((m) => `${m.code}: ${m.message}`),
    meshes: root.listMeshes().length,
    drawn,
    uses,
    min: bounds.min,
    max: bounds.max,
  }),
);
