// Prints the Stanford bunny of the bunny package: counts, then a point a line, then a triangle a line.
import bunny from 'bunny';

const lines = [`${bunny.positions.length} ${bunny.cells.length}`];
for (const p of bunny.positions) lines.push(p.join(' '));
for (const c of bunny.cells) lines.push(c.join(' '));
process.stdout.write(lines.join('\n') + '\n');
