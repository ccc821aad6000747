/** Setting a property: the base, or a key in the open clip while "key as I move" is on. */
import {
  type Clip,
  defaultEasing,
  type Easing,
  type Editor,
  type Key,
  keysTrack,
  ownValue,
  type PropertyValue,
  presetOf,
  propertyLabel,
  type SceneObject,
  type Track,
  withOwnValue,
} from '@apple-tick/core/model';
import { poseClip, propertyValue } from '@apple-tick/core/run';
import { ancestorsOf, type PieceStore } from '../model-help.ts';
import type { Session } from '../session.ts';

export type Change = readonly [property: string, value: PropertyValue];
export interface ObjectChange {
  readonly object: string;
  readonly changes: readonly Change[];
}

/**
 * One edit on one or more objects. With a clip open and keying off, the base of what the clip keys could change only
 * unseen: that is refused, with the ways out. False when it was.
 */
export function setProperties(
  s: Session,
  name: string,
  list: readonly ObjectChange[],
  where: 'view' | 'fields' = 'view',
): boolean {
  const clip = s.keying;
  if (clip ? standsThere(s, clip, list) : refuses(s, list, where)) return false;
  s.set({ refused: null });
  if (!clip) offerKeys(s, list);
  s.edit(name, (e) => {
    for (const { object, changes } of list) {
      if (clip) {
        for (const [p, v] of changes) keyProperty(e, clip.id, object, p, v, s.state.playhead);
        widenRoot(s, e, clip.id, object);
      } else e.update('objects', object, (o) => changes.reduce(withChange, o));
    }
  });
  return true;
}

/** What a part of an object, as `signal.ID` of an instance or `fill.1.color`, is in the open clip at the playhead; null: nothing gives it. */
export function posedPart(s: Session, object: string, property: string): PropertyValue | null {
  const { open, program } = s;
  const part = program.spawns.parts.find((p) => p.part.id === `${object}/${property}`)?.part;
  if (!open || !part) return null;
  const values = program.base.slice();
  poseClip(program, open.clip.id, s.state.playhead, values);
  return propertyValue(values, program.objectIndex.get(part.id) ?? -1, part.property);
}

/** Where an offset row begins the thing is where it stands by itself: nothing can be keyed there, which is told. */
function standsThere(s: Session, clip: Clip, list: readonly ObjectChange[]): boolean {
  for (const { object, changes } of list)
    for (const [property] of changes) {
      const track = clip.tracks.find((t) => t.object === object && t.property === property);
      if (track?.mode !== 'offset' || s.state.playhead > (track.keys[0]?.t ?? 0) + 0.002) continue;
      const what = `${propertyLabel(property)} of ${s.store.get('objects', object)?.name}`;
      s.set({ notice: `The ${what} begins wherever it is: move the playhead on to say how far it goes.` });
      return true;
    }
  return false;
}

/** Tells that a change would not be seen, if so. */
export function refuses(s: Session, list: readonly ObjectChange[], where: 'view' | 'fields'): boolean {
  const open = s.state.readOnly ? null : s.open;
  if (!open) return false;
  for (const { object, changes } of list)
    for (const [property] of changes) {
      const track = open.clip.tracks.find((t) => t.object === object && t.property === property);
      // What adds to the base is seen to move with it.
      if (!track || track.mode === 'offset') continue;
      const what = `${propertyLabel(property)} of ${s.store.get('objects', object)?.name}`;
      const words = `The ${what} is keyed in ${open.clip.name}: its base could change only unseen.`;
      s.set({ refused: { where, words, list } });
      return true;
    }
  return false;
}

/** A number of an object's base, and what it was. */
export interface Placed {
  readonly object: string;
  readonly property: string;
  readonly value: number;
}

const keyedIn = new WeakMap<PieceStore, { version: number; names: ReadonlyMap<string, string> }>();
/** By object and property, the name of a clip that keys it. */
function keyedBy(store: PieceStore): ReadonlyMap<string, string> {
  const version = store.tableVersion('clips');
  const last = keyedIn.get(store);
  if (last?.version === version) return last.names;
  const names = new Map(
    store.all('clips').flatMap((c) => c.tracks.filter(isPlaced).map((t) => [keysTrack(t), c.name] as const)),
  );
  keyedIn.set(store, { version, names });
  return names;
}

