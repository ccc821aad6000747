/** Timers of reactions. */
import type { Feature } from '../../run/feature.ts';
import { compileTimers } from './program.ts';
import { Timers } from './run.ts';

export const timers: Feature = {
  name: 'timers',
  claims: { events: ['timer'] },
  dues: {
    timer: {
      act: (due, _, { context }) => context.parts.timers?.fire(due),
      passOver: (due, { context }) => context.parts.timers?.passOver(due),
      list: ({ reactions }, reaction) => reactions[reaction]?.actions ?? -1,
      place: ({ spawns }, reaction) => spawns.ofReaction[reaction] ?? -1,
      carry: ({ old, next }, due) => {
        const index = next.reactionIndex.get(old.reactions[due.index]?.id ?? '');
        return index !== undefined && next.parts.timers?.is[index] === 1 ? { ...due, index } : undefined;
      },
    },
  },
  compile: compileTimers,
  run: (base) => new Timers(base),
};
