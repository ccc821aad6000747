/**
 * What was brought into a piece from files. The bytes of pictures and sounds lie beside the document: in a tickpack,
 * or in the browser's own keeping. A mesh is so small that its corners stand in the document.
 */
import { kinds, list, maybe, number, type Of, oneOf, own, record, text, toggle } from '../grammar/index.ts';
import { color, name } from './common.ts';

/** Px per side; larger ones are refused before anything tries to draw them. */
export const MAX_SIDE = 8192;
const side = number({
  whole: 'must be a whole number',
  min: 1,
  max: MAX_SIDE,
  high: `must be at most ${MAX_SIDE}`,
});
/** SHA-256 of the bytes, in hexadecimal: equal files are kept once. */
const hash = text({ like: ['^[0-9a-f]{64}$', 'must be a SHA-256 in hexadecimal'] });

export const PICTURE_TYPES = ['image/png', 'image/jpeg', 'image/webp'] as const;
export type PictureType = (typeof PICTURE_TYPES)[number];
export const SOUND_TYPES = ['audio/wav', 'audio/mpeg', 'audio/ogg', 'audio/mp4', 'audio/flac'] as const;
export type SoundType = (typeof SOUND_TYPES)[number];

/** Cells a side of a picture's alpha, corners and triangles of a mesh: what a piece can draw without a wait. */
export const MAX_CELLS = 128;
export const MAX_TRIANGLES = 4000;

/** How opaque a picture is, coarsely: the same in Node and browser, without decoding it. */
const cells = number({ whole: true, min: 1, max: MAX_CELLS });
const alphaSchema = record(
  {
    columns: cells,
    rows: cells,
    /** One hexadecimal digit a cell, 0 clear and f opaque, row by row from the top. */
    cells: text({ like: ['^[0-9a-f]*$', 'must be hexadecimal digits'] }),
  },
  { predicate: (a) => a.cells.length === a.columns * a.rows, says: 'must have one digit for each cell' },
);
export type Alpha = Of<typeof alphaSchema>;

const coordinate = number({ min: -1e6, max: 1e6, low: 'is too far away', high: 'is too far away' });
const common = { id: own('assets'), name };
const meshSchema = record(
  {
    ...common,
    kind: oneOf(['mesh']),
    /** x, y, z of each corner, px, one after another. */
    points: list(coordinate, { min: 9, max: 9 * MAX_TRIANGLES, few: 'must hold at least three corners' }),
    /** Numbers of three corners each, anticlockwise as seen from outside. */
    triangles: list(number({ whole: true, min: 0 }), {
      min: 3,
      max: 3 * MAX_TRIANGLES,
      few: 'must hold at least one triangle',
      many: `must hold at most ${MAX_TRIANGLES} triangles`,
    }),
    /** Of each triangle, times which the object's fill is its colour. Absent: the fill is the colour of all. */
    colors: maybe(list(color, { max: MAX_TRIANGLES })),
    /** Its triangles are seen from behind, too. */
    twoSided: maybe(toggle),
  },
  { predicate: (m) => m.points.length % 3 === 0, says: 'must have three numbers for each corner' },
  {
    predicate: (m) => m.triangles.length % 3 === 0 && m.triangles.every((t) => t * 3 < m.points.length),
    says: 'must have triangles of three of its corners',
  },
  {
    predicate: (m) => m.colors === undefined || m.colors.length * 3 === m.triangles.length,
    says: 'must have one colour for each triangle',
  },
);

export const assetSchema = kinds(
  'kind',
  record({
    ...common,
    kind: oneOf(['image']),
    mime: oneOf(PICTURE_TYPES),
    width: side,
    height: side,
    hash,
    /** Absent when the picture is opaque all over. */
    alpha: maybe(alphaSchema),
  }),
  record({
    ...common,
    kind: oneOf(['sound']),
    mime: oneOf(SOUND_TYPES),
    /** How long it lasts. */
    seconds: number({ min: 0, max: 3600, high: 'is too long' }),
    hash,
  }),
  meshSchema,
);
export type Asset = Of<typeof assetSchema>;
export type PictureAsset = Extract<Asset, { kind: 'image' }>;
export type SoundAsset = Extract<Asset, { kind: 'sound' }>;
export type MeshAsset = Extract<Asset, { kind: 'mesh' }>;
/** Assets whose bytes lie beside the document. */
export type FileAsset = PictureAsset | SoundAsset;

export function isFile(a: Asset): a is FileAsset {
  return a.kind !== 'mesh';
}

const ENDINGS: Record<PictureType | SoundType, string> = {
  'image/png': 'png',
  'image/jpeg': 'jpg',
  'image/webp': 'webp',
  'audio/wav': 'wav',
  'audio/mpeg': 'mp3',
  'audio/ogg': 'ogg',
  'audio/mp4': 'm4a',
  'audio/flac': 'flac',
};

/** The name of an asset's file in a tickpack. */
export function assetFile(a: FileAsset): string {
  return `assets/${a.id}.${ENDINGS[a.mime]}`;
}