/** Before the base of things changes that clips key: remembers where they stood, and offers to take their keys along. */
function offerKeys(s: Session, list: readonly ObjectChange[]): void {
  const names = keyedBy(s.store);
  if (names.size === 0 || s.state.readOnly) return;
  const from = [...(s.state.offered?.from ?? [])];
  let clip: string | undefined;
  for (const { object, changes } of list)
    for (const [property, to] of changes) {
      const name = typeof to === 'number' ? names.get(keysTrack({ object, property })) : undefined;
      const o = s.store.get('objects', object);
      if (name === undefined || !o) continue;
      clip ??= name;
      if (!from.some((x) => x.object === object && x.property === property))
        from.push({ object, property, value: ownNumber(o, property) });
    }
  if (clip === undefined) return;
  const object = s.store.get('objects', from[0]?.object ?? '')?.name;
  const words = `${object} is keyed in ${clip}: its keys stay where they are.`;
  if (from.length !== s.state.offered?.from.length) s.set({ offered: { words, from } });
}

/** A number that the object has itself. */
const ownNumber = (o: SceneObject, property: string) => ownValue(o, property) as number;

/** Moves the keys of what was moved in the base by as much, in all clips. One step. */
export function takeKeysAlong(s: Session): void {
  const { offered } = s.state;
  if (!offered) return;
  const by = new Map<string, number>();
  for (const { object, property, value } of offered.from) {
    const o = s.store.get('objects', object);
    if (o) by.set(keysTrack({ object, property }), ownNumber(o, property) - value);
  }
  s.edit('Moved the keys along', (e) => {
    for (const c of s.store.all('clips'))
      if (c.tracks.some((t) => by.get(keysTrack(t)))) e.update('clips', c.id, (x) => shiftKeys(x, by));
  });
  s.set({ offered: null });
}

/** Whether its keys say where a thing is, not how far it goes from where it is. */
const isPlaced = (t: Track) => t.mode === 'absolute';

/** The clip with the values of some tracks moved by so much. */
function shiftKeys(clip: Clip, by: ReadonlyMap<string, number>): Clip {
  return {
    ...clip,
    tracks: clip.tracks.map((t) => {
      const far = by.get(keysTrack(t));
      if (!far || !isPlaced(t)) return t;
      const moved = (v: PropertyValue) => Math.round(((v as number) + far) * 1000) / 1000;
      return { ...t, keys: t.keys.map((k) => ({ ...k, value: moved(k.value) })) };
    }),
  };
}

/**
 * What was refused, done with everything that it is about: the thing stands elsewhere, and all keys of it in any clip are
 * moved by as much. One step.
 */
export function moveWithKeys(s: Session): void {
  const { refused } = s.state;
  const { open, program } = s;
  if (!refused || !open) return;
  const values = program.base.slice();
  poseClip(program, open.clip.id, s.state.playhead, values);
  const names = refused.list.map((x) => s.store.get('objects', x.object)?.name);
  s.edit(`Moved ${names.join(', ')} with its keys`, (e) => {
    for (const { object, changes } of refused.list)
      for (const [property, to] of changes) {
        const now = propertyValue(values, program.objectIndex.get(object) ?? -1, property);
        if (typeof now !== 'number' || typeof to !== 'number' || now === to) continue;
        const far = to - now;
        e.update('objects', object, (o) =>
          withChange(o, [property, Math.round((ownNumber(o, property) + far) * 1000) / 1000]),
        );
        const by = new Map([[keysTrack({ object, property }), far]]);
        for (const c of s.store.all('clips'))
          if (c.tracks.some((t) => by.has(keysTrack(t)))) e.update('clips', c.id, (x) => shiftKeys(x, by));
      }
  });
  s.set({ refused: null });
}

