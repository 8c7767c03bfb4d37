// Reads layers of any format with tinyusdz, which is not of Pantry's making, and prints each as text.
// Usage: node read-tinyusdz.mjs FILE...      Each text ends with a line of its own: "#end".
import { readFileSync } from 'node:fs';
import { loadTinyUsdz } from './tinyusdz.mjs';

const module = await loadTinyUsdz();
const files = process.argv.slice(2);
for (const file of files) {
  const usd = new module.TinyUSDZLoaderNative();
  if (!usd.loadAsLayerFromBinary(new Uint8Array(readFileSync(file)), file)) {
    throw new Error(`tinyusdz cannot read ${file}: ${usd.error()}`);
  }
  process.stdout.write(usd.layerToString());
  process.stdout.write('\n#end\n');
  usd.delete();
}
