/**
 * Changes of many keys of a clip at once, each as a new clip. A key is named by what it keys and when, so that it is the
 * same one whatever stands beside it. A key that comes to the place of one that was not meant takes its place.
 */
import type { Clip, Key, Track } from './clip.ts';
import type { Easing } from './easing.ts';

export interface KeyId {
  readonly object: string;
  readonly property: string;
  /** Seconds. */
  readonly t: number;
}

/** Keys closer than this, in seconds, are one. */
const SAME_KEY = 1e-9;

export const keysTrack = (t: { readonly object: string; readonly property: string }) =>
  `${t.object} ${t.property}`;

/** Whether one of a list in order of time is at this one. */
export function hasTime<T>(list: readonly T[], t: number, timeOf: (x: T) => number): boolean {
  let low = 0;
  let high = list.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (timeOf(list[middle] as T) < t - SAME_KEY) low = middle + 1;
    else high = middle;
  }
  return low < list.length && timeOf(list[low] as T) <= t + SAME_KEY;
}

/** Which of a track's times are among those named; null when none of the track is. Made once, asked often. */
export function keyFinder(
  ids: readonly KeyId[],
): (track: { readonly object: string; readonly property: string }) => ((t: number) => boolean) | null {
  const times = new Map<string, number[]>();
  for (const id of ids) {
    const name = keysTrack(id);
    const list = times.get(name);
    if (list) list.push(id.t);
    else times.set(name, [id.t]);
  }
  for (const list of times.values()) list.sort((a, b) => a - b);
  return (track) => {
    const list = times.get(keysTrack(track));
    return list ? (t) => hasTime(list, t, (x) => x) : null;
  };
}

/** The clip with each named key changed; `change` may give another time. Also the names that the keys have then. */
export function changeKeys(
  clip: Clip,
  ids: readonly KeyId[],
  change: (key: Key, track: Track) => Key,
): { readonly clip: Clip; readonly keys: readonly KeyId[] } {
  const meantIn = keyFinder(ids);
  const keys: KeyId[] = [];
  let { duration } = clip;
  const tracks = clip.tracks.map((track) => {
    const isMeant = meantIn(track);
    if (!isMeant) return track;
    const changed: Key[] = [];
    const others: Key[] = [];
    for (const k of track.keys)
      if (isMeant(k.t)) {
        const next = change(k, track);
        // Of two that come to one place the later one counts.
        if (changed.length > 0 && Math.abs((changed.at(-1) as Key).t - next.t) <= SAME_KEY) changed.pop();
        changed.push(next);
      } else others.push(k);
    if (changed.length === 0) return track;
    for (const k of changed) {
      keys.push({ object: track.object, property: track.property, t: k.t });
      duration = Math.max(duration, k.t);
    }
    changed.sort((a, b) => a.t - b.t);
    return { ...track, keys: posedOver(others, changed) };
  });
  return { clip: { ...clip, tracks, duration }, keys };
}

/** Both lists, each in order of time, as one; of two at one time the one of `over` stays. */
function posedOver(under: readonly Key[], over: readonly Key[]): Key[] {
  const keys: Key[] = [];
  let i = 0;
  for (const k of over) {
    while (i < under.length && (under[i] as Key).t < k.t - SAME_KEY) keys.push(under[i++] as Key);
    while (i < under.length && (under[i] as Key).t <= k.t + SAME_KEY) i++;
    keys.push(k);
  }
  while (i < under.length) keys.push(under[i++] as Key);
  return keys;
}

/** The clip without the named keys; a track of which none is left goes. */
export function withoutKeys(clip: Clip, ids: readonly KeyId[]): Clip {
  const meantIn = keyFinder(ids);
  return {
    ...clip,
    tracks: clip.tracks.flatMap((track) => {
      const isMeant = meantIn(track);
      if (!isMeant) return [track];
      const keys = track.keys.filter((k) => !isMeant(k.t));
      return keys.length === track.keys.length ? [track] : keys.length > 0 ? [{ ...track, keys }] : [];
    }),
  };
}

/** Moved by so many seconds, all alike: none comes before 0. */
export function moveKeys(clip: Clip, ids: readonly KeyId[], by: number): ReturnType<typeof changeKeys> {
  const first = Math.min(...ids.map((k) => k.t));
  const real = Math.max(by, -first);
  return changeKeys(clip, ids, (k) => ({ ...k, t: k.t + real }));
}

/** Copies of them, so many seconds later or earlier; the keys stay, but for those in whose place a copy comes. */
export function copyKeysBy(clip: Clip, ids: readonly KeyId[], by: number): ReturnType<typeof changeKeys> {
  const done = moveKeys(clip, ids, by);
  const meantIn = keyFinder(ids);
  const tracks = done.clip.tracks.map((track) => {
    const isMeant = meantIn(track);
    const before = clip.tracks.find((t) => keysTrack(t) === keysTrack(track));
    if (!isMeant || !before) return track;
    const stay = before.keys.filter(
      (k) => isMeant(k.t) && !track.keys.some((x) => Math.abs(x.t - k.t) < 1e-9),
    );
    return { ...track, keys: [...track.keys, ...stay].sort((a, b) => a.t - b.t) };
  });
  return { ...done, clip: { ...done.clip, tracks } };
}

