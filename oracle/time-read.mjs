// Reads a layer with tinyusdz, which is not of Pantry's making, and prints the seconds that it took, without its start.
// Usage: node time-read.mjs FILE
import { readFileSync } from 'node:fs';
import { loadTinyUsdz } from './tinyusdz.mjs';

const module = await loadTinyUsdz();
const bytes = new Uint8Array(readFileSync(process.argv[2]));
const usd = new module.TinyUSDZLoaderNative();
const start = process.hrtime.bigint();
if (!usd.loadAsLayerFromBinary(bytes, process.argv[2])) {
  throw new Error(usd.error());
}
process.stdout.write(String(Number(process.hrtime.bigint() - start) / 1e9));
