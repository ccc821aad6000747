/** Reads a file away from the page, so that it never freezes; the page ends the worker to cancel. */
import { type IdKind, newId, type Result } from '@apple-tick/core/base';
import { MAX_TEXT, readPiece, tooLarge } from '@apple-tick/core/check';
import {
  type ElementOf,
  fileKind,
  type GltfSeen,
  importGltf,
  importSvg,
  isZip,
  markBrought,
  type NewerPlan,
  planNewer,
  readTickpack,
  type SvgPart,
  type SvgSeen,
  soundType,
  type Uses,
} from '@apple-tick/core/formats';
import {
  type Asset,
  type BroughtFile,
  type Clip,
  defaultBase,
  isFile,
  type Look,
  type Piece,
  PieceStore,
  type SceneObject,
} from '@apple-tick/core/model';
import { expose } from 'comlink';
import {
  decodedPicture,
  no,
  type PictureFound,
  pixelsOf,
  readPicture,
  sha256,
  smallerPicture,
} from './read-picture.ts';

export type ReadJob =
  | { readonly as: 'piece'; readonly file: File }
  | {
      readonly as: 'things';
      readonly file: File;
      /** Ids that the piece has: new ones must differ. */
      readonly known: readonly string[];
      readonly room: { readonly width: number; readonly height: number };
      /** How the older version was read that it is to lie over. */
      readonly seen?: readonly number[] | undefined;
      /** Of a picture: kept as large as it is. */
      readonly whole?: boolean;
      /** Of a model: at most so many triangles. */
      readonly faces?: number | undefined;
    };
/** Bytes to keep before the piece that needs them is opened or changed. */
export interface KeptBytes {
  readonly hash: string;
  readonly bytes: ArrayBuffer;
}
export interface ReadPieceFile {
  readonly piece: Piece;
  readonly bytes: readonly KeptBytes[];
}
export interface ReadThings {
  /** Parents before children; the first holds all. None when a sound was read. */
  readonly objects: readonly SceneObject[];
  readonly assets: readonly Asset[];
  /** Of a drawing: copies of its symbols. */
  readonly uses?: readonly Uses[];
  /** Of a model that moves. */
  readonly clips?: readonly Clip[];
  /** Of a model: the triangles that its file draws, and those that are left. */
  readonly faces?: { readonly had: number; readonly has: number };
  readonly bytes: readonly KeptBytes[];
  /** What only the page can paint: an SVG that becomes the picture of the asset with this id. */
  readonly parts: readonly SvgPart[];
  /** In words, what was left out. */
  readonly notes: readonly string[];
  /** The file; how its px became those of the piece; what is known of its elements, by the ids of their objects. */
  readonly file: Pick<BroughtFile, 'name' | 'hash' | 'seen' | 'scaledFrom' | 'faces'>;
  readonly elements: ReadonlyMap<string, ElementOf>;
}

const MB = 1024 * 1024;
/** Larger pictures would make a piece that nothing can work with. */
const MAX_SVG = 16 * MB;
const MAX_PICTURE = 32 * MB;
const MAX_MODEL = 32 * MB;
const MAX_SOUND = 16 * MB;
const MAX_PACK = 256 * MB;

/** What the page asks of this worker. */
const reader = {
  read: (job: ReadJob): Promise<Result<ReadPieceFile | ReadThings>> =>
    job.as === 'piece' ? readPieceFile(job.file) : readThings(job),
  /** What was read, with what is known of its file on each object. */
  marked: ({ objects, assets, file, notes, elements }: ReadThings): SceneObject[] =>
    markBrought(
      objects,
      assets,
      crypto.randomUUID().slice(0, 13),
      { ...file, notes: notes.map((n) => n.slice(0, 1000)).slice(0, 500) },
      elements,
    ),
  /** What it would change of the drawing that `root` holds, in the template `scope` or in the piece itself. */
  newer: (piece: Piece, scope: string | null, root: string, things: ReadThings): NewerPlan => {
    const store = new PieceStore(piece);
    store.enter(scope);
    return planNewer(store, root, things);
  },
  /** What the page has painted of a part, as an asset with its id. */
  picture: (bytes: ArrayBuffer, id: string, name: string): Promise<Result<PictureFound>> =>
    readPicture(bytes, id, name),
};
export type Reader = typeof reader;
expose(reader);

