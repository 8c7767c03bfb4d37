// Tells what independent programs find in a file: three's loaders, and of glTF glTF-Transform and the Khronos validator.
// Colours are the numbers that the file has. Texture coordinates run upwards.
import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { extname } from 'node:path';
import { NodeIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import validator from 'gltf-validator';
import { imageBytes, sceneOf } from './three-scene.mjs';

const { Color, Matrix3, Vector3 } = await import('three');

const sum = (bytes) => (bytes ? createHash('sha256').update(bytes).digest('hex') : 'missing');
const round = (numbers) => numbers.map((n) => Number(n.toPrecision(6)));

// three's names of images, and what they drive.
const SLOTS = {
  map: 'base',
  normalMap: 'normal',
  metalnessMap: 'metallic',
  roughnessMap: 'roughness',
  emissiveMap: 'emissive',
  aoMap: 'occlusion',
  alphaMap: 'opacity',
};
const WRAPS = { 1000: 'repeat', 1001: 'clamp', 1002: 'mirror' };

async function slot(texture) {
  return {
    transform: [...texture.offset.toArray(), texture.rotation, ...texture.repeat.toArray()],
    image: sum(await imageBytes(texture)),
    uvSet: texture.channel ?? 0,
    wrapS: WRAPS[texture.wrapS],
    wrapT: WRAPS[texture.wrapT],
  };
}

// three takes the colours of these formats for display colours, and makes them linear; the file's own numbers are told.
const AS_DISPLAY = /\.(obj|dae|fbx)$/i;

const raw = (colour, file) => (AS_DISPLAY.test(file) ? colour.clone().convertLinearToSRGB() : colour);

async function material(m, file) {
  const slots = {};
  for (const [name, what] of Object.entries(SLOTS)) {
    if (m[name]) {
      slots[what] = await slot(m[name]);
    }
  }
  return {
    name: m.name ?? '',
    base: m.color ? round(raw(m.color, file).toArray()) : [1, 1, 1],
    opacity: round([m.opacity])[0],
    metallic: m.metalness ?? null,
    roughness: m.roughness ?? null,
    emissive: m.emissive ? round(raw(new Color().copy(m.emissive).multiplyScalar(m.emissiveIntensity ?? 1), file).toArray()) : [0, 0, 0],
    doubleSided: m.side === 2,
    slots,
  };
}

/** Measures of one mesh where it stands, added to the sums. */
function measure(mesh, total) {
  const geometry = mesh.geometry;
  const position = geometry.getAttribute('position');
  const normal = geometry.getAttribute('normal');
  const uv = geometry.getAttribute('uv');
  const colour = geometry.getAttribute('color');
  const index = geometry.index;
  const count = (index ?? position)?.count ?? 0;
  const [a, b, c] = [new Vector3(), new Vector3(), new Vector3()];
  const n = new Vector3();
  const face = new Vector3();
  const turn = new Matrix3().getNormalMatrix(mesh.matrixWorld);
  const mirrored = mesh.matrixWorld.determinant() < 0;
  for (let i = 0; i + 2 < count; i += 3) {
    const corner = [0, 1, 2].map((k) => (index ? index.getX(i + k) : i + k));
    [a, b, c].forEach((p, k) => p.fromBufferAttribute(position, corner[k]).applyMatrix4(mesh.matrixWorld));
    face.copy(b).sub(a).cross(c.clone().sub(a));
    total.triangles++;
    total.area += face.length() / 2;
    [a, b, c].forEach((p) => {
      total.min.min(p);
      total.max.max(p);
    });
    if (normal && face.length() > 1e-12) {
      const mean = new Vector3();
      corner.forEach((k) => mean.add(n.fromBufferAttribute(normal, k)));
      const agrees = mean.applyMatrix3(turn).dot(face) * (mirrored ? -1 : 1) > 0;
      total.judged++;
      total.agree += agrees ? 1 : 0;
    }
    if (uv) {
      corner.forEach((k) => {
        const v = total.downwards ? 1 - uv.getY(k) : uv.getY(k);
        total.uvMin = [Math.min(total.uvMin[0], uv.getX(k)), Math.min(total.uvMin[1], v)];
        total.uvMax = [Math.max(total.uvMax[0], uv.getX(k)), Math.max(total.uvMax[1], v)];
      });
    }
    if (colour) {
      corner.forEach((k) => {
        const told = new Color(colour.getX(k), colour.getY(k), colour.getZ(k));
        (total.display ? told.convertLinearToSRGB() : told).toArray().forEach((v, axis) => (total.colour[axis] += v));
        total.coloured++;
      });
    }
  }
  const sets = ['uv', 'uv1', 'uv2', 'uv3'].filter((name) => geometry.getAttribute(name)).length;
  total.uvSets = Math.max(total.uvSets, sets);
}

/** What is in a file; { error } where it cannot be read. */
export async function describe(file) {
  try {
    return await described(file);
  } catch (e) {
    return { error: String(e?.message ?? e) };
  }
}

async function described(file) {
  const scene = await sceneOf(file);
  const total = {
    downwards: /\.gl(b|tf)$/i.test(file),
    // Of OBJ, where those of points are display colours by common practice, it is what they are that is told.
    display: /\.(fbx|dae)$/i.test(file),
    triangles: 0,
    area: 0,
    min: new Vector3(Infinity, Infinity, Infinity),
    max: new Vector3(-Infinity, -Infinity, -Infinity),
    judged: 0,
    agree: 0,
    uvMin: [Infinity, Infinity],
    uvMax: [-Infinity, -Infinity],
    uvSets: 0,
    colour: [0, 0, 0],
    coloured: 0,
  };
  const names = [];
  const meshNames = [];
  const parents = [];
  const geometries = new Set();
  const materials = new Map();
  let meshes = 0;
  let lights = 0;
  let cameras = 0;
  const objects = [];
  scene.traverse((object) => objects.push(object));
  for (const object of objects) {
    if (object.isMesh) {
      meshes++;
      geometries.add(object.geometry);
      // A mesh of several materials is several meshes below the object to three.
      const name = object.name || object.parent?.name || '';
      meshNames.push(name);
      let above = object.parent;
      while (above && (!above.name || above.name === name)) {
        above = above.parent;
      }
      parents.push([name, above?.name ?? '']);
      measure(object, total);
      for (const m of [object.material].flat()) {
        if (m && !materials.has(m)) {
          materials.set(m, await material(m, file));
        }
      }
    }
    lights += object.isLight ? 1 : 0;
    cameras += object.isCamera ? 1 : 0;
    if (object.name && object !== scene) {
      names.push(object.name);
    }
  }
  const result = {
    triangles: total.triangles,
    area: total.area,
    min: total.min.toArray(),
    max: total.max.toArray(),
    normalsAgree: total.judged ? total.agree / total.judged : null,
    uvSets: total.uvSets,
    uv: total.uvSets ? [...total.uvMin, ...total.uvMax] : null,
    colour: total.coloured ? total.colour.map((c) => c / total.coloured) : null,
    meshes,
    geometries: geometries.size,
    lights,
    cameras,
    names: names.sort(),
    meshNames,
    parents,
    materials: [...materials.values()],
  };
  if (file.endsWith('.usda')) {
    fromText(readFileSync(file, 'utf8'), result);
  }
  if (/\.gl(b|tf)$/i.test(file)) {
    Object.assign(result, await gltf(file));
  }
  return result;
}

/** What three leaves out of a layer, read off its text: names as people see them, and those of materials. */
function fromText(text, result) {
  const shown = new Map();
  for (const [, name, metadata] of text.matchAll(/def \w+ "([^"]+)" \(([^)]*)\)/g)) {
    const title = metadata.match(/displayName = "([^"]*)"/);
    if (title) {
      shown.set(name, title[1]);
    }
  }
  const title = (name) => shown.get(name) ?? name;
  result.meshNames = result.meshNames.map(title);
  result.parents = result.parents.map((pair) => pair.map(title));
  result.materialNames = [...text.matchAll(/def Material "([^"]+)"/g)].map(([, name]) => title(name));
}

