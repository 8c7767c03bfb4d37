// Composes USD layers with tinyusdz, which is not of Pantry's making, and prints each result as text.
// Usage: node compose.mjs FILE...      Each text ends with a line of its own: "#end". Where the program gives up on a
// layer, its text is one line: "#error", and what the program says.
import { readFileSync } from 'node:fs';
import { basename, dirname, resolve } from 'node:path';
import { loadTinyUsdz } from './tinyusdz.mjs';

// Made anew for each file, and told no more than a file's own name: what the program makes of a file changes now and
// then with the length of a path and with what it read before.
let module;
const encoder = new TextEncoder();

// A layer of either format as text.
function asText(bytes, file) {
  if (new TextDecoder().decode(bytes.subarray(0, 8)) !== 'PXR-USDC') {
    return new TextDecoder().decode(bytes);
  }
  const usd = new module.TinyUSDZLoaderNative();
  if (!usd.loadAsLayerFromBinary(bytes, basename(file))) {
    throw new Error(`tinyusdz cannot read ${file}: ${usd.error()}`);
  }
  const text = usd.layerToString();
  usd.delete();
  return text;
}

// Composes a layer. The program follows nothing from what was itself brought in; so each layer that is named is
// composed by it first, and handed over in that form.
function compose(file, composed, underway) {
  if (composed.has(file)) {
    return composed.get(file);
  }
  if (underway.includes(file)) {
    throw new Error(`${file} brings in itself`);
  }
  const bytes = new Uint8Array(readFileSync(file));
  const usd = new module.TinyUSDZLoaderNative();
  for (const [, named] of asText(bytes, file).matchAll(/@([^@]+\.usd[ac]?)@/g)) {
    const inner = compose(resolve(dirname(file), named), composed, [...underway, file]);
    usd.setAsset(named, encoder.encode(inner));
  }
  if (!usd.loadAsLayerFromBinary(bytes, basename(file))) {
    throw new Error(`tinyusdz cannot read ${file}: ${usd.error()}`);
  }
  const arcs = [
    ['sublayers', () => usd.extractSublayerAssetPaths().length > 0, () => usd.composeSublayers()],
    ['references', () => usd.hasReferences(), () => usd.composeReferences()],
    ['payloads', () => usd.hasPayload(), () => usd.composePayload()],
    ['inherits', () => usd.hasInherits(), () => usd.composeInherits()],
  ];
  // Variants are composed last, since whoever brings a layer in may select others; and what they bring in after them.
  const variants = ['variants', () => usd.layerToString().includes('variantSet '), () => usd.composeVariants()];
  const outermost = underway.length === 0;
  for (const [what, needed, step] of outermost ? [...arcs, variants, ...arcs.slice(1)] : arcs) {
    if (needed() && !step()) {
      throw new Error(`${what} of ${file}: ${usd.error()}`);
    }
  }
  const text = usd.layerToString();
  composed.set(file, text);
  usd.delete();
  return text;
}

for (const file of process.argv.slice(2)) {
  module = await loadTinyUsdz();
  try {
    process.stdout.write(compose(resolve(file), new Map(), []));
  } catch (e) {
    process.stdout.write(`#error ${String(e.message ?? e).replaceAll('\n', ' ')}`);
  }
  process.stdout.write('\n#end\n');
}
