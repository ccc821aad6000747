/** Effects that are under way go on after an edit. */
import type { Migration } from '../../run/migration.ts';
import type { EffectRows } from './rows.ts';

export function migrateEffects({ old, next, before, state, objectOf }: Migration): void {
  const [was, is] = [old.parts.effects, next.parts.effects];
  const [from, to] = [before.parts.effects as EffectRows, state.parts.effects as EffectRows];
  const effectOf = (i: number) => {
    const effect = was?.effects[i]?.effect;
    const k = is?.index.get(effect?.id ?? '') ?? -1;
    return is?.effects[k]?.effect.kind === effect?.kind ? k : -1;
  };
  from.bursts.forEach((n, i) => {
    if (effectOf(i) >= 0) to.bursts[effectOf(i)] = n;
  });
  const { active } = from;
  for (let k = 0; k < active.count; k++) {
    const row = active.data.slice(k * active.width, (k + 1) * active.width);
    const [effect, object] = [effectOf(row[0] as number), row[1] as number];
    const at = object < 0 ? -1 : objectOf(object);
    if (effect >= 0 && (object < 0 || at >= 0)) to.active.add([effect, at, ...row.subarray(2)]);
  }
}