/** What glTF-Transform and the validator say beyond what three keeps. */
async function gltf(file) {
  const resources = extname(file) === '.gltf' ? { externalResourceFunction: resource(file) } : {};
  const report = await validator.validateBytes(new Uint8Array(readFileSync(file)), { maxIssues: 20, ...resources });
  const document = await new NodeIO().registerExtensions(ALL_EXTENSIONS).read(file);
  const root = document.getRoot();
  const use = (texture, info) =>
    texture && {
      image: sum(texture.getImage()),
      uvSet: info.getTexCoord(),
      wrapS: { 33071: 'clamp', 33648: 'mirror' }[info.getWrapS()] ?? 'repeat',
      wrapT: { 33071: 'clamp', 33648: 'mirror' }[info.getWrapT()] ?? 'repeat',
      magFilter: info.getMagFilter(),
      minFilter: info.getMinFilter(),
      transform: transform(info),
    };
  const used = new Set(
    root.listMeshes().flatMap((mesh) => mesh.listPrimitives().map((primitive) => primitive.getMaterial())),
  );
  const all = root.listMaterials().filter((m) => used.has(m)).map((m) => {
    const slots = {
      base: use(m.getBaseColorTexture(), m.getBaseColorTextureInfo()),
      metallic: use(m.getMetallicRoughnessTexture(), m.getMetallicRoughnessTextureInfo()),
      roughness: use(m.getMetallicRoughnessTexture(), m.getMetallicRoughnessTextureInfo()),
      normal: use(m.getNormalTexture(), m.getNormalTextureInfo()),
      occlusion: use(m.getOcclusionTexture(), m.getOcclusionTextureInfo()),
      emissive: use(m.getEmissiveTexture(), m.getEmissiveTextureInfo()),
    };
    Object.keys(slots).forEach((key) => slots[key] ?? delete slots[key]);
    return {
      name: m.getName(),
      base: round(m.getBaseColorFactor().slice(0, 3)),
      opacity: round([m.getBaseColorFactor()[3]])[0],
      metallic: m.getMetallicFactor(),
      roughness: m.getRoughnessFactor(),
      emissive: round(m.getEmissiveFactor().map((n) => n * (m.getExtension('KHR_materials_emissive_strength')?.getEmissiveStrength() ?? 1))),
      doubleSided: m.getDoubleSided(),
      alpha: m.getAlphaMode(),
      normalScale: m.getNormalScale(),
      occlusionStrength: m.getOcclusionStrength(),
      slots,
    };
  });
  return {
    errors: report.issues.messages.filter((m) => m.severity === 0).map((m) => `${m.code}: ${m.message} (${m.pointer})`),
    materials: all,
    cameras: root.listCameras().length,
    meshNames: root.listNodes().filter((node) => node.getMesh()).map((node) => node.getName()),
    geometries: root.listMeshes().length,
  };
}

function transform(info) {
  const found = info.getExtension('KHR_texture_transform');
  return found
    ? [...found.getOffset(), found.getRotation(), ...found.getScale()]
    : [0, 0, 0, 1, 1];
}

function resource(file) {
  const folder = file.slice(0, file.lastIndexOf('/') + 1);
  return async (uri) => new Uint8Array(readFileSync(folder + decodeURIComponent(uri)));
}
