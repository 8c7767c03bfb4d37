// Composes a USD text layer with tinyusdz, which is not of Pantry's making, and prints the result as text.
// Usage: node compose.mjs FILE
import { readFileSync } from 'node:fs';
import { dirname, resolve } from 'node:path';
import { createRequire } from 'node:module';

// The module is built for browsers: it loads in Node when it takes itself for one.
process.type = 'renderer';
globalThis.window = globalThis;
const require = createRequire(import.meta.url);
const { default: load } = await import('tinyusdz');
const wasmBinary = readFileSync(require.resolve('tinyusdz/tinyusdz.wasm'));
const quiet = () => {};
const module = await load({ wasmBinary, print: quiet, printErr: quiet });

const encoder = new TextEncoder();
const composed = new Map();

// A layer with its references and payloads composed, as text. The program follows no reference from a prim that was
// itself referenced; so each layer that is named is composed by it first, and handed over in that form.
function compose(file) {
  if (!composed.has(file)) {
    const text = readFileSync(file, 'utf8');
    const usd = new module.TinyUSDZLoaderNative();
    for (const [, named] of text.matchAll(/(?:references|payload)\s*=\s*@([^@]+)@/g)) {
      usd.setAsset(named, encoder.encode(compose(resolve(dirname(file), named))));
    }
    if (!usd.loadAsLayerFromBinary(encoder.encode(text), file)) {
      throw new Error(`tinyusdz cannot read ${file}: ${usd.error()}`);
    }
    if (usd.hasReferences() && !usd.composeReferences()) {
      throw new Error(`references of ${file}: ${usd.error()}`);
    }
    if (usd.hasPayload() && !usd.composePayload()) {
      throw new Error(`payloads of ${file}: ${usd.error()}`);
    }
    composed.set(file, usd.layerToString());
    usd.delete();
  }
  return composed.get(file);
}

process.stdout.write(compose(resolve(process.argv[2])));
