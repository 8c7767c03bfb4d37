// Compares files with what was made of them, as independent programs find both (describe.mjs).
// Usage: node compare.mjs LIST      LIST is a file with lines of two paths, a tab between: the file, and what was made of it.
// Prints a JSON document for each line: { in, out, compared: [aspect], differences: [{ aspect, was, is }] }. Aspects that one of the two
// formats cannot hold are not looked at.
import { readFileSync } from 'node:fs';
import { extname } from 'node:path';
import { describe } from './describe.mjs';

const ALL = [
  'triangles', 'area', 'bounds', 'normals', 'uvs', 'uvSets', 'colours', 'materials', 'base', 'opacity', 'metallic',
  'roughness', 'emissive', 'images', 'wraps', 'placements', 'filters', 'doubleSided', 'lights', 'cameras', 'names',
  'hierarchy', 'instances', 'strengths',
];
const SURFACE = ['triangles', 'area', 'bounds'];
const without = (list, ...left) => list.filter((aspect) => !left.includes(aspect));

// three's USDLoader reads neither what is seen from both sides, nor colours of points where there is a material, nor
// instances within a layer; it keeps no names of materials, which are read off the text of .usda. Filters have no place.
const USDA = without(ALL, 'filters', 'strengths', 'doubleSided', 'colours', 'instances');
const USD = without(USDA, 'materials');

/** What the formats can hold. */
const HOLDS = {
  '.glb': ALL,
  '.gltf': ALL,
  '.usda': USDA,
  '.usdc': USD,
  '.usdz': USD,
  '.obj': [...SURFACE, 'normals', 'uvs', 'colours', 'materials', 'base', 'opacity', 'emissive', 'images', 'names'],
  '.ply': [...SURFACE, 'normals', 'uvs', 'colours'],
  '.stl': SURFACE,
  '.dae': [...SURFACE, 'normals', 'uvs', 'uvSets', 'colours', 'materials', 'base', 'emissive', 'images', 'names', 'hierarchy', 'cameras', 'lights'],
  '.fbx': [...SURFACE, 'normals', 'uvs', 'uvSets', 'colours', 'materials', 'base', 'emissive', 'images', 'names', 'hierarchy'],
  '.3ds': [...SURFACE, 'uvs', 'materials', 'base', 'images'],
  '.3mf': [...SURFACE],
};

/** The images that three's loader for a format looks for. */
const SEES = { '.obj': ['base', 'normal', 'emissive'], '.3ds': ['base'], '.dae': ['base', 'emissive'], '.fbx': ['base'] };

const close = (a, b, part = 1e-3) => Math.abs(a - b) <= part * Math.max(1e-6, Math.abs(a), Math.abs(b));
const sorted = (list) => [...list].sort();
const same = (a, b) => JSON.stringify(a) === JSON.stringify(b);
const plain = (name) => name.normalize('NFC').replace(/[^\p{L}\p{N}]+/gu, '_');

/** Materials that surfaces really have; three gives a white one without a name to those that have none. */
const isWhite = (m) => same(m.base, [1, 1, 1]) && m.roughness === 1 && !Object.keys(m.slots).length;
const named = (d) => {
  const real = d.materials.filter((m) => (d.usd ? !isWhite(m) : m.name !== '' && m.name !== 'Default_OBJ'));
  // In USD each mesh has one of its own to three.
  return d.usd ? [...new Map(real.map((m) => [JSON.stringify(m), m])).values()] : real;
};
// Materials that are alike are one to some programs and several to others.
const per = (list, f) => sorted(new Set(list.map((m) => JSON.stringify(f(m)))));
const digits = (numbers) => numbers.map((n) => Number(n.toFixed(2)));
const slots = (d, f) => sorted(new Set(named(d).flatMap((m) => Object.entries(m.slots).map(([slot, s]) => `${slot} ${f(s)}`))));

