/** What must hold. The run answers for signals, states and clips through `Facts`. */
import {
  COMPARISONS,
  type Comparison,
  type Condition,
  type SignalCondition,
  type SignalValue,
} from '../model/index.ts';

export interface Facts {
  /** The value of a signal now; a pulse is true while it is up for whoever asks. */
  signal(id: string): SignalValue;
  stateActive(lane: string, state: string): boolean;
  clipPast(clip: string, object: string | undefined, seconds: number): boolean;
}

export function conditionHolds(c: Condition, facts: Facts): boolean {
  if ('signal' in c) return signalHolds(c, facts);
  const fact =
    c.fact === 'state' ? facts.stateActive(c.lane, c.state) : facts.clipPast(c.clip, c.object, c.past);
  return fact === (c.is ?? true);
}

export function allHold(list: readonly Condition[], facts: Facts): boolean {
  for (const c of list) if (!conditionHolds(c, facts)) return false;
  return true;
}

function signalHolds(c: SignalCondition, facts: Facts): boolean {
  const left = facts.signal(c.signal);
  for (const how of COMPARISONS) {
    const operand = c[how];
    if (operand === undefined) continue;
    const right = typeof operand === 'object' ? facts.signal(operand.signal) : operand;
    return compare(left, how, right);
  }
  return false;
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
