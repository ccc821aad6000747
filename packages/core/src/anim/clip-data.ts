/**
 * A clip compiled for sampling: all tracks in one flat array of numbers, all curves in another.
 *
 * Track record in `keys` from `start[i]`: per key [t, easing, v0, v1, v2]; `easing` is −1 for hold, −2 for linear,
 * else the offset of a curve in `curves`. Only colours use v1 and v2.
 */
import type { Clip, Easing, Key, PropertyInfo, Track } from '../model/index.ts';
import { propertyInfo, trackProperty, writeValue } from '../model/index.ts';
import {
  CURVE,
  compileCurve,
  compileStops,
  EASE_ROW,
  easeInPlace,
  HOLD,
  isStepped,
  LINEAR,
  writeEasing,
} from './easing.ts';

export const KEY = 5;
/** A position this little before a key counts as at the key: instants are only good to that. */
const AT_KEY = 1e-9;

/** How a track's values mix; the numbers stand in `mode`. What mixes as a switch changes at once. */
export const MIX_NUMBER = 0;
/** From key to key the shorter way round. */
const MIX_TURN = 1;
export const MIX_SWITCH = 2;
export const MIX_COLOR = 3;

/** Tracks as numbers, of one clip or of several. */
export interface Tracks {
  /** Per track: offset of its first key in `keys`, number of keys, way of mixing. */
  readonly start: Int32Array;
  readonly count: Int32Array;
  readonly mode: Uint8Array;
  /** 1 for an offset track, and what a pass of the clip brings to it. */
  readonly offset: Uint8Array;
  readonly gain: Float64Array;
  readonly keys: Float64Array;
  readonly curves: Float64Array;
}

export interface ClipData extends Tracks {
  readonly duration: number;
  /** Whether some track is an offset track. */
  readonly offsets: boolean;
  /** Where each curve lies in `curves`, by its name: equal ones have equal names. */
  readonly curveAt: ReadonlyMap<string, number>;
}

export function mixOf(info: PropertyInfo): number {
  switch (info.kind) {
    case 'switch':
    case 'look':
    case 'text':
      return MIX_SWITCH;
    case 'color':
      return MIX_COLOR;
    default:
      return MIX_NUMBER;
  }
}

export function compileClip(clip: Clip): ClipData {
  const tracks = clip.tracks;
  const total = tracks.reduce((n, t) => n + t.keys.length, 0);
  const keys = new Float64Array(total * KEY);
  const start = new Int32Array(tracks.length);
  const count = new Int32Array(tracks.length);
  const mode = new Uint8Array(tracks.length);
  const curves = new CurvePool();
  let at = 0;
  tracks.forEach((track, i) => {
    const info = propertyInfo(trackProperty(track)) as PropertyInfo;
    start[i] = at;
    count[i] = track.keys.length;
    const mix = track.shortest && info.kind === 'angle' ? MIX_TURN : mixOf(info);
    mode[i] = mix;
    const { rows, curves: own } = trackRows(track, mix, info);
    keys.set(rows, at);
    if (own.length > 0)
      for (let k = at; k < at + rows.length; k += KEY) {
        const curve = own[keys[k + 1] as number];
        if (curve) keys[k + 1] = curves.offset(curve.name, curve.data);
      }
    at += rows.length;
  });
  const offset = Uint8Array.from(tracks, (t) => (t.mode === 'offset' ? 1 : 0));
  const gain = new Float64Array(tracks.length);
  const offsets = offset.includes(1);
  const data = {
    duration: clip.duration,
    start,
    count,
    mode,
    offset,
    gain,
    offsets,
    keys,
    curves: curves.data(),
    curveAt: curves.known,
  };
  tracks.forEach((_, i) => {
    if (offset[i] === 1) gain[i] = valueAt(data, i, clip.duration) - valueAt(data, i, 0);
  });
  return data;
}

/**
 * The tracks of several clips, one clip after another: what is sampled in one go lies side by side, and equal curves are
 * kept once, so that a thousand clips do not cost more each than a few.
 */
