// Removes exact duplicates with glTF-Transform; prints how many meshes there were and are, and the seconds it took.
// Usage: node dedup.mjs FILE
import { NodeIO, PropertyType } from '@gltf-transform/core';
import { dedup } from '@gltf-transform/functions';

const document = await new NodeIO().read(process.argv[2]);
const root = document.getRoot();
const before = root.listMeshes().length;
const start = process.hrtime.bigint();
await document.transform(dedup({ propertyTypes: [PropertyType.ACCESSOR, PropertyType.MESH] }));
const seconds = Number(process.hrtime.bigint() - start) / 1e9;
process.stdout.write(JSON.stringify({ before, after: root.listMeshes().length, seconds }));