/** The root of a clip becomes what all that it keys lies below, where there is such a thing. */
function widenRoot(s: Session, e: Editor, id: string, object: string): void {
  const up = (from: string) => [from, ...ancestorsOf(s.store, from)];
  const clip = s.store.get('clips', id);
  if (!clip) return;
  const above = new Set(up(object));
  const root = up(clip.root).find((x) => above.has(x));
  if (root !== undefined && root !== clip.root) e.update('clips', id, (c) => ({ ...c, root }));
}

const withChange = (o: SceneObject, [property, value]: Change) => withOwnValue(o, property, value);

/**
 * Puts a key at time t for what is seen there (`value`): replaces one that is there (within half a frame of 240), else
 * goes in by time. In an offset row the key is how far that is from where the thing begins.
 */
export function keyProperty(
  e: Editor,
  clip: string,
  object: string,
  property: string,
  value: PropertyValue,
  t: number,
): void {
  const own = e.store.get('objects', object);
  e.update('clips', clip, (c) => {
    const track = c.tracks.find((x) => x.object === object && x.property === property);
    const isFar = track?.mode === 'offset' && typeof value === 'number' && own !== undefined;
    const far = isFar ? value - ownNumber(own, property) + Number(track.keys[0]?.value ?? 0) : value;
    return withKey(c, object, property, far, t);
  });
}

/**
 * Whether a row counts from wherever the thing is, or says where it is. The motion from the base stays as it is seen, if
 * it begins there. One step.
 */
export function setOffset(s: Session, clip: string, of: Track, offset: boolean): void {
  s.edit(offset ? 'Counts from wherever it is' : 'Counts from its own base', (e) => {
    const own = e.store.get('objects', of.object);
    const by = own ? ownNumber(own, of.property) * (offset ? -1 : 1) : 0;
    const moved = (v: PropertyValue) => Math.round((Number(v) + by) * 1000) / 1000;
    e.update('clips', clip, (c) => ({
      ...c,
      tracks: c.tracks.map((t) =>
        keysTrack(t) === keysTrack(of) && (t.mode === 'offset') !== offset
          ? {
              ...t,
              mode: offset ? 'offset' : 'absolute',
              keys: t.keys.map((k) => ({ ...k, value: moved(k.value) })),
            }
          : t,
      ),
    }));
  });
}

const isDefault = (e: Easing) => presetOf(e) === 'ease-in-out';

function withKey(c: Clip, object: string, property: string, value: PropertyValue, t: number): Clip {
  const at = c.tracks.findIndex((x) => x.object === object && x.property === property);
  const track = c.tracks[at] ?? { object, property, mode: 'absolute' as const, keys: [] };
  const old = track.keys.find((k) => Math.abs(k.t - t) < 0.002);
  // Inside a motion a new key is gone through without a stop, at the ends one sets out and arrives.
  const after = track.keys.findIndex((k) => k.t > t);
  const inside = !old && after > 0;
  const key: Key = { t: old?.t ?? t, value, easing: old?.easing ?? (inside ? 'auto' : defaultEasing()) };
  const before = inside ? track.keys[after - 1] : undefined;
  const others = track.keys
    .filter((k) => k !== old)
    .map((k) => (k === before && isDefault(k.easing) ? { ...k, easing: 'auto' as const } : k));
  const keys = [...others, key].sort((a, b) => a.t - b.t);
  const next = { ...track, keys };
  const tracks = at < 0 ? [...c.tracks, next] : c.tracks.map((x, i) => (i === at ? next : x));
  return { ...c, tracks, duration: Math.max(c.duration, t) };
}

/** The first move while keying also keys the values before it at the clip's start, so that there is a motion. */
export function keyMoves(s: Session, before: readonly ObjectChange[]): void {
  const clip = s.keying;
  if (!clip || s.state.playhead === 0) return;
  s.edit('Keyed', (e) => {
    for (const { object, changes } of before)
      for (const [p, v] of changes)
        if (!clip.tracks.some((t) => t.object === object && t.property === p))
          keyProperty(e, clip.id, object, p, v, 0);
  });
}