export function joinTracks(clips: readonly ClipData[]): Tracks {
  const tracks = clips.reduce((n, c) => n + c.start.length, 0);
  const start = new Int32Array(tracks);
  const count = new Int32Array(tracks);
  const mode = new Uint8Array(tracks);
  const offset = new Uint8Array(tracks);
  const gain = new Float64Array(tracks);
  const keys = new Float64Array(clips.reduce((n, c) => n + c.keys.length, 0));
  const curves = new CurvePool();
  let track = 0;
  let first = 0;
  for (const c of clips) {
    for (let i = 0; i < c.start.length; i++) start[track + i] = first + (c.start[i] as number);
    count.set(c.count, track);
    mode.set(c.mode, track);
    offset.set(c.offset, track);
    gain.set(c.gain, track);
    keys.set(c.keys, first);
    const moved = new Map<number, number>();
    const places = [...c.curveAt.values(), c.curves.length].sort((a, b) => a - b);
    for (const [name, at] of c.curveAt) {
      const end = places.find((p) => p > at);
      moved.set(at, curves.offset(name, c.curves.subarray(at, end)));
    }
    if (moved.size > 0)
      for (let k = first + 1; k < first + c.keys.length; k += KEY) {
        const at = keys[k] as number;
        if (at >= 0) keys[k] = moved.get(at) as number;
      }
    track += c.start.length;
    first += c.keys.length;
  }
  return { start, count, mode, offset, gain, keys, curves: curves.data() };
}

/** The number of track i at a place of its clip, seconds; not for colours. */
export function valueAt(d: Tracks, i: number, position: number): number {
  sampleTrack(d, i, position, ends, 0);
  return ends[0] as number;
}

interface Curve {
  readonly name: string;
  readonly data: Float64Array;
}
interface TrackRows {
  /** As in `ClipData.keys`, but that a curve is told by its place in `curves`. */
  readonly rows: Float64Array;
  readonly curves: readonly Curve[];
}
const compiledTracks = new WeakMap<Track, TrackRows>();

/** Records are never changed in place, so what an edit leaves alone is worked out once. */
function trackRows(track: Track, mix: number, info: PropertyInfo): TrackRows {
  let made = compiledTracks.get(track);
  if (made) return made;
  const rows = new Float64Array(track.keys.length * KEY);
  const curves: Curve[] = [];
  const known = new Map<string, number>();
  const plain = mix === MIX_NUMBER || mix === MIX_TURN;
  track.keys.forEach((k, n) => {
    const easing = k.easing === 'auto' ? autoEasing(track.keys, n, mix, info) : k.easing;
    let place = easing === 'hold' ? HOLD : LINEAR;
    if (typeof easing === 'object') {
      const name = JSON.stringify(easing);
      place = known.get(name) ?? curves.push({ name, data: curveOf(easing) }) - 1;
      known.set(name, place);
    }
    const at = n * KEY;
    rows[at] = k.t;
    rows[at + 1] = place;
    // Most values are numbers, and a drag compiles thousands of keys a frame.
    if (plain) rows[at + 2] = k.value as number;
    else writeValue(info, k.value, rows, at + 2);
  });
  made = { rows, curves };
  compiledTracks.set(track, made);
  return made;
}

export function curveOf(easing: Exclude<Easing, string>): Float64Array {
  if ('linear' in easing) return compileStops(easing.linear);
  const curve = new Float64Array(CURVE);
  writeEasing(row, 0, easing);
  compileCurve(curve, 0, row, 0);
  return curve;
}

/** Equal curves are kept once: most clips use a handful. `data` is all of them, one after another. */
export class CurvePool {
  /** Where each lies, by its name. */
  readonly known = new Map<string, number>();
  readonly #list: Float64Array[] = [];
  #end = 0;

  offset(name: string, curve: Float64Array): number {
    const known = this.known.get(name);
    if (known !== undefined) return known;
    const at = this.#end;
    this.known.set(name, at);
    this.#list.push(curve);
    this.#end += curve.length;
    return at;
  }

