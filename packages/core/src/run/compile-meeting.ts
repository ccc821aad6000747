/** Who may meet whom, compiled: zones and what they notice, as numbers. */
import { type ClipData, HOLD, KEY, valueAt } from '../anim/index.ts';
import { type Blocker, CHANNELS, type Collider, type Piece, type SceneObject } from '../model/index.ts';
import { type Geometry, zoneShape } from '../world/index.ts';
import {
  type BlockerProgram,
  type ClipProgram,
  type ColliderProgram,
  type LaneProgram,
  type Meeting,
  type MeetingLane,
  PLAY,
} from './program.ts';

/** The channels by which a thing has its place: position, rotation, scale, pivot. */
export const PLACE_CHANNELS = 12;

/** A zone with the number of its owner. */
export interface OwnedCollider {
  readonly collider: Exclude<Collider, Blocker>;
  /** Its number among all colliders, in document order. */
  readonly order: number;
  readonly object: number;
}

/** The zones of a piece in the order of the document, those that no object has left out. */
export function ownedColliders(piece: Piece, objects: readonly SceneObject[]): OwnedCollider[] {
  const owners = new Map<string, number>();
  const colliders = Object.values(piece.colliders);
  if (colliders.length === 0) return [];
  objects.forEach((o, i) => {
    for (const id of o.colliders ?? []) if (!owners.has(id)) owners.set(id, i);
  });
  return colliders.flatMap((collider, order) => {
    const object = owners.get(collider.id);
    return object === undefined || collider.role === 'blocker' ? [] : [{ collider, order, object }];
  });
}

/** What tells which things a zone notices. */
const keyOf = ({ tags, visitor }: OwnedCollider['collider']) =>
  `${[...tags].sort().join()}${visitor ? ' visitor' : ''}`;

/** The blockers of a piece, likewise. */
export function blockersOf(
  piece: Piece,
  objects: readonly SceneObject[],
  switches: Switches,
): BlockerProgram[] {
  return Object.values(piece.colliders).flatMap((blocker, order) => {
    const object = objects.findIndex((o) => o.colliders?.includes(blocker.id));
    return blocker.role !== 'blocker' || object < 0
      ? []
      : [{ blocker, order, object, switchAt: switches(blocker.id) }];
  });
}

/** Index into the values of a zone's switch, where something writes that, else −1. */
type Switches = (collider: string) => number;

export function compileMeeting(
  owned: readonly OwnedCollider[],
  objects: readonly SceneObject[],
  visitor: number,
  geometry: Geometry,
  lanes: readonly LaneProgram[],
  clips: readonly ClipProgram[],
  switches: Switches,
  /** What blocks, and what is stopped: where these are is known, too. */
  bodies: readonly number[],
): Meeting {
  const inMeeting = new Set<number>();
  const take = (i: number) => {
    for (let o = i; o >= 0 && !inMeeting.has(o); o = geometry.parent[o] as number) inMeeting.add(o);
  };
  const thingsByTags = new Map<string, number[]>();
  for (const { collider: c, object } of owned) {
    take(object);
    const key = keyOf(c);
    if (thingsByTags.has(key)) continue;
    const things = objects.flatMap((o, i) =>
      o.tags.some((t) => c.tags.includes(t)) || (i === visitor && c.visitor) ? [i] : [],
    );
    thingsByTags.set(key, things);
    for (const i of things) take(i);
  }
  for (const i of bodies) take(i);
  const nodes = Int32Array.from([...inMeeting].sort((a, b) => a - b));
  const nodeOf = new Map([...nodes].map((o, k) => [o, k]));
  const ranks = new Map(
    [...thingsByTags].map(([key, things]) => {
      const rank = new Int32Array(nodes.length).fill(-1);
      things.forEach((i, n) => {
        rank[nodeOf.get(i) as number] = n;
      });
      return [key, { rank, count: things.length }];
    }),
  );
  let pairs = 0;
  const colliders = owned.map(({ collider, order, object }): ColliderProgram => {
    const { rank, count } = ranks.get(keyOf(collider)) as {
      rank: Int32Array;
      count: number;
    };
    const firstPair = pairs;
    pairs += count;
    return {
      collider,
      order,
      shape: zoneShape(collider),
      switchAt: switches(collider.id),
      object,
      owner: nodeOf.get(object) as number,
      rank,
      firstPair,
      count,
    };
  });
  const isPlace = (at: number) => at % CHANNELS < PLACE_CHANNELS && nodeOf.has(Math.floor(at / CHANNELS));
  return {
    colliders,
    index: new Map(colliders.map((c, k) => [c.collider.id, k])),
    pairs,
    nodes,
    above: nodes.map((o) => nodeOf.get(geometry.parent[o] as number) ?? -1),
    nodeOf,
    things: [...new Set([...thingsByTags.values()].flat())].sort((a, b) => a - b),
    lanes: lanes.flatMap((lane, i) => meetingLane(lane, i, clips, isPlace)),
  };
}

/** What a lane writes of places; nothing when it writes none. */
function meetingLane(
  lane: LaneProgram,
  number: number,
  clips: readonly ClipProgram[],
  isPlace: (at: number) => boolean,
): MeetingLane[] {
  const places = [...lane.slots].filter(isPlace);
  if (places.length === 0) return [];
  const jumps = lane.states.map((s) => {
    const c = clips[s.clip];
    if (s.kind !== PLAY || !c) return [];
    return [...s.trackValues].flatMap((at, k) => (at >= 0 && isPlace(at) ? jumpsOf(c, k, at) : []));
  });
  const blends = lane.states.flatMap((s) => (s.blend ? [s.blend.signal, ...s.blend.amountSignals] : []));
  const weighedBy = [lane.amountSignal, ...blends].filter((i) => i >= 0);
  return [{ lane: number, places, jumps: jumps.some((x) => x.length > 0) ? jumps : null, weighedBy }];
}

/** Values that differ by less did not jump. */
export const JUMP = 1e-6;
/** So long before a moment a clip stands before it. */
const BEFORE = 2e-9;

/** Where the value of track k jumps: at keys after one that holds, at steps, and at the turn of a loop (`t` null). */
function jumpsOf({ clip, data }: ClipProgram, k: number, at: number): { t: number | null; at: number }[] {
  const out: { t: number | null; at: number }[] = [];
  const first = data.start[k] as number;
  const keyAt = (n: number) => data.keys[first + n * KEY] as number;
  for (let n = 0; n + 1 < (data.count[k] as number); n++) {
    const easing = data.keys[first + n * KEY + 1] as number;
    const [from, to] = [keyAt(n), keyAt(n + 1)];
    const parts = easing === HOLD ? [1] : (stepsOf(clip.tracks[k]?.keys[n]?.easing) ?? []);
    for (const part of parts) {
      const t = from + (to - from) * part;
      if (Math.abs(valueAt(data, k, t) - valueAt(data, k, t - BEFORE)) > 1e-3) out.push({ t, at });
    }
  }
  if (clip.loop === 'loop' && data.offset[k] !== 1 && turns(data, k)) out.push({ t: null, at });
  return out;
}

function turns(data: ClipData, k: number): boolean {
  return Math.abs(valueAt(data, k, data.duration) - valueAt(data, k, 0)) > JUMP;
}

/** The parts of a segment at which its easing may jump. */
function stepsOf(easing: unknown): number[] | null {
  const e = easing as { steps?: number; linear?: readonly unknown[] };
  if (typeof easing !== 'object' || easing === null) return null;
  if (e.steps !== undefined) return Array.from({ length: e.steps + 1 }, (_, i) => i / (e.steps as number));
  return null;
}
