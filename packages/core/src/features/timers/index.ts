/** Timers of reactions. */
import type { Feature } from '../../run/feature.ts';
import type { Hearing } from '../../run/hearing.ts';
import { compileTimers } from './program.ts';
import { Timers } from './run.ts';

/** A timer is heard by the reaction alone whose own it is: there may be thousands at once. */
const OWN: Hearing = {
  subject: (_, owner) => owner.reaction ?? '',
  subjects: (r) => [r.reaction],
  means: (_, _on, { rec }, { reaction }) => rec.reaction === reaction,
};

export const timers: Feature = {
  name: 'timers',
  events: { timer: OWN },
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
