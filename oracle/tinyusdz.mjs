// Loads tinyusdz, which is built for browsers: it loads in Node when it takes itself for one.
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';

export async function loadTinyUsdz() {
  process.type = 'renderer';
  globalThis.window = globalThis;
  const require = createRequire(import.meta.url);
  const { default: load } = await import('tinyusdz');
  const wasmBinary = readFileSync(require.resolve('tinyusdz/tinyusdz.wasm'));
  const quiet = () => {};
  return load({ wasmBinary, print: quiet, printErr: quiet });
}
