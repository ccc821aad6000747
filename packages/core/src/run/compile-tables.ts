/** Small tables that a piece is compiled to. */
import { type ClipData, compileClip } from '../anim/index.ts';
import { CHANNELS, type Clip, type SceneObject } from '../model/index.ts';
import { PLACE_CHANNELS } from './places.ts';

/** All values that say where these objects stand: their own places, and those of all above them. */
export function placesOf(parent: Int32Array, objects: ReadonlySet<number>): number[] {
  const chain = new Set<number>();
  for (const object of objects) for (let i = object; i >= 0; i = parent[i] as number) chain.add(i);
  return [...chain].flatMap((i) => Array.from({ length: PLACE_CHANNELS }, (_, k) => i * CHANNELS + k));
}

/** Whether a channel turns what is flat out of its plane: about x or y. */
export const isTilt = (channel: number) => channel === 3 || channel === 4;
export const isTilted = ({ base: { rotation } }: SceneObject) => rotation[0] !== 0 || rotation[1] !== 0;

export function numbered(records: readonly { readonly id: string }[]): Map<string, number> {
  return new Map(records.map((r, i) => [r.id, i]));
}

export const NO_CUES = new Float64Array(0);
const compiledClips = new WeakMap<Clip, ClipData>();

/** Records are never changed in place, so an edit elsewhere leaves a clip's data as it is. */
export function clipData(clip: Clip): ClipData {
  let data = compiledClips.get(clip);
  if (!data) {
    data = compileClip(clip);
    compiledClips.set(clip, data);
  }
  return data;
}

export function guidesOf(objects: readonly SceneObject[], index: ReadonlyMap<string, number>): Uint8Array {
  const out = new Uint8Array(objects.length);
  if (objects.some((o) => o.guide))
    objects.forEach((o, i) => {
      const above = o.parent === null ? 0 : out[index.get(o.parent) ?? -1];
      out[i] = o.guide || above ? 1 : 0;
    });
  return out;
}
