/** The piece: one document, records in flat maps by id. */
import { z } from 'zod';
import { assetSchema } from './asset.ts';
import { clipSchema } from './clip.ts';
import { colorSchema, idSchema, nameSchema } from './common.ts';
import { machineSchema } from './machine.ts';
import { reactionSchema } from './reaction.ts';
import { gradientSchema, sceneObjectSchema } from './scene-object.ts';
import { messageSchema, signalSchema } from './signal.ts';

/** The version that this code writes; `migrate.ts` brings older files up to it. */
export const FORMAT_VERSION = 1;

export const tagSchema = z.strictObject({ id: idSchema, name: nameSchema });
/** Made by the player from the name of a synth, or played from a file that was brought in. */
export const soundSchema = z
  .strictObject({
    id: idSchema,
    name: nameSchema,
    synth: z.string().max(60).optional(),
    asset: idSchema.optional(),
  })
  .refine((x) => (x.synth === undefined) !== (x.asset === undefined), 'must have either "synth" or "asset"');
export type Tag = z.infer<typeof tagSchema>;
export type Sound = z.infer<typeof soundSchema>;

const side = z.number().min(16, 'must be at least 16').max(8192, 'must be at most 8192');
const notRead = z.record(z.string(), z.never('is not read by this version')).optional();

export const pieceSchema = z.strictObject({
  format: z.literal('apple-tick'),
  version: z.literal(FORMAT_VERSION),
  id: z.string().min(1).max(80),
  name: nameSchema,
  frame: z.strictObject({
    width: side,
    height: side,
    /** A colour, or a gradient in px of the frame round its middle, y up. */
    background: z.union([colorSchema, gradientSchema]),
    fit: z.enum(['contain', 'cover', 'widen']).default('contain'),
  }),
  /** The angle the piece is seen from, degrees; 0/0 looks along −Z. */
  view: z
    .strictObject({ azimuth: z.number().min(-360).max(360), elevation: z.number().min(-90).max(90) })
    .default({ azimuth: 0, elevation: 0 }),
  /** Frame numbers a second, for reading times only: a tick is always 1/60 s. */
  fps: z.number().min(1).max(240).default(60),
  seed: z.number().int('must be a whole number').min(0).max(4294967295).default(1),
  light: z
    .strictObject({ azimuth: z.number().min(-360).max(360), elevation: z.number().min(-90).max(90) })
    .default({ azimuth: -40, elevation: 55 }),
  visitor: z.null('the visitor is not read by this version').default(null),
  objects: z.record(idSchema, sceneObjectSchema),
  tags: z.record(idSchema, tagSchema).default({}),
  clips: z.record(idSchema, clipSchema).default({}),
  signals: z.record(idSchema, signalSchema).default({}),
  messages: z.record(idSchema, messageSchema).default({}),
  machines: z.record(idSchema, machineSchema).default({}),
  reactions: z.record(idSchema, reactionSchema).default({}),
  sounds: z.record(idSchema, soundSchema).default({}),
  follows: notRead,
  cueSheets: notRead,
  effects: notRead,
  colliders: notRead,
  templates: notRead,
  assets: z.record(idSchema, assetSchema).default({}),
});
export type Piece = z.infer<typeof pieceSchema>;

/** The tables of records, in the order in which files list them. */
export const TABLES = [
  'objects',
  'tags',
  'clips',
  'signals',
  'messages',
  'machines',
  'reactions',
  'sounds',
  'assets',
] as const;
export type TableName = (typeof TABLES)[number];
export type RecordOf<T extends TableName> = Piece[T][string];
export type AnyRecord = RecordOf<TableName>;

/** The schema of each table's records, and of each field besides the tables, for reading part by part. */
export const recordSchemas = Object.fromEntries(
  TABLES.map((t) => {
    const table = pieceSchema.shape[t];
    return [t, (table instanceof z.ZodDefault ? table.unwrap() : table).valueType];
  }),
) as unknown as Readonly<Record<TableName, z.ZodType>>;
const { name, frame, view, fps, seed, light } = pieceSchema.shape;
export const headSchemas: Readonly<Record<string, z.ZodType>> = { name, frame, view, fps, seed, light };

/** What a piece has besides its tables, edited as one record. */
export type PieceHead = Pick<Piece, 'id' | 'name' | 'frame' | 'view' | 'fps' | 'seed' | 'light'>;

export function emptyPiece(id: string, name: string): Piece {
  return {
    format: 'apple-tick',
    version: FORMAT_VERSION,
    id,
    name,
    frame: { width: 960, height: 540, background: '#dce7e2', fit: 'contain' },
    view: { azimuth: 0, elevation: 0 },
    fps: 60,
    seed: 41,
    light: { azimuth: -40, elevation: 55 },
    visitor: null,
    objects: {},
    tags: {},
    clips: {},
    signals: {},
    messages: {},
    machines: {},
    reactions: {},
    sounds: {},
    assets: {},
  };
}

/** JSON Schema (2020-12) of the file, generated from the validators. */
export function pieceJsonSchema(): unknown {
  return z.toJSONSchema(pieceSchema, { io: 'input', unrepresentable: 'any' });
}
