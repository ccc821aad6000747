/** The piece: one document, records in flat maps by id. */
import { type Effect, effectSchema } from '../features/effects/schema.ts';
import { type Follow, followSchema } from '../features/follows/schema.ts';
import { type CueSheet, cueSheetSchema } from '../features/sheets/record.ts';
import { type Sound, soundSchema } from '../features/sounds/schema.ts';
import { type TemplateHead, templateHead, templateHeadSchema } from '../features/templates/schema.ts';
import { visitorSchema } from '../features/visitor/schema.ts';
import {
  type Fields,
  maybe,
  number,
  type Of,
  oneOf,
  orNull,
  own,
  record,
  type Schema,
  table,
  text,
  toggle,
  union,
  withDefault,
} from '../grammar/index.ts';
import { type Asset, assetSchema } from './asset.ts';
import { type Clip, clipSchema } from './clip.ts';
import { type Collider, colliderSchema } from './collider.ts';
import { color, name } from './common.ts';

import { type Machine, machineSchema } from './machine.ts';
import { type Reaction, reactionSchema } from './reaction.ts';
import { gradientSchema, sceneObjectSchema } from './scene-object.ts';
import { type Message, messageSchema, type Signal, signalSchema } from './signal.ts';

/** The version that this code writes; `migrate.ts` brings older files up to it. */
export const FORMAT_VERSION = 1;

const tagSchema = record({ id: own('tags'), name });
export type Tag = Of<typeof tagSchema>;

/** The schema of each table's records, in the order in which files list the tables. */
export const RECORDS = {
  objects: sceneObjectSchema,
  tags: tagSchema as Schema<Tag>,
  clips: clipSchema as Schema<Clip>,
  signals: signalSchema as Schema<Signal>,
  messages: messageSchema as Schema<Message>,
  machines: machineSchema as Schema<Machine>,
  reactions: reactionSchema as Schema<Reaction>,
  follows: followSchema as Schema<Follow>,
  sounds: soundSchema as Schema<Sound>,
  colliders: colliderSchema as Schema<Collider>,
  effects: effectSchema as Schema<Effect>,
  cueSheets: cueSheetSchema as Schema<CueSheet>,
  /** Without what is in it: see `Template`. */
  templates: templateHeadSchema as Schema<TemplateHead>,
  assets: assetSchema as Schema<Asset>,
} as const;
export type TableName = keyof typeof RECORDS;
export const TABLES = Object.keys(RECORDS) as readonly TableName[];

const side = number({ min: 16, max: 8192, low: 'must be at least 16', high: 'must be at most 8192' });
const turn = number({ min: -360, max: 360 });
const angles = record({ azimuth: turn, elevation: number({ min: -90, max: 90 }) });

/** What a piece has besides its tables, and can be edited. */
export const HEAD = {
  name,
  frame: record({
    width: side,
    height: side,
    /** A colour, or a gradient in px of the frame round its middle, y up. */
    background: union(color, gradientSchema),
    fit: withDefault(oneOf(['contain', 'cover', 'widen']), 'contain'),
  }),
  /** The angle the piece is seen from, degrees; 0/0 looks along −Z. */
  view: withDefault(angles, { azimuth: 0, elevation: 0 }),
  /** Frame numbers a second, for reading times only: a tick is always 1/60 s. */
  fps: withDefault(number({ min: 1, max: 240 }), 60),
  seed: withDefault(number({ whole: 'must be a whole number', min: 0, max: 4294967295 }), 1),
  light: withDefault(
    record({
      ...angles.fields,
      /** Whether solids have soft shadows where they stand; absent: they have. */
      contact: maybe(toggle),
    }),
    { azimuth: -40, elevation: 55 },
  ),
  visitor: withDefault(orNull(visitorSchema), null),
} as const satisfies Fields;

/** A subtree with all that it does, placed many times by instances. Its ids are used nowhere else in the piece. */
const templateSchema = record({
  ...templateHead,
  objects: table(RECORDS.objects),
  clips: withDefault(table(RECORDS.clips), {}),
  signals: withDefault(table(RECORDS.signals), {}),
  machines: withDefault(table(RECORDS.machines), {}),
  reactions: withDefault(table(RECORDS.reactions), {}),
  follows: withDefault(table(RECORDS.follows), {}),
  colliders: withDefault(table(RECORDS.colliders), {}),
  cueSheets: withDefault(table(RECORDS.cueSheets), {}),
});
export type Template = Of<typeof templateSchema>;

export const pieceSchema = record({
  format: oneOf(['apple-tick']),
  version: oneOf([FORMAT_VERSION]),
  id: text({ min: 1, max: 80 }),
  ...HEAD,
  objects: table(RECORDS.objects),
  tags: withDefault(table(RECORDS.tags), {}),
  clips: withDefault(table(RECORDS.clips), {}),
  signals: withDefault(table(RECORDS.signals), {}),
  messages: withDefault(table(RECORDS.messages), {}),
  machines: withDefault(table(RECORDS.machines), {}),
  reactions: withDefault(table(RECORDS.reactions), {}),
  follows: withDefault(table(RECORDS.follows), {}),
  sounds: withDefault(table(RECORDS.sounds), {}),
  colliders: withDefault(table(RECORDS.colliders), {}),
  effects: withDefault(table(RECORDS.effects), {}),
  cueSheets: withDefault(table(RECORDS.cueSheets), {}),
  templates: withDefault(table(templateSchema), {}),
  assets: withDefault(table(RECORDS.assets), {}),
});
export type Piece = Of<typeof pieceSchema>;
/** A record as the store has it: of a template its head alone. */
export type RecordOf<T extends TableName> = T extends 'templates' ? TemplateHead : Piece[T][string];
export type AnyRecord = RecordOf<TableName>;

/** What a piece has besides its tables, edited as one record. */
export type PieceHead = Pick<Piece, 'id' | 'name' | 'frame' | 'view' | 'fps' | 'seed' | 'light' | 'visitor'>;

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
    follows: {},
    sounds: {},
    colliders: {},
    effects: {},
    cueSheets: {},
    templates: {},
    assets: {},
  };
}
