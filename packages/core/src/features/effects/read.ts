/** Effects read as poses by name, as the command line asks for them. */

import type { Readable } from '../../run/feature.ts';
import { findObject } from '../../run/input.ts';
import { activeEffects, drawsOf, EffectFrame, PARTICLE, particleInto, seedOf } from './frame.ts';

const PARTICLE_FIELDS = ['x', 'y', 'z', 'size', 'turn', 'opacity', 'fill'];
const TREMOR_FIELDS = ['x', 'y', 'turn'];

/**
 * What tells one number of an effect, or null where the text names none: `EFFECT#n/i.x|y|z|size|turn|opacity|fill` (particle
 * i of the nth burst, in the world; null when it is not there), `frame.flash` and `OBJECT.flash` (strength),
 * `frame.shake.x|y|turn` and `OBJECT.shake.…`.
 */
export function readEffect(run: Readable, text: string): (() => number | string | null) | null {
  const particle = /^(.+)#(\d+)\/(\d+)\.(\w+)$/.exec(text);
  if (particle) {
    const [, name, n, i, field] = particle as unknown as [string, string, string, string, string];
    return particleReader(run, name, Number(n), Number(i), field);
  }
  const [, name, what, , field] = /^(.+?)\.(flash|shake)(\.(\w+))?$/.exec(text) ?? [];
  if (name === undefined) return null;
  const { piece, objectIndex } = run.program;
  const object = name === 'frame' ? -1 : (objectIndex.get(findObject(piece, name)?.id ?? '') ?? null);
  if (object === null) return null;
  const shown = () => {
    const { program, state } = run;
    const all = new EffectFrame();
    all.build(activeEffects(program, state), program.curves, seedOf(state), program.piece.view);
    return all;
  };
  if (what === 'flash')
    return field === undefined
      ? () => (object < 0 ? shown().flash : shown().tints.get(object))?.strength ?? 0
      : null;
  const at = TREMOR_FIELDS.indexOf(field ?? '');
  return at < 0 ? null : () => (object < 0 ? shown().shake : shown().tremors.get(object))?.[at] ?? 0;
}

function particleReader(run: Readable, name: string, n: number, i: number, field: string) {
  const effects = Object.values(run.program.piece.effects);
  const effect = effects.find((e) => e.id === name || e.name === name);
  const at = PARTICLE_FIELDS.indexOf(field);
  if (effect?.kind !== 'burst' || at < 0 || i >= effect.count) return null;
  return () => {
    const show = activeEffects(run.program, run.state).find(
      (s) => s.effect.effect.id === effect.id && s.n === n,
    );
    const out = new Float64Array(PARTICLE);
    if (!show || !particleInto(effect, drawsOf(effect, n, seedOf(run.state)), i, show.age, out)) return null;
    if (field === 'fill') return effect.fills[out[6] as number] ?? null;
    return (out[at] as number) + (at < 3 ? (show.origin[at] as number) : 0);
  };
}
