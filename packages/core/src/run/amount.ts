/** Amounts that signals give. */
import type { Signal } from '../model/index.ts';

/** A number signal over its own range, 0–1; 0 for what is no number. */
export function amountBy(
  program: { readonly signals: readonly Signal[] },
  s: { readonly signals: Float64Array },
  signal: number,
): number {
  const def = program.signals[signal];
  if (def?.type !== 'number') return 0;
  const min = def.min ?? 0;
  const max = def.max ?? 1;
  if (!(max > min)) return 1;
  const k = ((s.signals[signal] as number) - min) / (max - min);
  return k < 0 ? 0 : Math.min(k, 1);
}
