// Writes an OpenEXR image (half floats, ZIP) with three's exporter, which is not of Pantry's making: red goes from 0 to 2 from
// left to right, green from 0 to 1 from bottom to top, blue is 0.25, alpha 1.
// Usage: node write-exr.mjs FILE SIZE [zips|none]
import { writeFile } from 'node:fs/promises';

const three = await import('three');
const { EXRExporter, NO_COMPRESSION, ZIP_COMPRESSION, ZIPS_COMPRESSION } = await import(
  'three/examples/jsm/exporters/EXRExporter.js'
);
const [, , file, sized, packed] = process.argv;
const size = Number(sized);
const data = new Float32Array(4 * size * size);
for (let y = 0; y < size; y++) {
  for (let x = 0; x < size; x++) {
    const at = 4 * (y * size + x);
    data[at] = (2 * x) / (size - 1);
    data[at + 1] = y / (size - 1);
    data[at + 2] = 0.25;
    data[at + 3] = 1;
  }
}
const texture = new three.DataTexture(data, size, size, three.RGBAFormat, three.FloatType);
const compression = packed === 'none' ? NO_COMPRESSION : packed === 'zips' ? ZIPS_COMPRESSION : ZIP_COMPRESSION;
await writeFile(file, await new EXRExporter().parse(texture, { type: three.HalfFloatType, compression }));
