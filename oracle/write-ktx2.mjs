// Writes a KTX 2.0 texture of plain pixels and two levels with ktx-parse, which is not of Pantry's making: red is x, green is
// y from the top, blue is 200, alpha 255.
// Usage: node write-ktx2.mjs FILE SIZE
import { writeFile } from 'node:fs/promises';
import { createDefaultContainer, VK_FORMAT_R8G8B8A8_SRGB, write } from 'ktx-parse';

const [, , file, sized] = process.argv;
const size = Number(sized);
const level = (edge) => {
  const data = new Uint8Array(4 * edge * edge);
  for (let y = 0; y < edge; y++) {
    for (let x = 0; x < edge; x++) {
      data.set([(x * size) / edge, (y * size) / edge, 200, 255], 4 * (y * edge + x));
    }
  }
  return { levelData: data, uncompressedByteLength: data.byteLength };
};
const container = createDefaultContainer();
container.vkFormat = VK_FORMAT_R8G8B8A8_SRGB;
container.pixelWidth = size;
container.pixelHeight = size;
container.levels = [level(size), level(size / 2)];
container.levelCount = 2;
const described = container.dataFormatDescriptor[0];
described.colorModel = 1;
described.transferFunction = 2;
described.bytesPlane = [4, 0, 0, 0, 0, 0, 0, 0];
described.samples = [0, 1, 2, 15].map((channelType, i) => ({
  bitOffset: 8 * i,
  bitLength: 7,
  channelType,
  samplePosition: [0, 0, 0, 0],
  sampleLower: 0,
  sampleUpper: 255,
}));
await writeFile(file, write(container));
