/** The piece: one document, records in flat maps by id. */
import { type Effect, effectForm } from '../features/effects/forms.ts';
import { type Follow, followForm } from '../features/follows/forms.ts';
import { type CueSheet, cueSheetForm } from '../features/sheets/record.ts';
import { type Sound, soundForm } from '../features/sounds/forms.ts';
import { type TemplateHead, templateHead, templateHeadForm } from '../features/templates/forms.ts';
import { visitorForm } from '../features/visitor/forms.ts';
import {
  type Fields,
  type Form,
  maybe,
  number,
  type Of,
  oneOf,
  orNull,
  own,
  preset,
  record,
  table,
  text,
  toggle,
  union,
} from '../grammar/index.ts';
import { type Asset, assetForm } from './asset.ts';
import { type Clip, clipForm } from './clip.ts';
import { type Collider, colliderForm } from './collider.ts';
import { color, name } from './common.ts';

import { type Machine, machineForm } from './machine.ts';
import { type Reaction, reactionForm } from './reaction.ts';
import { gradientForm, sceneObjectForm } from './scene-object.ts';
import { type Message, messageForm, type Signal, signalForm } from './signal.ts';

/** The version that this code writes; `migrate.ts` brings older files up to it. */
export const FORMAT_VERSION = 1;

const tagForm = record({ id: own('tags'), name });
export type Tag = Of<typeof tagForm>;

/** The form of each table's records, in the order in which files list the tables. */
export const RECORDS = {
  objects: sceneObjectForm,
  tags: tagForm as Form<Tag>,
  clips: clipForm as Form<Clip>,
  signals: signalForm as Form<Signal>,
  messages: messageForm as Form<Message>,
  machines: machineForm as Form<Machine>,
  reactions: reactionForm as Form<Reaction>,
  follows: followForm as Form<Follow>,
  sounds: soundForm as Form<Sound>,
  colliders: colliderForm as Form<Collider>,
  effects: effectForm as Form<Effect>,
  cueSheets: cueSheetForm as Form<CueSheet>,
  /** Without what is in it: see `Template`. */
  templates: templateHeadForm as Form<TemplateHead>,
  assets: assetForm as Form<Asset>,
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
    background: union(color, gradientForm),
    fit: preset(oneOf(['contain', 'cover', 'widen']), 'contain'),
  }),
  /** The angle the piece is seen from, degrees; 0/0 looks along −Z. */
  view: preset(angles, { azimuth: 0, elevation: 0 }),
  /** Frame numbers a second, for reading times only: a tick is always 1/60 s. */
  fps: preset(number({ min: 1, max: 240 }), 60),
  seed: preset(number({ whole: 'must be a whole number', min: 0, max: 4294967295 }), 1),
  light: preset(
    record({
      ...angles.fields,
      /** Whether solids have soft shadows where they stand; absent: they have. */
      contact: maybe(toggle),
    }),
    { azimuth: -40, elevation: 55 },
  ),
  visitor: preset(orNull(visitorForm), null),
} as const satisfies Fields;

/** A subtree with all that it does, placed many times by instances. Its ids are used nowhere else in the piece. */
const templateForm = record({
  ...templateHead,
  objects: table(RECORDS.objects),
  clips: preset(table(RECORDS.clips), {}),
  signals: preset(table(RECORDS.signals), {}),
  machines: preset(table(RECORDS.machines), {}),
  reactions: preset(table(RECORDS.reactions), {}),
  follows: preset(table(RECORDS.follows), {}),
  colliders: preset(table(RECORDS.colliders), {}),
  cueSheets: preset(table(RECORDS.cueSheets), {}),
});
export type Template = Of<typeof templateForm>;

export const pieceForm = record({
  format: oneOf(['apple-tick']),
  version: oneOf([FORMAT_VERSION]),
  id: text({ min: 1, max: 80 }),
  ...HEAD,
  objects: table(RECORDS.objects),
  tags: preset(table(RECORDS.tags), {}),
  clips: preset(table(RECORDS.clips), {}),
  signals: preset(table(RECORDS.signals), {}),
  messages: preset(table(RECORDS.messages), {}),
  machines: preset(table(RECORDS.machines), {}),
  reactions: preset(table(RECORDS.reactions), {}),
  follows: preset(table(RECORDS.follows), {}),
  sounds: preset(table(RECORDS.sounds), {}),
  colliders: preset(table(RECORDS.colliders), {}),
  effects: preset(table(RECORDS.effects), {}),
  cueSheets: preset(table(RECORDS.cueSheets), {}),
  templates: preset(table(templateForm), {}),
  assets: preset(table(RECORDS.assets), {}),
});
export type Piece = Of<typeof pieceForm>;
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
