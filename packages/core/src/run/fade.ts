/** Crossfades, compiled. */
import type { Crossfade, FadeEasing } from '../model/index.ts';

export interface Fade {
  /** Seconds, or, when that is NaN, per cent of the left clip's length ÷ |speed|. */
  readonly seconds: number;
  readonly percent: number;
  readonly easing: FadeEasing;
  readonly mustFinish: boolean;
}

/** No crossfade is a cut. */
export function compileFade(c: Crossfade | undefined): Fade {
  const seconds = !c ? 0 : 'seconds' in c ? c.seconds : Number.NaN;
  const percent = c && 'percent' in c ? c.percent : 0;
  return { seconds, percent, easing: c?.easing ?? 'linear', mustFinish: c?.mustFinish ?? false };
}
