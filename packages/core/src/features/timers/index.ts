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
  scheduled: {
    timer: {
      run: (item, _, { context }) => context.parts.timers?.fire(item),
      passOver: (item, { context }) => context.parts.timers?.passOver(item),
      list: ({ reactions }, reaction) => reactions[reaction]?.actions ?? -1,
      place: ({ spawns }, reaction) => spawns.ofReaction[reaction] ?? -1,
      migrate: ({ old, next }, item) => {
        const index = next.reactionIndex.get(old.reactions[item.index]?.id ?? '');
        return index !== undefined && next.parts.timers?.is[index] === 1 ? { ...item, index } : undefined;
      },
    },
  },
  compile: compileTimers,
  run: (base) => new Timers(base),
};
