/** The keys that are chosen in the timeline, and what is done to all of them at once. */
import {
  type Action,
  type Clip,
  type ClipCue,
  changeKeys,
  copyKeys,
  type Easing,
  type Key,
  type KeyCopy,
  type KeyId,
  keyFinder,
  keysTrack,
  moveKeys,
  type PropertyInfo,
  pasteKeys,
  propertyInfo,
  reverseKeys,
  type Track,
  trackProperty,
  withoutKeys,
} from '@apple-tick/core/model';
import { poseClip, propertyValue } from '@apple-tick/core/run';
import type { Session } from '../session.ts';
import { keyProperty } from '../things/properties.ts';
import { type ChosenKeys, chosenKeysOf } from './chosen-keys.ts';

/** The chosen keys that are still there; null when there are none. */
export const chosenKeys = (s: Session): ChosenKeys | null => chosenKeysOf(s.store, s.state.selected);

/**
 * Does something that may move the chosen keys by itself, such as an undo, and chooses those that then stand in their
 * places: of rows that have as many keys as before, the first stays the first.
 */
export function keepingChosenKeys<T>(s: Session, act: () => T): T {
  const chosen = chosenKeys(s);
  const before = chosen && new Map(chosen.clip.tracks.map((t) => [keysTrack(t), t]));
  const done = act();
  if (!chosen || !before || s.state.selected?.kind !== 'keys') return done;
  const isChosen = keyFinder(chosen.keys);
  const keys = (s.store.get('clips', chosen.clip.id)?.tracks ?? []).flatMap((track) => {
    const was = before.get(keysTrack(track));
    const has = was ? isChosen(was) : null;
    if (!was || !has || was.keys.length !== track.keys.length) return [];
    return track.keys
      .filter((_, i) => has(was.keys[i]?.t as number))
      .map((k) => ({ object: track.object, property: track.property, t: k.t }));
  });
  if (keys.length > 0) s.set({ selected: { kind: 'keys', clip: chosen.clip.id, keys } });
  return done;
}

/** What a track's values are. */
export function kindOf(track: Track): PropertyInfo['kind'] | undefined {
  return propertyInfo(trackProperty(track))?.kind;
}

export function allKeys(clip: Clip): KeyId[] {
  return clip.tracks.flatMap((t) => t.keys.map((k) => ({ object: t.object, property: t.property, t: k.t })));
}

export function selectKeys(s: Session, clip: string, keys: readonly KeyId[]): void {
  s.select(keys.length > 0 ? { kind: 'keys', clip, keys } : null);
}

/** One step that puts another clip in the place of this one; the keys stay chosen under the names that they have then. */
export function applyKeys(s: Session, name: string, done: ChosenKeys): void {
  s.edit(name, (e) => e.update('clips', done.clip.id, () => done.clip));
  if (!s.state.readOnly) selectKeys(s, done.clip.id, done.keys);
}

export const howMany = (n: number) => (n === 1 ? 'a key' : `${n} keys`);

/** Changes every chosen key; what is chosen stays so. */
export function changeChosen(s: Session, verb: string, change: (key: Key, track: Track) => Key): void {
  const chosen = chosenKeys(s);
  if (chosen)
    applyKeys(s, `${verb} ${howMany(chosen.keys.length)}`, changeKeys(chosen.clip, chosen.keys, change));
}

export function easeChosen(s: Session, words: string, easing: Easing): void {
  const chosen = chosenKeys(s);
  if (!chosen) return;
  const n = chosen.keys.length;
  applyKeys(
    s,
    `Eased${n === 1 ? '' : ` ${n} keys`}: ${words}`,
    changeKeys(chosen.clip, chosen.keys, (k) => ({ ...k, easing })),
  );
}

export function deleteChosenKeys(s: Session): void {
  const chosen = chosenKeys(s);
  if (!chosen) return;
  s.edit(`Deleted ${howMany(chosen.keys.length)}`, (e) =>
    e.update('clips', chosen.clip.id, (c) => withoutKeys(c, chosen.keys)),
  );
  // What was keyed is what one goes on with.
  const object = chosen.keys[0]?.object ?? '';
  s.select(s.store.has('objects', object) ? { kind: 'object', id: object } : null);
}

/** Turns the chosen keys round in time. */
export function reverseChosen(s: Session): void {
  const chosen = chosenKeys(s);
  if (chosen) applyKeys(s, `Reversed ${howMany(chosen.keys.length)}`, reverseKeys(chosen.clip, chosen.keys));
}

