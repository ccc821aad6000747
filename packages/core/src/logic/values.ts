/** Values in actions, compiled: read at the moment the action acts. */
import { drawUnit } from '../base/index.ts';
import type { SignalValue, Value } from '../model/index.ts';

export interface ValueSource {
  signal(signal: number): SignalValue;
  /** Words of all random streams. */
  readonly random: Uint32Array;
}

export type Reader = (source: ValueSource) => SignalValue;

/** `names` tells the number of a signal, −1 for none; `stream`: number of the consumer's random stream, for `pick`. */
export function compileValue(v: Value, names: { signal(id: string): number }, stream: number): Reader {
  if (typeof v !== 'object') return () => v;
  const all = (list: readonly Value[]) => list.map((x) => compileValue(x, names, stream));
  if ('signal' in v) {
    const signal = names.signal(v.signal);
    const { from, to } = v;
    const read: Reader = signal < 0 ? () => false : (s) => s.signal(signal);
    return from && to ? (s) => mapRange(toNumber(read(s)), from, to) : read;
  }
  if ('sum' in v) {
    const parts = all(v.sum);
    return (s) => parts.reduce((a, x) => a + toNumber(x(s)), 0);
  }
  if ('product' in v) {
    const parts = all(v.product);
    return (s) => parts.reduce((a, x) => a * toNumber(x(s)), 1);
  }
  if ('difference' in v) {
    const parts = all(v.difference);
    return (s) => {
      const [first, ...rest] = parts.map((x) => toNumber(x(s)));
      return rest.reduce((a, x) => a - x, first as number);
    };
  }
  const parts = all(v.pick);
  return (s) => (parts[Math.floor(drawUnit(s.random, stream * 4) * parts.length)] as Reader)(s);
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
