// Prints the definitions of MaterialX's nodes as three's loader has them, which is not of Pantry's making: by their names,
// the node, its inputs with types and defaults, and its outputs.
// Usage: node materialx-nodes.mjs
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';

const three = createRequire(import.meta.url).resolve('three');
const file = new URL('../examples/jsm/loaders/materialx/MaterialXNodeInterfaceRegistry.js', `file://${three}`);
const text = await readFile(file, 'utf8');
const found = {};
for (const [, name, body] of text.matchAll(/"(ND_\w+)": (\{.*\}),?\n/g)) {
  found[name] = JSON.parse(body);
}
process.stdout.write(JSON.stringify(found));