async function readPieceFile(file: File): Promise<Result<ReadPieceFile>> {
  const start = new Uint8Array(await file.slice(0, 4).arrayBuffer());
  if (!isZip(start)) {
    if (file.size > MAX_TEXT) return { ok: false, problems: [tooLarge()] };
    const r = readPiece(await file.text());
    return r.ok ? { ok: true, value: { piece: r.value, bytes: [] } } : r;
  }
  if (file.size > MAX_PACK) return no('The file is larger than 256 MB.');
  const r = readTickpack(new Uint8Array(await file.arrayBuffer()));
  if (!r.ok) return r;
  const { piece, files } = r.value;
  const bytes: KeptBytes[] = [];
  const assets: Record<string, Asset> = {};
  for (const a of Object.values(piece.assets)) {
    const packed = isFile(a) ? files.get(a.id) : undefined;
    // One that the file lacks, too, is told where the piece is opened, like any that this browser lacks.
    if (!isFile(a) || !packed) {
      assets[a.id] = a;
      continue;
    }
    const own = packed.slice().buffer;
    const hash = await sha256(own);
    // What the document says of its files is not taken on trust.
    assets[a.id] = { ...a, hash };
    bytes.push({ hash, bytes: own });
  }
  return { ok: true, value: { piece: { ...piece, assets }, bytes } };
}

type ThingsJob = Extract<ReadJob, { as: 'things' }>;

/** What a reader makes of a file, before the file itself is known. */
type Read = Omit<ReadThings, 'file' | 'elements'> &
  Partial<Pick<ReadThings, 'elements'>> & { seen?: readonly number[]; scaledFrom?: [number, number] };

async function readThings(job: ThingsJob): Promise<Result<ReadThings>> {
  const r = await readContents(job);
  if (!r.ok) return r;
  const { seen, elements = new Map(), scaledFrom, ...things } = r.value;
  const hash = await sha256(await job.file.arrayBuffer());
  const file = {
    name: job.file.name.slice(0, 200),
    hash,
    ...(seen ? { seen: [...seen] } : {}),
    ...(scaledFrom ? { scaledFrom } : {}),
    ...(job.faces !== undefined && things.faces ? { faces: job.faces } : {}),
  };
  return { ok: true, value: { ...things, elements, file } };
}

async function readContents(job: ThingsJob): Promise<Result<Read>> {
  const { file, seen } = job;
  const taken = new Set(job.known);
  const fresh = (kind: IdKind) => {
    const id = newId(kind, (x) => taken.has(x), Math.random);
    taken.add(id);
    return id;
  };
  if (/\.svg$/i.test(file.name) || file.type === 'image/svg+xml') {
    if (file.size > MAX_SVG) return no('The picture is larger than 16 MB.');
    const r = importSvg(await file.text(), stem(file), fresh, job.room, {
      paintsParts: true,
      seen: seen as SvgSeen | undefined,
    });
    if (!r.ok) return r;
    const { pictures, ...read } = r.value;
    const found: PictureFound[] = [];
    for (const { id, name, bytes } of pictures) {
      const one = await readPicture(bytes.slice().buffer, id, name);
      if (!one.ok) return no(`A picture in the drawing is broken: ${one.problems[0]?.message ?? ''}`);
      found.push(one.value);
    }
    const value = {
      ...read,
      assets: found.map((x) => x.asset),
      bytes: found.map((x) => x.kept),
    };
    return { ok: true, value };
  }
  if (/\.(glb|gltf)$/i.test(file.name) || file.type.startsWith('model/gltf')) {
    if (file.size > MAX_MODEL) return no('The model is larger than 32 MB.');
    const options = { seen: seen as GltfSeen | undefined, faces: job.faces, decode: pixelsOf };
    const r = await importGltf(
      new Uint8Array(await file.arrayBuffer()),
      stem(file),
      fresh,
      job.room,
      options,
    );
    return r.ok ? { ok: true, value: { ...r.value, bytes: [], parts: [] } } : r;
  }
  const start = new Uint8Array(await file.slice(0, 16).arrayBuffer());
  const audio = soundType(start);
  if (audio) {
    if (file.size > MAX_SOUND) return no('The sound is larger than 16 MB.');
    const bytes = await file.arrayBuffer();
    const hash = await sha256(bytes);
    // How long it is, and whether it is sound at all, only the page can tell: workers decode none.
    const asset: Asset = {
      id: fresh('assets'),
      name: stem(file),
      kind: 'sound',
      mime: audio,
      seconds: 0,
      hash,
    };
    return {
      ok: true,
      value: { objects: [], assets: [asset], bytes: [{ hash, bytes }], notes: [], parts: [] },
    };
  }
  if (file.size > MAX_PICTURE) return no('The picture is larger than 32 MB.');
  return readPictures(await file.arrayBuffer(), start, stem(file), fresh, job);
}

