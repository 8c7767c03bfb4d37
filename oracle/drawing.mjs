// Prints the closed lines of a drawing, one a line, as x y x y …; and the area that SVG's even-odd rule, or the sum of
// the DXF's outline rings by their direction, leaves to the caller.
import fs from 'node:fs';
import { DOMParser } from '@xmldom/xmldom';
import svgpath from 'svgpath';
import DxfParser from 'dxf-parser';

const file = process.argv[2];
const text = fs.readFileSync(file, 'utf8');
const lines = [];
if (file.endsWith('.svg')) {
  const svg = new DOMParser().parseFromString(text, 'image/svg+xml').documentElement;
  lines.push(`size ${parseFloat(svg.getAttribute('width'))} ${parseFloat(svg.getAttribute('height'))}`);
  for (const path of Array.from(svg.getElementsByTagName('path'))) {
    const id = path.getAttribute('id');
    let ring = [];
    svgpath(path.getAttribute('d')).abs().iterate((segment, index, x, y) => {
      if (segment[0] === 'M') ring = [segment[1], segment[2]];
      else if (segment[0] === 'L') ring.push(segment[1], segment[2]);
      else if (segment[0] === 'Z') lines.push(`${id} ${ring.join(' ')}`);
    });
  }
} else {
  const drawing = new DxfParser().parseSync(text);
  lines.push(`size ${drawing.header.$EXTMAX.x - drawing.header.$EXTMIN.x} ${drawing.header.$EXTMAX.y - drawing.header.$EXTMIN.y}`);
  for (const entity of drawing.entities) {
    if (entity.shape) lines.push(`${entity.layer.toLowerCase()} ${entity.vertices.map((v) => `${v.x} ${v.y}`).join(' ')}`);
  }
}
process.stdout.write(lines.join('\n') + '\n');
