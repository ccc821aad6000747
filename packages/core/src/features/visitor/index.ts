/** The visitor: the person as a figure of the piece. */
import { type PropertyInfo, propertyInfo } from '../../model/index.ts';
import type { CompilingPart } from '../../run/compiling.ts';
import { compared } from '../../run/conditions.ts';
import type { FactTable, Feature, InputTable } from '../../run/feature.ts';
import type { Migration } from '../../run/migration.ts';
import { HELD, KEYS, SPEED, visitorRow } from './rows.ts';
import { Walking } from './run.ts';

const facts: FactTable<'speed'> = {
  speed: {
    test: (c) => compared(c, (f) => f.state.parts.visitor?.[SPEED] as number),
    reads: (_, _names, out) => {
      out.time = true;
    },
  },
};

const inputs: InputTable<'visitor'> = {
  /** It is put somewhere. */
  visitor: ({ visitor: to }, { context, runner }) => {
    const { visitor } = context.program;
    const cause = context.recordInput({ input: 'visitor', ...(visitor < 0 ? { missed: true } : {}) });
    for (const axis of ['x', 'y', 'z'] as const)
      runner.put(visitor, propertyInfo(`position.${axis}`) as PropertyInfo, to[axis], cause);
  },
};

function migrateVisitor({ old, next, before, state }: Migration): void {
  const row = state.parts.visitor;
  if (!row || !before.parts.visitor) return;
  row.set(before.parts.visitor);
  // Other keys, or another figure: nothing is held any more.
  if (JSON.stringify(old.piece.visitor) !== JSON.stringify(next.piece.visitor))
    for (const at of [KEYS, HELD, SPEED]) row[at] = 0;
}

export const visitor: Feature = {
  name: 'visitor',
  claims: { fields: ['visitor'] },
  facts,
  inputs,
  compile: (c): CompilingPart => {
    if (c.piece.visitor?.facing === 'turn') c.property('rotation.y');
    return { mayBeOther: (_, i) => i === c.visitor };
  },
  rows: visitorRow,
  run: (base) => new Walking(base),
  migrate: migrateVisitor,
};