/** Stretched about a time that stays, by a factor that is not 0: a negative one turns their order round. */
export function stretchKeys(
  clip: Clip,
  ids: readonly KeyId[],
  about: number,
  factor: number,
): ReturnType<typeof changeKeys> {
  return changeKeys(clip, ids, (k) => ({ ...k, t: Math.max(0, about + (k.t - about) * factor) }));
}

/** Turned round in time, within the span that they take; the speed of each segment is turned round too. */
export function reverseKeys(clip: Clip, ids: readonly KeyId[]): ReturnType<typeof changeKeys> {
  const times = ids.map((k) => k.t);
  const sum = Math.min(...times) + Math.max(...times);
  const meantIn = keyFinder(ids);
  const easings = new Map<string, Map<number, Easing>>();
  for (const track of clip.tracks) {
    const isMeant = meantIn(track);
    if (!isMeant) continue;
    const own = track.keys.filter((k) => isMeant(k.t));
    const by = new Map<number, Easing>();
    // What led from a key to the next leads back from that one; the last's easing stays with what is last then.
    own.forEach((k, i) => {
      const before = own[i - 1];
      by.set(k.t, before ? reversed(before.easing) : (own.at(-1) as Key).easing);
    });
    easings.set(keysTrack(track), by);
  }
  return changeKeys(clip, ids, (k, track) => ({
    ...k,
    t: sum - k.t,
    easing: easings.get(keysTrack(track))?.get(k.t) ?? k.easing,
  }));
}

/** The easing that goes the same way from the end to the start, where there is one: 1 − e(1 − x). */
function reversed(e: Easing): Easing {
  // What stood until the next key has to leave at once.
  if (e === 'hold') return { steps: 1, position: 'jump-start' };
  if (typeof e === 'string') return e;
  if ('bezier' in e) {
    const [x1, y1, x2, y2] = e.bezier;
    return { bezier: [1 - x2, 1 - y2, 1 - x1, 1 - y1] };
  }
  if ('steps' in e) {
    if (e.steps === 1 && e.position === 'jump-start') return 'hold';
    const other = { 'jump-start': 'jump-end', 'jump-end': 'jump-start' } as const;
    return { ...e, position: other[e.position as keyof typeof other] ?? e.position };
  }
  if ('linear' in e)
    return {
      linear: e.linear
        .map((x): number | [number, number] => (typeof x === 'number' ? 1 - x : [1 - x[0], 100 - x[1]]))
        .reverse(),
    };
  if ('family' in e) return { ...e, way: e.way === 'in' ? 'out' : e.way === 'out' ? 'in' : e.way };
  return e;
}

/** The whole clip in another length: keys and cues keep their parts of it. From 0 to more, or to 0, nothing is stretched. */
export function stretchClip(clip: Clip, duration: number): Clip {
  if (clip.duration === 0 || duration === 0) return { ...clip, duration };
  const by = duration / clip.duration;
  return {
    ...clip,
    duration,
    tracks: clip.tracks.map((t) => ({ ...t, keys: t.keys.map((k) => ({ ...k, t: k.t * by })) })),
    cues: clip.cues.map((q) => ({ ...q, t: Math.min(duration, q.t * by) })),
  };
}

/** Keys taken out of a clip, their times from the first of them on. */
export interface KeyCopy {
  readonly tracks: readonly Track[];
}

export function copyKeys(clip: Clip, ids: readonly KeyId[]): KeyCopy {
  const meantIn = keyFinder(ids);
  const first = Math.min(...ids.map((k) => k.t));
  return {
    tracks: clip.tracks.flatMap((track) => {
      const isMeant = meantIn(track);
      if (!isMeant) return [];
      const keys = track.keys.filter((k) => isMeant(k.t)).map((k) => ({ ...k, t: k.t - first }));
      return keys.length > 0 ? [{ ...track, keys }] : [];
    }),
  };
}

/** The clip with copied keys from time `at` on. `to` gives the object that each stands for; without one they are left out. */
export function pasteKeys(
  clip: Clip,
  copy: KeyCopy,
  at: number,
  to: (object: string) => string | undefined,
): { readonly clip: Clip; readonly keys: readonly KeyId[] } {
  const tracks = [...clip.tracks];
  const keys: KeyId[] = [];
  let { duration } = clip;
  for (const from of copy.tracks) {
    const object = to(from.object);
    if (object === undefined) continue;
    const n = tracks.findIndex((t) => t.object === object && t.property === from.property);
    const old: Track = tracks[n] ?? { ...from, object, keys: [] };
    const pasted = from.keys.map((k) => ({ ...k, t: k.t + at }));
    const stays = old.keys.filter((k) => !pasted.some((p) => Math.abs(p.t - k.t) <= SAME_KEY));
    const next = { ...old, keys: [...stays, ...pasted].sort((a, b) => a.t - b.t) };
    if (n < 0) tracks.push(next);
    else tracks[n] = next;
    for (const k of pasted) {
      keys.push({ object, property: from.property, t: k.t });
      duration = Math.max(duration, k.t);
    }
  }
  return { clip: { ...clip, tracks, duration }, keys };
}
