/** Every semantic case, by the part of the engine that it is about. */
import { CLIP_CASES } from './clips.ts';
import { EVENT_CASES } from './events.ts';
import { LANE_CASES } from './lanes.ts';
import { failures, type SemanticCase } from './made.ts';
import { RULING_CASES } from './rulings.ts';
import { SHOW_CASES } from './show.ts';
import { TRANSITION_CASES } from './transitions.ts';
import { VALUE_CASES } from './values.ts';
import { WORLD_CASES } from './world.ts';

export const ALL_CASES: Readonly<Record<string, readonly SemanticCase[]>> = {
  clips: CLIP_CASES,
  lanes: LANE_CASES,
  transitions: TRANSITION_CASES,
  values: VALUE_CASES,
  events: EVENT_CASES,
  'the world': WORLD_CASES,
  'what is shown': SHOW_CASES,
  rulings: RULING_CASES,
};

/** Where in its run, as a part of it, a case goes on from a snapshot. */
const RESUMES = [0.3, 0.6];

/** What is not as it must be, run straight and from snapshots. */
export const allFailures = (c: SemanticCase): string[] => [
  ...failures(c),
  ...RESUMES.flatMap((part) =>
    failures(c, Math.round(part * c.ticks)).map((said) => `from ${part} on: ${said}`),
  ),
];
