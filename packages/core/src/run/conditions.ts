/** What must hold, compiled: ids become numbers once, so that asking reads flat arrays. */
import {
  COMPARISONS,
  type Comparison,
  type Condition,
  type SignalCondition,
  type SignalValue,
} from '../model/index.ts';
import { NotInThisBuild } from './claims.ts';
import type { Facts, Reads, Test } from './facts.ts';
import type { FactTable, FeatureSet } from './feature.ts';
import type { Names } from './names.ts';

const never: Test = () => false;
const always: Test = () => true;

/** The facts of the spine. */
export const facts: FactTable<'state' | 'clip' | 'over' | 'pressed'> = {
  state: {
    test: (c, names) => {
      const lane = names.lane(c.lane);
      const state = names.state(lane, c.state);
      return lane < 0 || state < 0 ? never : (f) => f.stateActive(lane, state);
    },
    reads: (c, names, out) => {
      const lane = names.lane(c.lane);
      if (lane >= 0) out.lanes.push(lane);
    },
  },
  clip: {
    test: (c, names) => {
      const clip = names.clip(c.clip);
      const object = c.object === undefined ? -1 : names.object(c.object);
      const missing = clip < 0 || (c.object !== undefined && object < 0);
      const { past } = c;
      return missing ? never : (f) => f.clipPast(clip, object, past);
    },
    reads: (_, _names, out) => {
      out.time = true;
    },
  },
  over: {
    test: (c, names) => {
      const object = names.object(c.object);
      return object < 0 ? never : (f) => f.over(object);
    },
    reads: (_, _names, out) => {
      out.pointer = true;
    },
  },
  pressed: {
    test: (c, names) => {
      const object = c.object === undefined ? -1 : names.object(c.object);
      return c.object !== undefined && object < 0 ? never : (f) => f.pressed(object);
    },
    reads: (_, _names, out) => {
      out.pointer = true;
    },
  },
};

/** A number of the run, in the one way in which it is compared. */
export function compared(
  c: { readonly [K in Comparison]?: number | undefined },
  of: (f: Facts) => number,
): Test {
  for (const how of COMPARISONS) {
    const n = c[how];
    if (n !== undefined) return (f) => compare(of(f), how, n);
  }
  return never;
}

/** Each condition of a list by itself; `place`: whose they are, by id. */
export function compileTests(
  list: readonly Condition[],
  names: Names,
  features: FeatureSet,
  place: string,
): Test[] {
  return list.map((c) => {
    if ('signal' in c) return signalTest(c, names);
    const fact = features.facts.get(c.fact);
    if (!fact) throw new NotInThisBuild(`the condition "${c.fact}"`, place);
    const test = fact.test(c as never, names);
    return c.is === false ? (f) => !test(f) : test;
  });
}

/** Whether all of them hold. */
export function allOf(tests: readonly Test[]): Test {
  const [only] = tests;
  if (only === undefined) return always;
  return tests.length === 1 ? only : (f) => tests.every((holds) => holds(f));
}

function signalTest(c: SignalCondition, names: Names): Test {
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

/** What these conditions read. */
export function readsOf(list: readonly Condition[], names: Names, features: FeatureSet): Reads {
  const out: Reads = { signals: [], lanes: [], time: false, pointer: false, topics: [] };
  for (const c of list) {
    if (!('signal' in c)) {
      features.facts.get(c.fact)?.reads(c as never, names, out);
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
