/**
 * What was brought into a piece from files. The bytes of pictures and sounds lie beside the document: in a tickpack,
 * or in the browser's own keeping. A mesh is so small that its corners stand in the document.
 */
import { z } from 'zod';
import { idSchema, nameSchema } from './common.ts';

/** Px per side; larger ones are refused before anything tries to draw them. */
export const MAX_SIDE = 8192;
const side = z.number().int('must be a whole number').min(1).max(MAX_SIDE, `must be at most ${MAX_SIDE}`);
/** SHA-256 of the bytes, in hexadecimal: equal files are kept once. */
const hash = z.string().regex(/^[0-9a-f]{64}$/, 'must be a SHA-256 in hexadecimal');

export const PICTURE_TYPES = ['image/png', 'image/jpeg', 'image/webp'] as const;
export type PictureType = (typeof PICTURE_TYPES)[number];
export const SOUND_TYPES = ['audio/wav', 'audio/mpeg', 'audio/ogg', 'audio/mp4'] as const;
export type SoundType = (typeof SOUND_TYPES)[number];

/** Cells a side of a picture's alpha, corners and triangles of a mesh: what a piece can draw without a wait. */
export const MAX_CELLS = 128;
export const MAX_TRIANGLES = 4000;

/** How opaque a picture is, coarsely: the same in Node and browser, without decoding it. */
const alphaSchema = z
  .strictObject({
    columns: z.number().int().min(1).max(MAX_CELLS),
    rows: z.number().int().min(1).max(MAX_CELLS),
    /** One hexadecimal digit a cell, 0 clear and f opaque, row by row from the top. */
    cells: z.string().regex(/^[0-9a-f]*$/, 'must be hexadecimal digits'),
  })
  .refine((a) => a.cells.length === a.columns * a.rows, 'must have one digit for each cell');
export type Alpha = z.infer<typeof alphaSchema>;

const coordinate = z.number().min(-1e6, 'is too far away').max(1e6, 'is too far away');
const meshSchema = z
  .strictObject({
    id: idSchema,
    name: nameSchema,
    kind: z.literal('mesh'),
    /** x, y, z of each corner, px, one after another. */
    points: z
      .array(coordinate)
      .min(9, 'must hold at least three corners')
      .max(9 * MAX_TRIANGLES),
    /** Numbers of three corners each, anticlockwise as seen from outside. */
    triangles: z
      .array(z.number().int().min(0))
      .min(3, 'must hold at least one triangle')
      .max(3 * MAX_TRIANGLES, `must hold at most ${MAX_TRIANGLES} triangles`),
  })
  .refine((m) => m.points.length % 3 === 0, 'must have three numbers for each corner')
  .refine(
    (m) => m.triangles.length % 3 === 0 && m.triangles.every((t) => t * 3 < m.points.length),
    'must have triangles of three of its corners',
  );

export const assetSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    id: idSchema,
    name: nameSchema,
    kind: z.literal('image'),
    mime: z.enum(PICTURE_TYPES),
    width: side,
    height: side,
    hash,
    /** Absent when the picture is opaque all over. */
    alpha: alphaSchema.optional(),
  }),
  z.strictObject({
    id: idSchema,
    name: nameSchema,
    kind: z.literal('sound'),
    mime: z.enum(SOUND_TYPES),
    /** How long it lasts. */
    seconds: z.number().min(0).max(3600, 'is too long'),
    hash,
  }),
  meshSchema,
]);
export type Asset = z.infer<typeof assetSchema>;
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
};

/** The name of an asset's file in a tickpack. */
export function assetFile(a: FileAsset): string {
  return `assets/${a.id}.${ENDINGS[a.mime]}`;
}
