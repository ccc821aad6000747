/** Effects and captions read as poses by name, as the command line asks for them. */
import { captionPlace, captionsOf } from './captions.ts';
import { findObject } from './input.ts';
import type { Run } from './run.ts';
import { FaceBuilder } from './scene.ts';
import { drawsOf, PARTICLE, particleInto, Shown, seedOf, showsOf } from './shown.ts';
import { AZIMUTH, ELEVATION, FRAME_HEIGHT, FRAME_WIDTH } from './state.ts';

const PARTICLE_FIELDS = ['x', 'y', 'z', 'size', 'turn', 'opacity', 'fill'];
const TREMOR_FIELDS = ['x', 'y', 'turn'];

/**
 * What tells one number of effects and captions, or null where the text names none:
 * `EFFECT#n/i.x|y|z|size|turn|opacity|fill` (particle i of the nth burst, in the world; null when it is not there),
 * `frame.flash` and `OBJECT.flash` (strength), `frame.shake.x|y|turn` and `OBJECT.shake.…`, `OBJECT.caption.x|y` (px from
 * the frame's top left corner; null without a caption).
 */
export function showReader(run: Run, text: string): (() => number | string | null) | null {
  const { piece, objectIndex } = run.program;
  const particle = /^(.+)#(\d+)\/(\d+)\.(\w+)$/.exec(text);
  if (particle) {
    const [, name, n, i, field] = particle as unknown as [string, string, string, string, string];
    const effect = Object.values(piece.effects).find((e) => e.id === name || e.name === name);
    const at = PARTICLE_FIELDS.indexOf(field);
    if (effect?.kind !== 'burst' || at < 0 || Number(i) >= effect.count) return null;
    return () => {
      const show = showsOf(run.program, run.state).find(
        (s) => s.effect.effect.id === effect.id && s.n === Number(n),
      );
      const out = new Float64Array(PARTICLE);
      const draws = drawsOf(effect, Number(n), seedOf(run.state));
      if (!show || !particleInto(effect, draws, Number(i), show.age, out)) return null;
      if (field === 'fill') return effect.fills[out[6] as number] ?? null;
      return (out[at] as number) + (at < 3 ? (show.origin[at] as number) : 0);
    };
  }
  const [, name, what, , field] = /^(.+?)\.(flash|shake|caption)(\.(\w+))?$/.exec(text) ?? [];
  if (name === undefined) return null;
  const object = name === 'frame' ? -1 : (objectIndex.get(findObject(piece, name)?.id ?? '') ?? null);
  if (object === null) return null;
  const shown = () => {
    const { program, state } = run;
    const all = new Shown();
    all.build(showsOf(program, state), program.curves, seedOf(state), program.piece.view);
    return all;
  };
  if (what === 'flash')
    return field === undefined
      ? () => (object < 0 ? shown().flash : shown().tints.get(object))?.strength ?? 0
      : null;
  if (what === 'shake') {
    const at = TREMOR_FIELDS.indexOf(field ?? '');
    return at < 0 ? null : () => (object < 0 ? shown().shake : shown().tremors.get(object))?.[at] ?? 0;
  }
  if (object < 0 || (field !== 'x' && field !== 'y')) return null;
  return () => {
    const { program, state } = run;
    if (!captionsOf(program, state).some((c) => c.object === object)) return null;
    const { one, values } = state;
    const frame = { width: one[FRAME_WIDTH] as number, height: one[FRAME_HEIGHT] as number };
    const angle = { azimuth: one[AZIMUTH] as number, elevation: one[ELEVATION] as number };
    laid.lay(program, values, angle, frame);
    return captionPlace(program, values, laid, object, frame)[field === 'x' ? 0 : 1];
  };
}
const laid = new FaceBuilder();
