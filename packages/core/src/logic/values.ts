/** Values in actions: read at the moment the action acts. */
import { drawUnit } from '../base/index.ts';
import type { SignalValue, Value } from '../model/index.ts';

export interface ValueSource {
  signal(id: string): SignalValue;
  /** Words of the consumer's random stream, for `pick`. */
  readonly random: Uint32Array;
  readonly randomAt: number;
}

export function readValue(v: Value, source: ValueSource): SignalValue {
  if (typeof v !== 'object') return v;
  if ('signal' in v) {
    const s = source.signal(v.signal);
    if (!v.from || !v.to) return s;
    return mapRange(toNumber(s), v.from, v.to);
  }
  if ('sum' in v) return v.sum.reduce<number>((a, x) => a + toNumber(readValue(x, source)), 0);
  if ('product' in v) return v.product.reduce<number>((a, x) => a * toNumber(readValue(x, source)), 1);
  if ('difference' in v) {
    const [first, ...rest] = v.difference.map((x) => toNumber(readValue(x, source)));
    return rest.reduce((a, x) => a - x, first as number);
  }
  const i = Math.floor(drawUnit(source.random, source.randomAt) * v.pick.length);
  return readValue(v.pick[i] as Value, source);
}

export function toNumber(v: SignalValue): number {
  if (typeof v === 'number') return v;
  if (typeof v === 'boolean') return v ? 1 : 0;
  const n = Number(v);
  return Number.isFinite(n) ? n : 0;
}

/** Linear from one range to another, not clamped; a source range of no width gives the target's start. */
export function mapRange(x: number, from: readonly [number, number], to: readonly [number, number]): number {
  if (from[1] === from[0]) return to[0];
  return to[0] + ((x - from[0]) / (from[1] - from[0])) * (to[1] - to[0]);
}
