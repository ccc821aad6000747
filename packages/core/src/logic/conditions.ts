/**
 * What must hold, compiled: ids become numbers once, so that asking reads flat arrays. One entry for each kind of fact;
 * a forgotten one does not compile.
 */
import {
  COMPARISONS,
  type Comparison,
  type Condition,
  type Fact,
  type SignalCondition,
  type SignalValue,
} from '../model/index.ts';
import type { Lookup } from './names.ts';

/** What conditions ask of a run; all by number. */
export interface Facts {
  /** The value of a signal now; a pulse is true while it is up for whoever asks. */
  signal(signal: number): SignalValue;
  stateActive(lane: number, state: number): boolean;
  /** `object` −1: at whatever root. */
  clipPast(clip: number, object: number, seconds: number): boolean;
  /** Whether the pointer is over, or pressed on, an object or what lies below it; `object` −1: pressed at all. */
  over(object: number): boolean;
  pressed(object: number): boolean;
  /** How many things, of these objects by number (null: whichever), a zone has in it or near. */
  noticed(collider: number, only: ReadonlySet<number> | null): number;
  /** How fast the visitor walked in the last tick, px a second. */
  walked(): number;
}

export type Test = (facts: Facts) => boolean;

const never: Test = () => false;
const always: Test = () => true;

const FACTS: { [K in Fact]: (c: Extract<Condition, { fact: K }>, names: Lookup) => Test } = {
  state: (c, names) => {
    const lane = names.lane(c.lane);
    const state = names.state(lane, c.state);
    return lane < 0 || state < 0 ? never : (f) => f.stateActive(lane, state);
  },
  clip: (c, names) => {
    const clip = names.clip(c.clip);
    const object = c.object === undefined ? -1 : names.object(c.object);
    const missing = clip < 0 || (c.object !== undefined && object < 0);
    const { past } = c;
    return missing ? never : (f) => f.clipPast(clip, object, past);
  },
  over: (c, names) => {
    const object = names.object(c.object);
    return object < 0 ? never : (f) => f.over(object);
  },
  inside: (c, names) => noticed(c, names),
  near: (c, names) => noticed(c, names),
  count: (c, names) => {
    const collider = names.collider(c.collider);
    const only = tagged(c.tags, names);
    return collider < 0 ? never : compared(c, (f) => f.noticed(collider, only));
  },
  speed: (c) => compared(c, (f) => f.walked()),
  pressed: (c, names) => {
    const object = c.object === undefined ? -1 : names.object(c.object);
    return c.object !== undefined && object < 0 ? never : (f) => f.pressed(object);
  },
};

/** A number of the run, in the one way in which it is compared. */
function compared(c: { readonly [K in Comparison]?: number | undefined }, of: (f: Facts) => number): Test {
  for (const how of COMPARISONS) {
    const n = c[how];
    if (n !== undefined) return (f) => compare(of(f), how, n);
  }
  return never;
}

type Noticed = Extract<Condition, { fact: 'inside' | 'near' }>;

function noticed({ collider: id, other, tags }: Noticed, names: Lookup): Test {
  const collider = names.collider(id);
  let only = tagged(tags, names);
  if (other !== undefined) {
    const object = names.object(other);
    only = new Set(only === null || only.has(object) ? [object] : []);
  }
  return collider < 0 ? never : (f) => f.noticed(collider, only) > 0;
}

/** The objects that have one of these tags. */
function tagged(tags: readonly string[] | undefined, names: Lookup): ReadonlySet<number> | null {
  return tags === undefined ? null : new Set(tags.flatMap((t) => names.tagged(t)));
}

export function compileCondition(c: Condition, names: Lookup): Test {
  if ('signal' in c) return signalTest(c, names);
  const test = FACTS[c.fact](c as never, names);
  return c.is === false ? (f) => !test(f) : test;
}

export function compileConditions(list: readonly Condition[], names: Lookup): Test {
  const tests = list.map((c) => compileCondition(c, names));
  const [only] = tests;
  if (only === undefined) return always;
  return tests.length === 1 ? only : (f) => tests.every((holds) => holds(f));
}

function signalTest(c: SignalCondition, names: Lookup): Test {
  const left = names.signal(c.signal);
  for (const how of COMPARISONS) {
    const operand = c[how];
    if (operand === undefined) continue;
    if (left < 0) return compare(false, how, typeof operand === 'object' ? false : operand) ? always : never;
    if (typeof operand !== 'object') return (f) => compare(f.signal(left), how, operand);
    const right = names.signal(operand.signal);
    return right < 0
      ? (f) => compare(f.signal(left), how, false)
      : (f) => compare(f.signal(left), how, f.signal(right));
  }
  return never;
}

/** Ordering is for numbers only; anything else compared that way does not hold. */
function compare(left: SignalValue, how: Comparison, right: SignalValue): boolean {
  if (how === 'is') return left === right;
  if (how === 'not') return left !== right;
  if (typeof left !== 'number' || typeof right !== 'number') return false;
  switch (how) {
    case 'atLeast':
      return left >= right;
    case 'atMost':
      return left <= right;
    case 'above':
      return left > right;
    case 'below':
      return left < right;
  }
}

/** What a condition reads, for whoever must know when to ask it again. */
export interface Reads {
  signals: number[];
  lanes: number[];
  /** It may become true by time alone. */
  time: boolean;
  /** It asks what the pointer is over or pressed on. */
  pointer: boolean;
  /** Zones that it asks. */
  colliders: number[];
}

const asksZone = (c: { readonly collider: string }, names: Lookup, out: Reads) => {
  const collider = names.collider(c.collider);
  if (collider >= 0) out.colliders.push(collider);
};

const READS: { [K in Fact]: (c: Extract<Condition, { fact: K }>, names: Lookup, out: Reads) => void } = {
  state: (c, names, out) => {
    const lane = names.lane(c.lane);
    if (lane >= 0) out.lanes.push(lane);
  },
  clip: (_, _names, out) => {
    out.time = true;
  },
  speed: (_, _names, out) => {
    out.time = true;
  },
  over: (_, _names, out) => {
    out.pointer = true;
  },
  pressed: (_, _names, out) => {
    out.pointer = true;
  },
  inside: asksZone,
  near: asksZone,
  count: asksZone,
};

export function readsOf(list: readonly Condition[], names: Lookup): Reads {
  const out: Reads = { signals: [], lanes: [], time: false, pointer: false, colliders: [] };
  for (const c of list) {
    if (!('signal' in c)) {
      READS[c.fact](c as never, names, out);
      continue;
    }
    const ids = [c.signal];
    for (const how of COMPARISONS) {
      const operand = c[how];
      if (typeof operand === 'object') ids.push(operand.signal);
    }
    for (const id of ids) {
      const signal = names.signal(id);
      if (signal >= 0 && !out.signals.includes(signal)) out.signals.push(signal);
    }
  }
  return out;
}