/** Moves the chosen keys by frame numbers. */
export function nudgeKeys(s: Session, frames: number): void {
  const chosen = chosenKeys(s);
  if (!chosen) return;
  const { fps } = s.store.head;
  const first = Math.min(...chosen.keys.map((k) => k.t));
  // The first of them comes to stand at a frame number.
  const to = Math.max(0, Math.round(first * fps) + frames) / fps;
  applyKeys(s, `Moved ${howMany(chosen.keys.length)}`, moveKeys(chosen.clip, chosen.keys, to - first));
}

const MARK = 'apple-tick-keys';

/** The chosen keys as text, with the names of their objects: other pieces have other ids. */
export function keysText(s: Session): string | null {
  const chosen = chosenKeys(s);
  if (!chosen) return null;
  const { tracks } = copyKeys(chosen.clip, chosen.keys);
  const names = Object.fromEntries(
    tracks.map((t) => [t.object, s.store.get('objects', t.object)?.name ?? '']),
  );
  return JSON.stringify({ [MARK]: 1, names, tracks });
}

/** What `keysText` wrote, read with care: the clipboard may hold anything. */
export function readKeys(
  text: string,
  isSound: (copy: KeyCopy) => boolean,
): (KeyCopy & { names: Record<string, string> }) | null {
  if (!text.startsWith(`{"${MARK}"`)) return null;
  try {
    const x = JSON.parse(text) as { names: Record<string, string>; tracks: Track[] };
    return typeof x.names === 'object' && x.names !== null && isSound({ tracks: x.tracks })
      ? { names: x.names, tracks: x.tracks }
      : null;
  } catch {
    return null;
  }
}

/**
 * Pastes keys into the open clip from the playhead on: onto the chosen object when they were of one, else each onto its
 * own object, or the one of the same name.
 */
export function pasteKeysText(s: Session, copy: KeyCopy & { readonly names: Record<string, string> }): void {
  const open = s.open;
  if (!open) {
    s.set({ notice: 'Keys are pasted into the clip that is unfolded: unfold one first.' });
    return;
  }
  const objects = [...new Set(copy.tracks.map((t) => t.object))];
  const { object } = s.state;
  const onto =
    objects.length === 1 && s.selected?.kind === 'object' && s.exists('objects', object) ? object : null;
  const byName = new Map(s.store.all('objects').map((o) => [o.name, o.id]));
  const to = (id: string) => onto ?? (s.store.has('objects', id) ? id : byName.get(copy.names[id] ?? ''));
  const missing = objects.filter((id) => to(id) === undefined);
  const done = pasteKeys(open.clip, copy, s.state.playhead, to);
  if (done.keys.length > 0) applyKeys(s, `Pasted ${howMany(done.keys.length)}`, done);
  if (missing.length > 0)
    s.set({
      notice: `Nothing here is called ${missing.map((id) => `“${copy.names[id]}”`).join(' or ')}: those keys were left out. Choose an object and paste the keys of one object onto it.`,
    });
}

/** A new cue at a time of the clip, which does nothing yet; it is selected, so that its properties are at hand. */
export function addCue(s: Session, clip: Clip, t: number, actions: Action[] = []): void {
  const cue: ClipCue = { id: s.newId('cues'), t: Math.min(t, clip.duration), when: 'forwards', actions };
  s.edit('Added a cue', (e) => e.update('clips', clip.id, (c) => ({ ...c, cues: [...c.cues, cue] })));
  s.select({ kind: 'cue', clip: clip.id, id: cue.id });
}

/** Keys, where the playhead stands, what the open clip keys of the chosen object; its place and turn when that is nothing. */
export function keyChosen(s: Session): void {
  const [open, { object, playhead }] = [s.open, s.state];
  const index = s.program.objectIndex.get(object ?? '');
  if (!open || object === null || index === undefined) return;
  const own = open.clip.tracks.filter((t) => t.object === object).map((t) => t.property);
  const properties =
    own.length > 0 ? own : ['position', 'rotation'].flatMap((v) => ['x', 'y', 'z'].map((a) => `${v}.${a}`));
  const values = s.program.base.slice();
  poseClip(s.program, open.clip.id, playhead, values);
  s.edit(`Keyed ${s.store.get('objects', object)?.name}`, (e) => {
    for (const p of properties) {
      const value = propertyValue(values, index, p);
      if (value !== null) keyProperty(e, open.clip.id, object, p, value, playhead);
    }
  });
}
