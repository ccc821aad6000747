/** What a glTF 2.0 file holds, and what of it is let through before anything reads it: files may claim anything. */
import type { GLTF } from '@gltf-transform/core';
import { strFromU8 } from 'fflate';

const MAX_NODES = 2000;
/** Values in all accessors together, and bytes of what is packed. */
const MAX_CORNERS = 6_000_000;
const MAX_UNPACKED = 128 * 1024 * 1024;
/** Extensions that may be required: they are read, or the triangles can be read without. */
const HARMLESS =
  /^(KHR_(mesh_quantization|texture_transform|materials_\w+|lights_punctual)|EXT_(meshopt_compression|texture_webp))$/;
/** Those that the reader has to know. */
const READ = /^(KHR_mesh_quantization|KHR_texture_transform|EXT_meshopt_compression)$/;

export class Broken extends Error {}

/** The document and its binary part, of either form of file. */
export function container(b: Uint8Array): { json: GLTF.IGLTF; bin: Uint8Array<ArrayBuffer> | null } {
  const view = new DataView(b.buffer, b.byteOffset, b.byteLength);
  if (b.length < 12 || view.getUint32(0, true) !== 0x46546c67) return { json: parse(b), bin: null };
  if (view.getUint32(4, true) !== 2)
    throw new Broken(`The model is of glTF version ${view.getUint32(4, true)}: only version 2 is read.`);
  if (view.getUint32(8, true) > b.length) throw new Broken('The model is broken: its end is missing.');
  let json: GLTF.IGLTF | null = null;
  let bin: Uint8Array<ArrayBuffer> | null = null;
  for (let at = 12; at + 8 <= b.length; ) {
    const length = view.getUint32(at, true);
    const kind = view.getUint32(at + 4, true);
    if (at + 8 + length > b.length)
      throw new Broken('The model is broken: a part is not as long as it says.');
    const part = b.slice(at + 8, at + 8 + length);
    if (kind === 0x4e4f534a) json ??= parse(part);
    else if (kind === 0x004e4942) bin ??= part;
    at += 8 + length;
  }
  if (!json) throw new Broken('The model is broken: it holds no description.');
  return { json, bin };
}

function parse(b: Uint8Array): GLTF.IGLTF {
  let json: unknown;
  try {
    json = JSON.parse(strFromU8(b));
  } catch {
    throw new Broken('The file does not hold a glTF model: its description is not sound JSON.');
  }
  const version = (json as { asset?: { version?: unknown } } | null)?.asset?.version;
  if (typeof json !== 'object' || json === null || typeof version !== 'string')
    throw new Broken('The file does not hold a glTF model: it names no version.');
  if (!version.startsWith('2'))
    throw new Broken(`The model is of glTF version ${version.slice(0, 20)}: only version 2 is read.`);
  return json as GLTF.IGLTF;
}

/** Takes out what is not read, so that nothing of it is loaded; returns it in words. */
export function stripped(json: GLTF.IGLTF, readsPictures: boolean): string[] {
  const notes: string[] = [];
  const note = (n: number | undefined, one: string, many: string) => {
    if (n) notes.push(n === 1 ? one : `${n} ${many}`);
  };
  const all = json.textures?.length ?? 0;
  const kept = colourTextures(json, readsPictures);
  note(
    all - kept,
    'a texture that is no colour, or cannot be read',
    'textures that are no colours, or cannot be read',
  );
  note(
    json.skins?.length,
    'a skin (the model stands as it was bound)',
    'skins (the model stands as it was bound)',
  );
  note(json.cameras?.length, 'a camera', 'cameras');
  for (const key of ['skins', 'cameras', 'extensions'] as const) delete json[key];
  for (const n of json.nodes ?? []) {
    delete n.skin;
    delete n.camera;
    delete n.extensions;
  }
  let morphs = 0;
  for (const m of json.meshes ?? [])
    for (const p of m.primitives) {
      if (p.extensions?.['KHR_draco_mesh_compression']) throw packed('KHR_draco_mesh_compression');
      if (p.targets) morphs++;
      delete p.targets;
      delete p.extensions;
    }
  note(morphs, 'a set of morph targets', 'sets of morph targets');
  const beyond = json.extensionsRequired?.find((x) => !HARMLESS.test(x));
  if (beyond) throw packed(beyond);
  const used = [...new Set([...(json.extensionsUsed ?? []), ...(json.extensionsRequired ?? [])])];
  delete json.extensionsRequired;
  json.extensionsUsed = used.filter((x) => READ.test(x));
  return notes;
}

