/** The plays of the plain interpreter in `oracle.ts`: all that a play will meet is written down when it begins. */
import type { Clip } from '../src/model/index.ts';

export const SAME = 1e-9;
export const near = (t: number) => {
  const tick = Math.round(t * 60) / 60;
  return Math.abs(t - tick) < SAME ? tick : t;
};

/** What a play meets, in order: cues by number, the end of a once-clip, the turn of another. */
export type Met =
  | { t: number; what: 'cue'; cues: number[] }
  /** An end that is reached is served whole: its cues, what it is, then the cues at the start of the next pass. */
  | { t: number; what: 'done' | 'turn'; cues: number[]; start: number[] };
const HORIZON = 12;

export interface Play {
  clip: Clip;
  speed: number;
  way: 1 | -1;
  raw0: number;
  t0: number;
  ahead: Met[];
  ended: boolean;
  /** What lies at the very start counts, and nothing has been met yet. */
  fresh: boolean;
  /** Paused at a turn that is still to be served. */
  turnWaits?: boolean;
  /** What each offset track adds to, by its slot. */
  starts: Map<string, number>;
}

export function keysOf(clip: Clip): Set<string> {
  return new Set(clip.tracks.map((k) => `${k.object}/${k.property}`));
}

/** The slots of a clip's offset tracks. */
export function offsetsOf(clip: Clip): string[] {
  return clip.tracks.flatMap((k) => (k.mode === 'offset' ? [`${k.object}/${k.property}`] : []));
}

/** What a play shows of a slot: of an offset track what it stood on, and all that was gained since. */
export function sample(p: Play, slot: string, t: number): number {
  return gained(p, slot, t) + (p.starts.get(slot) ?? 0);
}

/** What a track comes to: of an offset track with what all the passes before have brought. */
export function gained(p: Play, slot: string, t: number): number {
  const at = placeOf(p, t);
  const here = keyed(p.clip, slot, at);
  const adds = p.clip.tracks.some((k) => k.mode === 'offset' && `${k.object}/${k.property}` === slot);
  const d = p.clip.duration;
  if (!adds || p.clip.loop !== 'loop' || d === 0) return here;
  const passes = Math.round((rawAt(p, t) - at) / d);
  return here + passes * (keyed(p.clip, slot, d) - keyed(p.clip, slot, 0));
}

/** Linear and held segments only. */
export function keyed(clip: Clip, slot: string, at: number): number {
  const keys = clip.tracks.find((k) => `${k.object}/${k.property}` === slot)?.keys ?? [];
  const i = Math.max(
    0,
    keys.findLastIndex((k) => k.t <= at + SAME),
  );
  const [a, b] = [keys[i], keys[i + 1]];
  if (!a) return 0;
  if (!b || a.easing === 'hold' || at <= a.t) return a.value as number;
  return (a.value as number) + (((b.value as number) - (a.value as number)) * (at - a.t)) / (b.t - a.t);
}

function rawAt(p: Play, t: number): number {
  const raw = p.speed === 0 ? p.raw0 : p.raw0 + p.speed * (t - p.t0);
  return p.clip.loop === 'once' ? Math.min(p.clip.duration, Math.max(0, raw)) : raw;
}
/** The place within one pass; instants 1e-9 apart are one, and the end of a pass is where the next one starts. */
export function placeOf(p: Play, t: number): number {
  const d = p.clip.duration;
  if (d === 0) return 0;
  let raw = rawAt(p, t);
  const n = Math.round(raw / d);
  const atEnd = Math.abs(raw - n * d) <= SAME * Math.max(1, Math.abs(p.speed));
  if (atEnd) raw = n * d;
  if (p.clip.loop === 'once') return raw;
  if (p.clip.loop === 'there-and-back') {
    if (atEnd) return n % 2 === 0 ? 0 : d;
    const m = raw - Math.floor(raw / (2 * d)) * 2 * d;
    return m <= d ? m : 2 * d - m;
  }
  if (atEnd) return p.way < 0 ? d : 0;
  return raw - Math.floor(raw / d) * d;
}