/** Each answers what an aspect is in a description; null where there is nothing to compare. */
const VALUES = {
  triangles: (d) => d.triangles,
  area: (d) => d.area,
  bounds: (d) => (d.triangles ? [...d.min, ...d.max] : null),
  normals: (d) => d.normalsAgree,
  uvs: (d) => d.uv,
  uvSets: (d) => d.uvSets,
  colours: (d) => d.colour,
  materials: (d) => sorted(new Set((d.materialNames ?? named(d).map((m) => m.name)).map(plain))),
  base: (d) => per(named(d), (m) => digits(m.base)),
  opacity: (d) => per(named(d), (m) => digits([m.opacity])),
  metallic: (d) => (named(d).every((m) => m.metallic !== null) ? per(named(d), (m) => digits([m.metallic])) : null),
  roughness: (d) => (named(d).every((m) => m.roughness !== null) ? per(named(d), (m) => digits([m.roughness])) : null),
  emissive: (d) => per(named(d), (m) => digits(m.emissive)),
  images: (d, seen) => slots(d, (s) => s.image).filter((each) => !each.endsWith('missing')).filter((each) => !seen || seen.includes(each.split(' ')[0])),
  wraps: (d) => slots(d, (s) => `${s.wrapS} ${s.wrapT}`),
  placements: (d) => slots(d, (s) => (s.transform ? JSON.stringify(digits(s.transform)) : '') + ` on ${s.uvSet}`),
  filters: (d) => slots(d, (s) => `${s.magFilter} ${s.minFilter}`),
  doubleSided: (d) => per(named(d), (m) => m.doubleSided),
  lights: (d) => d.lights,
  cameras: (d) => d.cameras,
  names: (d) => sorted(new Set(d.meshNames.map(plain))),
  hierarchy: (d) => sorted(new Set(d.parents.filter(([, above]) => above).map((pair) => pair.map(plain).join(' in ')))),
  instances: (d) => d.geometries,
  strengths: (d) => per(named(d), (m) => [m.normalScale, m.occlusionStrength]),
};

const sizes = (b) => [b[3] - b[0], b[4] - b[1], b[5] - b[2]];

/** Bounds alike: of FBX, which has a unit of its own, up to their size; of 3DS, which has Z up, up to a turn. */
function alikeBounds(was, is, from) {
  if (from === '.fbx' || from === '.3ds') {
    const [a, b] = [sorted(sizes(was)), sorted(sizes(is))].map((s) => s.map(Number).sort((x, y) => x - y));
    return a.every((n, i) => close(n / a[2], b[i] / b[2], 0.01) || Math.abs(n / a[2] - b[i] / b[2]) < 1e-3);
  }
  const large = Math.max(...sizes(was).map(Math.abs), 1e-9);
  return was.every((n, i) => Math.abs(n - is[i]) <= 2e-3 * large);
}

function alike(aspect, was, is, from) {
  switch (aspect) {
    case 'triangles':
    case 'lights':
    case 'cameras':
    case 'uvSets':
    case 'instances':
      return was === is;
    case 'area':
      return from === '.fbx' || close(was, is);
    case 'bounds':
      return was === null || is === null ? was === is : alikeBounds(was, is, from);
    case 'normals':
      return is === null || was === null || is >= Math.min(was, 0.999) - 0.01;
    case 'uvs':
      return was === null || (is !== null && was.every((n, i) => Math.abs(n - is[i]) < 2e-3));
    case 'colours':
      return was === null || (is !== null && was.every((n, i) => Math.abs(n - is[i]) < 0.01));
    case 'metallic':
    case 'roughness':
      return was === null || is === null || same(was, is);
    case 'names': {
      const left = [...is];
      return was.every((name) => {
        const at = left.findIndex((other) => other === name || other.replace(/_\d+$/, '') === name.replace(/_\d+$/, ''));
        return at >= 0 && left.splice(at, 1);
      });
    }
    case 'hierarchy':
      // What hangs on nothing may hang on the root that the format needs.
      return was.every((pair) => is.includes(pair));
    default:
      return same(was, is);
  }
}

const known = new Map();

const family = (ending) => (ending.startsWith('.usd') ? 'usd' : ending.startsWith('.gl') ? 'gltf' : ending);

async function of(file) {
  if (!known.has(file)) {
    known.set(file, { ...(await describe(file)), usd: /\.usd.$/.test(file) });
  }
  return known.get(file);
}

for (const line of readFileSync(process.argv[2], 'utf8').split('\n').filter((each) => each)) {
  const [source, made] = line.split('\t');
  const [a, b] = [await of(source), await of(made)];
  const differences = [];
  let compared = [];
  if (a.error || b.error) {
    differences.push({ aspect: 'reading', was: a.error ?? '', is: b.error ?? '' });
  } else {
    const [from, to] = [extname(source).toLowerCase(), extname(made).toLowerCase()];
    compared = ALL.filter((aspect) => HOLDS[from].includes(aspect) && HOLDS[to].includes(aspect));
    if (family(from) !== family(to)) {
      // Each has its own way of telling where an image lies.
      compared = without(compared, 'placements');
    }
    for (const aspect of compared) {
      const seen = SEES[to] && SEES[from] ? SEES[to].filter((slot) => SEES[from].includes(slot)) : (SEES[to] ?? SEES[from]);
      const [was, is] = [VALUES[aspect](a, seen), VALUES[aspect](b, seen)];
      if (!alike(aspect, was, is, from)) {
        differences.push({ aspect, was, is });
      }
    }
    if (b.errors?.length) {
      differences.push({ aspect: 'valid', was: '', is: b.errors });
    }
  }
  process.stdout.write(`${JSON.stringify({ in: source, out: made, compared, differences })}\n`);
}
process.exit(0);
