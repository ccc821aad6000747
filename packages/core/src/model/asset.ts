/** Pictures that a piece carries. The bytes lie beside the document: in a tickpack, or in the browser's own keeping. */
import { z } from 'zod';
import { idSchema, nameSchema } from './common.ts';

/** Px per side; larger ones are refused before anything tries to draw them. */
export const MAX_SIDE = 8192;
const side = z.number().int('must be a whole number').min(1).max(MAX_SIDE, `must be at most ${MAX_SIDE}`);

export const PICTURE_TYPES = ['image/png', 'image/jpeg', 'image/webp'] as const;
export type PictureType = (typeof PICTURE_TYPES)[number];

export const assetSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  kind: z.literal('image'),
  mime: z.enum(PICTURE_TYPES),
  width: side,
  height: side,
  /** SHA-256 of the bytes, in hexadecimal: equal pictures are kept once. */
  hash: z.string().regex(/^[0-9a-f]{64}$/, 'must be a SHA-256 in hexadecimal'),
});
export type Asset = z.infer<typeof assetSchema>;

/** The name of an asset's file in a tickpack. */
export function assetFile(a: Asset): string {
  return `assets/${a.id}.${a.mime === 'image/jpeg' ? 'jpg' : a.mime.slice(6)}`;
}