/** A play from raw position `raw`: all that it will meet, written down at once. `fresh`: what lies there counts; `endToo`: an end, too. */
export function begin(
  clip: Clip,
  raw: number,
  t0: number,
  speed: number,
  way: 1 | -1,
  fresh: boolean,
  endToo = false,
): Play {
  const p: Play = { clip, speed, way, raw0: raw, t0, ahead: [], ended: false, fresh, starts: new Map() };
  const d = clip.duration;
  const forward = way > 0;
  /** The cues at a place that count in this direction, in the order of the clip. */
  const at = (place: number, forwards: boolean, any = false) =>
    clip.cues.flatMap((q, n) =>
      Math.abs(q.t - place) <= SAME && (any || goes(q.when, forwards)) ? [n] : [],
    );
  if (d === 0) {
    if (!fresh) return { ...p, ended: true };
    p.ahead = [{ t: t0, what: 'done', cues: at(0, forward), start: [] }];
    return p;
  }
  if (speed === 0) return p;
  const dateOf = (r: number) => (r === raw ? t0 : near(t0 + (r - raw) / speed));
  const beyond = (r: number) =>
    (forward ? r > raw + SAME : r < raw - SAME) || (fresh && Math.abs(r - raw) <= SAME);
  const list: { r: number; met: Met[] }[] = [];
  const cues = (r: number, list: number[]): { r: number; met: Met[] } => ({
    r,
    met: [{ t: dateOf(r), what: 'cue', cues: list }],
  });
  const places = [...new Set(clip.cues.map((q) => q.t))];
  if (clip.loop === 'once') {
    const end = forward ? d : 0;
    for (const c of places) if (Math.abs(c - end) > SAME && beyond(c)) list.push(cues(c, at(c, forward)));
    if (forward ? end >= raw : end <= raw)
      list.push({
        r: end,
        met: [{ t: dateOf(end), what: 'done', cues: beyond(end) ? at(end, forward) : [], start: [] }],
      });
  } else {
    const last = raw + speed * HORIZON;
    const [low, high] = [Math.floor(Math.min(raw, last) / d) - 1, Math.ceil(Math.max(raw, last) / d) + 1];
    for (let n = low; n <= high; n++) {
      // Pass n lies between n·d and (n + 1)·d; the odd ones of there-and-back are gone through from the end.
      const back = clip.loop === 'there-and-back' && n % 2 !== 0;
      for (const c of places) {
        const r = n * d + (back ? d - c : c);
        if (c > SAME && c < d - SAME && beyond(r)) list.push(cues(r, at(c, forward !== back)));
      }
      const r = n * d;
      if (!beyond(r)) continue;
      const isStart = Math.abs(r - raw) <= SAME && !endToo;
      const loop = clip.loop === 'loop';
      const end = loop ? (forward ? d : 0) : n % 2 === 0 ? 0 : d;
      const start = loop ? at(forward ? 0 : d, forward) : [];
      if (isStart) list.push(cues(r, loop ? start : at(end, end === 0)));
      else list.push({ r, met: [{ t: dateOf(r), what: 'turn', cues: at(end, forward, !loop), start }] });
    }
  }
  list.sort((a, b) => (forward ? a.r - b.r : b.r - a.r));
  p.ahead = list.flatMap((x) => x.met);
  return p;
}
const goes = (when: string, forwards: boolean) => when === 'both' || (when === 'forwards') === forwards;

/** The same play at another speed: from where it stands; what lies there was met, if it was. */
export function turned(p: Play, t: number, speed: number): Play {
  return { ...goingOn(p, t, speed), starts: p.starts };
}
function goingOn(p: Play, t: number, speed: number): Play {
  const way = speed === 0 ? p.way : speed < 0 ? -1 : 1;
  const raw = snapped(p, t);
  // What lies at this very place and is not served yet is still to come.
  const waits = p.ahead.some((m) => Math.abs(m.t - t) <= SAME) || (p.fresh && raw === p.raw0);
  const due = p.turnWaits || p.ahead.some((m) => m.what === 'turn' && Math.abs(m.t - t) <= SAME);
  const next = begin(p.clip, raw, t, speed, way, waits, due && way === p.way);
  if (speed === 0 && due) next.turnWaits = true;
  if (p.clip.duration === 0) return p.fresh ? next : { ...next, ahead: p.ahead, ended: p.ended };
  if (p.ended && (way > 0 ? raw >= p.clip.duration : raw <= 0)) return { ...next, ahead: [], ended: true };
  return next;
}
/** The raw position, exactly that of an end or a cue where it is one. */
function snapped(p: Play, t: number): number {
  const raw = rawAt(p, t);
  const d = p.clip.duration;
  if (d === 0) return 0;
  const marks = [0, d, ...p.clip.cues.map((q) => q.t)];
  const base = p.clip.loop === 'once' ? 0 : Math.floor(raw / d + 1e-9) * d;
  const back = p.clip.loop === 'there-and-back' && Math.round(base / d) % 2 !== 0;
  for (const m of marks) {
    const r = base + (back ? d - m : m);
    if (Math.abs(r - raw) <= SAME * Math.max(1, Math.abs(p.speed))) return r;
  }
  return raw;
}
