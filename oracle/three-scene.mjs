// Reads a file with the loader that three has for it, which is not of Pantry's making. Loaders are built for browsers;
// what they ask of one is stood in for here, so that images are not decoded but kept as bytes.
import { readFileSync } from 'node:fs';
import { dirname, extname, resolve } from 'node:path';
import { DOMParser } from 'linkedom';

// What the loaders say besides is not asked for, and would stand among the results.
for (const quiet of ['warn', 'log', 'info', 'debug', 'error']) {
  console[quiet] = () => {};
}

const blobs = new Map();

globalThis.self = globalThis;
globalThis.window = globalThis;
globalThis.DOMParser = DOMParser;
globalThis.XMLSerializer ??= class {
  serializeToString = (node) => String(node);
};
globalThis.document = { createElementNS: () => new Picture(), createElement: () => new Picture() };
globalThis.URL.createObjectURL = (blob) => {
  const url = `blob:${blobs.size}`;
  blobs.set(url, blob);
  return url;
};
globalThis.URL.revokeObjectURL = () => {};

/** Stands in for an image element: it knows where it is from, and is there at once. */
class Picture {
  width = 1;
  height = 1;
  listeners = [];
  addEventListener(name, listener) {
    if (name === 'load') {
      this.listeners.push(listener);
    }
  }
  removeEventListener(name, listener) {
    this.listeners = this.listeners.filter((each) => each !== listener);
  }
  set src(url) {
    this.from = url;
    queueMicrotask(() => this.listeners.forEach((listener) => listener.call(this)));
  }
  get src() {
    return this.from;
  }
}

/** The bytes of a texture's image; undefined where they are not there. */
export async function imageBytes(texture) {
  const url = texture.image?.src ?? texture.image?.from ?? texture.userData?.url;
  if (!url) {
    return undefined;
  }
  if (blobs.has(url)) {
    return Buffer.from(await blobs.get(url).arrayBuffer());
  }
  if (url.startsWith('data:')) {
    return Buffer.from(url.slice(url.indexOf(',') + 1), 'base64');
  }
  try {
    return readFileSync(decodeURIComponent(url));
  } catch {
    return undefined;
  }
}

const loaders = {
  '.obj': async (three, file) => {
    const { OBJLoader } = await import('three/examples/jsm/loaders/OBJLoader.js');
    const { MTLLoader } = await import('three/examples/jsm/loaders/MTLLoader.js');
    const text = readFileSync(file, 'utf8');
    const library = text.match(/^mtllib (.*)$/m)?.[1].trim();
    const loader = new OBJLoader();
    if (library) {
      const folder = `${dirname(file)}/`;
      const materials = new MTLLoader().setResourcePath(folder).parse(readFileSync(resolve(folder, library), 'utf8'), folder);
      materials.preload();
      loader.setMaterials(materials);
    }
    return loader.parse(text);
  },
  '.ply': async (three, file) => {
    const { PLYLoader } = await import('three/examples/jsm/loaders/PLYLoader.js');
    return mesh(three, new PLYLoader().parse(bytes(file)));
  },
  '.stl': async (three, file) => {
    const { STLLoader } = await import('three/examples/jsm/loaders/STLLoader.js');
    return mesh(three, new STLLoader().parse(bytes(file)));
  },
  '.dae': async (three, file) => {
    const { ColladaLoader } = await import('three/examples/jsm/loaders/ColladaLoader.js');
    return new ColladaLoader().parse(readFileSync(file, 'utf8'), `${dirname(file)}/`).scene;
  },
  '.fbx': async (three, file) => {
    const { FBXLoader } = await import('three/examples/jsm/loaders/FBXLoader.js');
    return new FBXLoader().parse(bytes(file), `${dirname(file)}/`);
  },
  '.3ds': async (three, file) => {
    const { TDSLoader } = await import('three/examples/jsm/loaders/TDSLoader.js');
    return new TDSLoader().setResourcePath(`${dirname(file)}/`).parse(bytes(file), `${dirname(file)}/`);
  },
  '.3mf': async (three, file) => {
    const { ThreeMFLoader } = await import('three/examples/jsm/loaders/3MFLoader.js');
    return new ThreeMFLoader().parse(bytes(file));
  },
  '.usda': usd,
  '.usdc': usd,
  '.usdz': usd,
  '.glb': gltf,
  '.gltf': gltf,
};

async function usd(three, file) {
  const { USDLoader } = await import('three/examples/jsm/loaders/USDLoader.js');
  const loader = new USDLoader();
  return loader.parse(bytes(file), `${dirname(file)}/`);
}

async function gltf(three, file) {
  const { GLTFLoader } = await import('three/examples/jsm/loaders/GLTFLoader.js');
  const manager = new three.LoadingManager();
  // Buffers beside the file are read as they are named.
  manager.setURLModifier((url) => url);
  const loader = new GLTFLoader(manager);
  three.FileLoader.prototype.load = function (url, done, progress, failed) {
    try {
      done(url.startsWith('data:') ? ofData(url) : bytes(decodeURIComponent(url)));
    } catch (e) {
      failed?.(e);
    }
  };
  const data = extname(file) === '.glb' ? bytes(file) : readFileSync(file, 'utf8');
  const result = await loader.parseAsync(data, `${dirname(file)}/`);
  result.scene.animations = result.animations;
  return result.scene;
}

function ofData(url) {
  const read = Buffer.from(url.slice(url.indexOf(',') + 1), 'base64');
  return read.buffer.slice(read.byteOffset, read.byteOffset + read.byteLength);
}

function bytes(file) {
  const read = readFileSync(file);
  return read.buffer.slice(read.byteOffset, read.byteOffset + read.byteLength);
}

function mesh(three, geometry) {
  return new three.Mesh(geometry, new three.MeshStandardMaterial({ name: '' }));
}

/** The scene in a file, its places computed. */
export async function sceneOf(file) {
  const three = await import('three');
  const read = loaders[extname(file).toLowerCase()];
  if (!read) {
    throw new Error(`three has no loader for ${file}`);
  }
  const scene = await read(three, file);
  await new Promise((done) => setTimeout(done, 0));
  scene.updateMatrixWorld(true);
  return scene;
}
