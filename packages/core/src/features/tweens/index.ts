/** Tweens: actions that lead properties to a goal in time. */
import { LINEAR } from '../../anim/index.ts';
import { SAME_INSTANT } from '../../base/index.ts';
import { compileValue } from '../../logic/index.ts';
import { CHANNELS, type PropertyInfo, propertyInfo } from '../../model/index.ts';
import type { Compiling } from '../../run/compiling.ts';
import type { ActionTable, Feature, InputTable, LastingTable } from '../../run/feature.ts';
import type { Lasting } from '../../run/lasting.ts';
import type { Migration } from '../../run/migration.ts';
import { TWEEN_ROW } from '../../run/row-widths.ts';
import { possible, thing } from '../../run/things.ts';
import { Tweens, tweenRows } from './run.ts';

const actions: ActionTable<'tween' | 'face'> = {
  tween: (a, names, stream) => {
    const the = thing(names, a.object);
    const asked = a.properties ?? [{ property: a.property ?? '', to: a.to, by: a.by, toBase: a.toBase }];
    const goals = asked.flatMap((x) => {
      const property = names.property(x.property);
      const mode = x.to !== undefined ? 'to' : x.by !== undefined ? 'by' : 'toBase';
      const read = compileValue(x.to ?? x.by ?? x.toBase ?? 0, names, stream);
      if (property) for (const object of possible(names, a.object)) names.tweens(object, property);
      return property ? [{ property, mode, read } as const] : [];
    });
    const how = { seconds: a.seconds, curve: names.curve(a.easing), fromNow: a.fromNow ?? false };
    return (d, cause) =>
      d.parts.tweens?.tween(
        the(cause),
        goals.map(({ property, mode, read }) => ({ property, mode, value: () => read(d) })),
        how,
        cause,
      );
  },
  face: (a, names) => {
    const [the, toward] = [thing(names, a.object), names.object(a.toward)];
    const axis = 'xyz'.indexOf(a.axis ?? 'y');
    if (toward < 0) return () => {};
    for (const object of possible(names, a.object))
      names.tweens(object, propertyInfo(`rotation.${a.axis ?? 'y'}`) as PropertyInfo);
    for (const object of [...possible(names, a.object), toward]) names.stands(object);
    const how = { seconds: a.seconds, curve: names.curve(a.easing), fromNow: true };
    return (d, cause) => d.parts.tweens?.face(the(cause), toward, axis, how, cause);
  },
};

/** A tween of some properties of an object goes on while one of them is on its way by it. */
function lastingTween(c: Compiling, id: string, names: readonly string[], seconds: number): Lasting {
  const object = c.object(id);
  const rows = names.flatMap((name) => {
    const info = propertyInfo(name);
    const row = info && object >= 0 ? c.tweenRow(object * CHANNELS + info.channel) : -1;
    return row < 0 ? [] : [row];
  });
  return {
    seconds,
    goesOn: (program, { tweens, putAt }, t, began, token) =>
      t < began + seconds - SAME_INSTANT &&
      rows.some((k) => {
        const at = k * TWEEN_ROW;
        const isIt = tweens[at] === 1 && tweens[at + 6] === token;
        return isIt && putAt[program.tweenAts[k] as number] !== 0;
      }),
  };
}

const lasting: LastingTable<'tween' | 'face'> = {
  tween: (a, c) =>
    lastingTween(
      c,
      a.object,
      (a.properties ?? [a]).map((x) => x.property ?? ''),
      a.seconds,
    ),
  face: (a, c) => lastingTween(c, a.object, [`rotation.${a.axis ?? 'y'}`], a.seconds),
};

const inputs: InputTable<'move'> = {
  /** Something is moved by hand. */
  move: ({ move: { object, to, over } }, { context }) => {
    const [id, at] = context.find(object);
    const cause = context.recordInput({ input: 'move', object: id, ...(at < 0 ? { missed: true } : {}) });
    const goals = (['x', 'y', 'z'] as const).map((axis, k) => ({
      property: propertyInfo(`position.${axis}`) as PropertyInfo,
      mode: 'to' as const,
      value: () => to[k] as number,
    }));
    const how = { seconds: over ?? 0, curve: LINEAR, fromNow: true };
    if (at >= 0) context.parts.tweens?.tween(at, goals, how, cause);
  },
};

export const tweens: Feature = {
  name: 'tweens',
  actions,
  lasting,
  inputs,
  rows: tweenRows,
  run: (base) => new Tweens(base),
  migrate: ({ before, state }: Migration) => {
    state.parts.tweens?.set(before.parts.tweens ?? []);
  },
};
