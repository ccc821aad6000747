/** What is asked of signals' values, apart from their schemas. */
import type { Signal, SignalValue } from './signal.ts';

/** What the signal holds before anything sets it. */
export function initialValue(s: Signal): SignalValue {
  return s.type === 'pulse' ? false : s.initial;
}

/** Whether a signal can begin with a value: one of its type, and of a number one in its range. */
export function canBegin(s: Signal, value: unknown): value is SignalValue {
  if (!fitsSignal(s, value)) return false;
  return (
    s.type !== 'number' ||
    ((value as number) >= (s.min ?? -Infinity) && (value as number) <= (s.max ?? Infinity))
  );
}

/** Whether a value may be set on the signal; numbers outside its range are clamped when set, not refused. */
export function fitsSignal(s: Signal, value: unknown): value is SignalValue {
  switch (s.type) {
    case 'switch':
      return typeof value === 'boolean';
    case 'number':
      return typeof value === 'number' && Number.isFinite(value);
    case 'choice':
      return typeof value === 'string' && s.options.includes(value);
    case 'text':
      return typeof value === 'string';
    case 'pulse':
      return typeof value === 'boolean';
  }
}
