/** Captions read as poses by name, as the command line asks for them. */
import type { Readable } from '../../run/feature.ts';
import { findObject } from '../../run/input.ts';
import { FaceBuilder } from '../../run/scene.ts';
import { AZIMUTH, ELEVATION, FRAME_HEIGHT, FRAME_WIDTH } from '../../run/state.ts';
import { captionPlace, captionsOf } from './place.ts';

/**
 * What tells where the caption of an object stands, or null where the text names none: `OBJECT.caption.x|y`, px from the
 * frame's top left corner; null without a caption.
 */
export function readCaption(run: Readable, text: string): (() => number | null) | null {
  const [, name, axis] = /^(.+?)\.caption\.(x|y)$/.exec(text) ?? [];
  if (name === undefined) return null;
  const { piece, objectIndex } = run.program;
  const object = objectIndex.get(findObject(piece, name)?.id ?? '');
  if (object === undefined) return null;
  const posed = new FaceBuilder();
  return () => {
    const { program, state } = run;
    if (!captionsOf(program, state).some((c) => c.object === object)) return null;
    const { one, values } = state;
    const frame = { width: one[FRAME_WIDTH] as number, height: one[FRAME_HEIGHT] as number };
    const angle = { azimuth: one[AZIMUTH] as number, elevation: one[ELEVATION] as number };
    posed.lay(program, values, angle, frame);
    return captionPlace(program, values, posed, object, frame)[axis === 'x' ? 0 : 1];
  };
}
