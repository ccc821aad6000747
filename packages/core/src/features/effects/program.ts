/** Effects compiled. */
import { LINEAR } from '../../anim/index.ts';
import type { Effect } from '../../model/index.ts';
import type { Compiling, CompilingPart } from '../../run/compiling.ts';

/** An effect, and the curve by which a flash goes; −1 hold, −2 linear. */
export interface EffectProgram {
  readonly effect: Effect;
  readonly curve: number;
}
export function compileEffects(c: Compiling): CompilingPart {
  const effects = Object.values(c.piece.effects).map((effect) => ({
    effect,
    curve: effect.kind === 'flash' ? c.curve(effect.easing) : LINEAR,
  }));
  return { part: () => ({ effects, index: new Map(effects.map((e, i) => [e.effect.id, i])) }) };
}

/** Seconds after which nothing of an effect is left. */
export function lengthOf(effect: Effect): number {
  return effect.kind === 'burst' ? Math.max(...effect.seconds) : effect.seconds;
}