interface Specular {
  readonly diffuseFactor?: number[];
  readonly diffuseTexture?: GLTF.ITextureInfo;
}

/** Leaves of materials and textures what gives colours; returns how many textures are left. */
function colourTextures(json: GLTF.IGLTF, readsPictures: boolean): number {
  const textures: GLTF.ITexture[] = [];
  const images: GLTF.IImage[] = [];
  const numbers = new Map<number, number>();
  const kept = (info: GLTF.ITextureInfo | undefined): GLTF.ITextureInfo | undefined => {
    const texture = info && readsPictures ? json.textures?.[info.index] : undefined;
    if (!info || !texture) return undefined;
    let number = numbers.get(info.index);
    if (number === undefined) {
      const webp = texture.extensions?.['EXT_texture_webp'] as { source?: number } | undefined;
      const image = json.images?.[webp?.source ?? texture.source ?? -1];
      const isInside = image?.bufferView !== undefined || image?.uri?.startsWith('data:');
      if (!image || !isInside || !/^image\/(png|jpeg|webp)$/.test(typeOf(image))) return undefined;
      number = textures.length;
      numbers.set(info.index, number);
      textures.push({
        source: images.length,
        ...(texture.sampler === undefined ? {} : { sampler: texture.sampler }),
      });
      const { bufferView, uri } = image;
      images.push({
        mimeType: typeOf(image),
        ...(bufferView === undefined ? { uri } : { bufferView }),
      } as GLTF.IImage);
    }
    const moved = info.extensions?.['KHR_texture_transform'];
    return {
      index: number,
      texCoord: info.texCoord ?? 0,
      ...(moved ? { extensions: { KHR_texture_transform: moved } } : {}),
    };
  };
  json.materials = json.materials?.map((m) => {
    const specular = m.extensions?.['KHR_materials_pbrSpecularGlossiness'] as Specular | undefined;
    const plain = m.pbrMetallicRoughness;
    const texture = kept(plain?.baseColorTexture ?? specular?.diffuseTexture);
    const factor = plain?.baseColorFactor ?? specular?.diffuseFactor ?? [1, 1, 1, 1];
    return {
      name: m.name,
      doubleSided: m.doubleSided ?? false,
      alphaMode: m.alphaMode ?? 'OPAQUE',
      pbrMetallicRoughness: { baseColorFactor: factor, ...(texture ? { baseColorTexture: texture } : {}) },
    };
  }) as GLTF.IMaterial[];
  if (textures.length > 0) Object.assign(json, { textures, images });
  else {
    delete json.textures;
    delete json.images;
  }
  return numbers.size;
}

const typeOf = (image: GLTF.IImage): string =>
  image.mimeType ?? /^data:([^;,]*)/.exec(image.uri ?? '')?.[1] ?? 'image/png';

function packed(extension: string): Broken {
  return new Broken(
    `The model needs the extension ${extension.slice(0, 60)}, which is not read. Save it without.`,
  );
}

/** What the document says of its sizes, before memory is given to it. */
export function checkClaims(json: GLTF.IGLTF): void {
  const outside = json.buffers?.find((b) => b.uri !== undefined && !b.uri.startsWith('data:'));
  if (outside)
    throw new Broken(
      `The model's data lie in another file, "${String(outside.uri).slice(0, 60)}". Save it as a .glb, which holds everything.`,
    );
  let corners = 0;
  for (const a of json.accessors ?? []) {
    if (!Number.isInteger(a.count) || a.count < 0) throw new Broken('The model is broken: a count is wrong.');
    corners += a.count;
  }
  if (corners > MAX_CORNERS)
    throw new Broken(
      `The model is too fine: it holds ${corners.toLocaleString('en')} values of corners; at most ${MAX_CORNERS.toLocaleString('en')} can be read. Save a coarser one.`,
    );
  let bytes = 0;
  for (const v of json.bufferViews ?? []) {
    const packing = v.extensions?.['EXT_meshopt_compression'] as
      | { count?: number; byteStride?: number }
      | undefined;
    bytes += packing ? Math.abs((packing.count ?? 0) * (packing.byteStride ?? 0)) : 0;
  }
  if (!(bytes <= MAX_UNPACKED))
    throw new Broken('The model is broken, or larger than 128 MB when it is unpacked.');
  if ((json.nodes?.length ?? 0) > MAX_NODES)
    throw new Broken(`The model has more than ${MAX_NODES.toLocaleString('en')} nodes.`);
}
