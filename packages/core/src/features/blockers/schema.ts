/** Blockers, and the events of what touches them, as they stand in files and sentences. */
import type { Of } from '../../grammar/index.ts';
import { shaped } from '../../model/collider-kind.ts';
import { events as group } from '../../model/event-kind.ts';

/** Stops the visitor and what is dragged; with tags only what has one of them. */
export const blockerSchema = shaped('blocker');
export type Blocker = Of<typeof blockerSchema>;

const by = ['collider', 'object', 'other', 'tags'] as const;
export const events = group(
  'Zones',
  {
    'touch.begin': ['something touches it', '{thing} touches {it}', ...by],
    'touch.end': ['something touches it no more', '{thing} no longer touches {it}', ...by],
    'touch.crush': ['something is crushed by it', '{thing} crushed by {it}', ...by],
  },
  {
    role: 'blocker',
    told: {
      'touch.begin': '{other} touches {collider}',
      'touch.end': '{other} no longer touches {collider}',
      'touch.crush': '{other} is crushed by {collider}',
    },
  },
);
