/** Setting a property: the base, or a key in the open clip while "key as I move" is on. */
import {
  type Base,
  type Clip,
  defaultEasing,
  type Easing,
  type Editor,
  type Key,
  type PropertyValue,
  presetOf,
  propertyInfo,
  type Vec3,
} from '@apple-tick/core/model';
import { poseClip, propertyValue } from '@apple-tick/core/run';
import { ancestorsOf } from './model-help.ts';
import type { Session } from './session.ts';

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
  if (!clip && refuses(s, list, where)) return false;
  s.set({ refused: null });
  s.edit(name, (e) => {
    for (const { object, changes } of list) {
      if (clip) {
        for (const [p, v] of changes) keyProperty(e, clip.id, object, p, v, s.state.playhead);
        widenRoot(s, e, clip.id, object);
      } else e.update('objects', object, (o) => ({ ...o, base: changes.reduce(withProperty, o.base) }));
    }
  });
  return true;
}

/** Tells that a change would not be seen, if so. */
export function refuses(s: Session, list: readonly ObjectChange[], where: 'view' | 'fields'): boolean {
  const open = s.state.readOnly ? null : s.open;
  if (!open) return false;
  for (const { object, changes } of list)
    for (const [property] of changes) {
      if (!open.clip.tracks.some((t) => t.object === object && t.property === property)) continue;
      const what = `${propertyInfo(property)?.label ?? property} of ${s.store.get('objects', object)?.name}`;
      const words = `The ${what} is keyed in ${open.clip.name}: its base could change only unseen.`;
      s.set({ refused: { where, words, list } });
      return true;
    }
  return false;
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
        const along = (n: number) => Math.round((n + to - now) * 1000) / 1000;
        e.update('objects', object, (o) => {
          const [field, axis] = property.split('.') as [keyof Base, string | undefined];
          const was = axis === undefined ? o.base[field] : (o.base[field] as Vec3)[AXES.indexOf(axis)];
          return { ...o, base: withProperty(o.base, [property, along(was as number)]) };
        });
        for (const c of s.store.all('clips'))
          if (c.tracks.some((t) => t.object === object && t.property === property))
            e.update('clips', c.id, (clip) => ({
              ...clip,
              tracks: clip.tracks.map((t) =>
                t.object === object && t.property === property
                  ? { ...t, keys: t.keys.map((k) => ({ ...k, value: along(k.value as number) })) }
                  : t,
              ),
            }));
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

const AXES = ['x', 'y', 'z'];
function withProperty(base: Base, [property, value]: Change): Base {
  const [field, axis] = property.split('.') as [keyof Base, string | undefined];
  if (axis === undefined) return { ...base, [field]: value };
  const vec = [...(base[field] as Vec3)] as Vec3;
  vec[AXES.indexOf(axis)] = value as number;
  return { ...base, [field]: vec };
}

/** Puts a key at time t: replaces one that is there (within half a frame of 240), else goes in by time. */
export function keyProperty(
  e: Editor,
  clip: string,
  object: string,
  property: string,
  value: PropertyValue,
  t: number,
): void {
  e.update('clips', clip, (c) => withKey(c, object, property, value, t));
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
