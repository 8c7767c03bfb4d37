// Reads layers of any format with tinyusdz, which is not of Pantry's making, and prints each as text.
// Usage: node read-tinyusdz.mjs FILE...      Each text ends with a line of its own: "#end".
import { readFileSync } from 'node:fs';
import { basename } from 'node:path';
import { loadTinyUsdz } from './tinyusdz.mjs';

for (const file of process.argv.slice(2)) {
  // Anew for each file, as in compose.mjs.
  const module = await loadTinyUsdz();
  const usd = new module.TinyUSDZLoaderNative();
  if (!usd.loadAsLayerFromBinary(new Uint8Array(readFileSync(file)), basename(file))) {
    throw new Error(`tinyusdz cannot read ${file}: ${usd.error()}`);
  }
  process.stdout.write(usd.layerToString());
  process.stdout.write('\n#end\n');
  usd.delete();
}