  data(): Float64Array {
    const pool = new Float64Array(this.#end);
    let at = 0;
    for (const curve of this.#list) {
      pool.set(curve, at);
      at += curve.length;
    }
    return pool;
  }
}

const row = new Float64Array(EASE_ROW);

/**
 * The curve of an automatic segment: a cubic through the keys without a corner at them that never swings past one. The
 * slope at a key is the weighted harmonic mean of those on both sides (Fritsch and Butland 1984), 0 at the ends and where
 * the motion turns back. A cubic in time is the Bézier whose handles lie at a third and two thirds.
 */
function autoEasing(
  keys: readonly Key[],
  n: number,
  mode: number,
  info: PropertyInfo,
): Exclude<Easing, 'auto'> {
  const rise = (i: number): number => {
    const [a, b] = [keys[i], keys[i + 1]];
    if (!a || !b) return 0;
    writeValue(info, a.value, ends, 0);
    writeValue(info, b.value, ends, 3);
    const apart = (c: number) => (ends[3 + c] as number) - (ends[c] as number);
    // Colours have no way back: how far they are apart counts.
    const by =
      mode === MIX_COLOR
        ? Math.sqrt(apart(0) ** 2 + apart(1) ** 2 + apart(2) ** 2)
        : mode === MIX_TURN
          ? shortWay(apart(0))
          : apart(0);
    return by / (b.t - a.t);
  };
  const slope = (i: number) => {
    const [left, right] = [rise(i - 1), rise(i)];
    if (!(left * right > 0)) return 0;
    const before = (keys[i] as Key).t - (keys[i - 1] as Key).t;
    const after = (keys[i + 1] as Key).t - (keys[i] as Key).t;
    const [w1, w2] = [2 * after + before, after + 2 * before];
    return (w1 + w2) / (w1 / left + w2 / right);
  };
  const own = rise(n);
  if (own === 0) return 'linear';
  return { bezier: [1 / 3, slope(n) / (3 * own), 2 / 3, 1 - slope(n + 1) / (3 * own)] };
}

const ends = new Float64Array(6);

/** The same turn, in degrees, more than −180 and at most 180. */
function shortWay(degrees: number): number {
  const d = degrees - 360 * Math.floor(degrees / 360);
  return d > 180 ? d - 360 : d;
}

/**
 * The value of track `i` at `position` seconds (already within the clip), written to `out[at]` (colours to
 * `out[at…at+2]`). Before the first key the first value, after the last the last; at a key, that key's value.
 */
export function sampleTrack(d: Tracks, i: number, position: number, out: Float64Array, at: number): void {
  place[0] = position;
  sampleAt(d, i, place, out, at);
}

const place = new Float64Array(1);
const progress = new Float64Array(1);

/** `sampleTrack` at `position[0]` seconds: a number that is passed in an array costs no memory. */
export function sampleAt(d: Tracks, i: number, position: Float64Array, out: Float64Array, at: number): void {
  const keys = d.keys;
  const first = d.start[i] as number;
  const p = (position[0] as number) + AT_KEY;
  let lo = 0;
  let hi = (d.count[i] as number) - 1;
  // The last key at or before the position (or the first of all).
  while (lo < hi) {
    const mid = (lo + hi + 1) >> 1;
    if ((keys[first + mid * KEY] as number) <= p) lo = mid;
    else hi = mid - 1;
  }
  const k = first + lo * KEY;
  const mode = d.mode[i] as number;
  const wide = mode === MIX_COLOR;
  out[at] = keys[k + 2] as number;
  if (wide) {
    out[at + 1] = keys[k + 3] as number;
    out[at + 2] = keys[k + 4] as number;
  }
  const easing = keys[k + 1] as number;
  if (lo === (d.count[i] as number) - 1 || easing === HOLD || mode === MIX_SWITCH) return;
  const t0 = keys[k] as number;
  const length = (keys[k + KEY] as number) - t0;
  // Before its first key a track has that one's value.
  if (p < t0) return;
  const isSteps = easing >= 0 && isStepped(d.curves, easing);
  progress[0] = ((position[0] as number) - t0 + (isSteps ? AT_KEY : 0)) / length;
  if (!isSteps && !((progress[0] as number) > 0)) return;
  if (easing >= 0) easeInPlace(d.curves, easing, progress);
  let e = progress[0] as number;
  // Overshooting easing extrapolates numbers; colours stop at their ends. Amounts are bounded after all mixing.
  if (wide) e = e < 0 ? 0 : Math.min(e, 1);
  for (let c = 0; c < (wide ? 3 : 1); c++) {
    const v0 = keys[k + 2 + c] as number;
    const apart = (keys[k + KEY + 2 + c] as number) - v0;
    out[at + c] = v0 + (mode === MIX_TURN ? shortWay(apart) : apart) * e;
  }
}