/** Px of a picture for each px of the frame, for screens that are so fine and pictures that are made larger; and the fewest. */
const FINER = 2;
const LEAST_SIDE = 2048;

/** A picture as an object; of one that moves each picture is a look, and its motion a clip. */
async function readPictures(
  bytes: ArrayBuffer,
  start: Uint8Array,
  name: string,
  fresh: (kind: IdKind) => string,
  { room, whole }: ThingsJob,
): Promise<Result<Read>> {
  const decoded = await decodedPicture(bytes, start);
  if (!decoded.ok) return decoded;
  const { notes } = decoded.value;
  let { frames } = decoded.value;
  const side = Math.max(LEAST_SIDE, FINER * Math.max(room.width, room.height));
  const [only] = frames;
  const smaller = !whole && only && frames.length === 1 ? await smallerPicture(only.png, side) : null;
  if (smaller && only) frames = [{ ...only, png: smaller.bytes }];
  const found: PictureFound[] = [];
  const shown: { readonly look: string; readonly seconds: number }[] = [];
  const looks: Look[] = [];
  for (const { png, seconds } of frames) {
    const read = await readPicture(png, fresh('assets'), name);
    if (!read.ok) return read.problems[0]?.message.includes('is not a') ? no(unknown(start)) : read;
    const { kept } = read.value;
    let n = found.findIndex((x) => x.kept.hash === kept.hash);
    if (n < 0) {
      n = found.length;
      found.push(read.value);
      if (n > 0) looks.push({ id: fresh('looks'), name: `picture ${n + 1}`, asset: read.value.asset.id });
    }
    shown.push({ look: n === 0 ? '' : (looks[n - 1]?.id ?? ''), seconds });
  }
  const { asset } = found[0] as PictureFound;
  const { width, height } = asset;
  const k = Math.min(1, room.width / width, room.height / height);
  const object: SceneObject = {
    id: fresh('objects'),
    name: asset.name,
    parent: null,
    order: 'a0',
    tags: [],
    hint: '',
    base: { ...defaultBase(), fill: '#dcd1bd' },
    kind: 'image',
    asset: asset.id,
    size: [width * k, height * k],
    pixel: false,
    ...(looks.length > 0 ? { looks } : {}),
  };
  const assets = found.map((x) => x.asset);
  const value = {
    ...{ objects: [object], assets, bytes: found.map((x) => x.kept), notes, parts: [] },
    ...(smaller ? { scaledFrom: smaller.from } : {}),
  };
  const clips = looks.length > 0 ? [motionOf(object.id, name, shown, fresh)] : [];
  return { ok: true, value: { ...value, clips } };
}

/** A clip that puts on one look after the other, again and again. */
function motionOf(
  object: string,
  name: string,
  shown: readonly { readonly look: string; readonly seconds: number }[],
  fresh: (kind: IdKind) => string,
): Clip {
  let t = 0;
  const keys = shown.flatMap(({ look, seconds }, i) => {
    const key = { t: Math.round(t * 1000) / 1000, value: look, easing: 'hold' as const };
    t += seconds;
    return i > 0 && shown[i - 1]?.look === look ? [] : [key];
  });
  const duration = Math.max(0.001, Math.round(t * 1000) / 1000);
  const tracks = [{ object, property: 'look', mode: 'absolute' as const, keys }];
  return {
    id: fresh('clips'),
    name: `${name.slice(0, 190)} moves`,
    root: object,
    duration,
    loop: 'loop',
    tracks,
    cues: [],
  };
}

/** What is said of a file that is no drawing, picture, model or sound. */
function unknown(start: Uint8Array): string {
  const kind = fileKind(start);
  const can =
    'SVG, PNG, JPEG, WebP, GIF and AVIF pictures can, glTF models, and WAV, MP3, Ogg, FLAC and M4A sounds.';
  if (kind?.words === 'a zip') return `A zip cannot be brought in: ${can} A piece is imported on the shelf.`;
  const what = kind ? `${kind.words.charAt(0).toUpperCase()}${kind.words.slice(1)}` : 'This kind of file';
  return `${what} cannot be brought in: ${can} A piece is imported on the shelf.`;
}

function stem(file: File): string {
  return file.name.replace(/\.[^.]*$/, '').slice(0, 200) || 'Picture';
}
