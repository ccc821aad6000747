/** What of the piece the view leaves out or shows faintly. */
import { CH_OPACITY, CHANNELS } from '@apple-tick/core/model';
import type { Program } from '@apple-tick/core/run';

/** What one does not work in shows faintly: all but what lies in the object of this id, and what is above that. */
export function dim(program: Program, id: string, values: Float64Array): void {
  const { parent } = program.geometry;
  const above = new Set<number>();
  for (let i = program.objectIndex.get(id) ?? -1; i >= 0; i = parent[i] as number) above.add(i);
  const own = program.objectIndex.get(id);
  program.objects.forEach((_, i) => {
    const p = parent[i] as number;
    const at = i * CHANNELS + CH_OPACITY;
    if (!above.has(i) && p !== own && (p < 0 || above.has(p))) values[at] = (values[at] as number) * FAINT;
  });
}
const FAINT = 0.22;

/** What the view leaves out: what the eye hides with all below it, or all but one object. */
export function unseen(
  program: Program,
  hidden: ReadonlySet<string>,
  only: string | null,
): Uint8Array | null {
  if (hidden.size === 0 && only === null) return null;
  const out = new Uint8Array(program.objects.length);
  const alone = only !== null && program.objectIndex.has(only);
  program.objects.forEach((o, i) => {
    const parent = program.geometry.parent[i] as number;
    const above = parent >= 0 ? (out[parent] as number) : 0;
    // 1: not drawn, with all below it; 2: not drawn, because it is not the one, but what is below it may be.
    const inOnly = !alone || o.id === only || (parent >= 0 && above === 0);
    out[i] = above === 1 || hidden.has(o.id) ? 1 : inOnly ? 0 : 2;
  });
  return out.map((x) => (x > 0 ? 1 : 0));
}
