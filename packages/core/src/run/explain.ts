/** Why a transition does not go: each of its parts, and whether it holds now. */
import { newPlay, percentInstant } from '../anim/index.ts';
import { SAME_INSTANT } from '../base/index.ts';
import type { Transition } from '../model/index.ts';
import { fadeRuns } from './layers.ts';
import { metIn } from './met.ts';
import type { LaneProgram } from './program.ts';
import type { Run } from './run.ts';
import { RunFacts } from './run-facts.ts';

/** One of the things that must come together. */
export type Part =
  /** It is set, switched on, and has odds. */
  | { readonly of: 'able'; readonly holds: boolean }
  /** The lane is in the state that it leads out of, and has not finished. */
  | { readonly of: 'state'; readonly holds: boolean }
  /** An event that it waits for: it comes at an instant, so only a pulse that is remembered holds. */
  | { readonly of: 'event'; readonly holds: boolean }
  | { readonly of: 'condition'; readonly at: number; readonly holds: boolean }
  /** `left`: seconds until it is reached; null where that cannot be told. */
  | { readonly of: 'notBefore'; readonly holds: boolean; readonly left: number | null }
  /** A crossfade that must finish runs. */
  | { readonly of: 'crossfade'; readonly holds: boolean };

/** The parts of a transition by its id, in the order in which they are asked; empty for one that the run does not know. */
export function explain(run: Run, transition: string): Part[] {
  const { program, state } = run;
  const i = program.lanes.findIndex((l) => l.lane.transitions.some((t) => t.id === transition));
  const lane = program.lanes[i];
  const t = lane?.lane.transitions.find((x) => x.id === transition);
  if (!lane || !t) return [];
  const clock = new Float64Array([run.time]);
  const active = lane.states[state.active[i] as number];
  const isFrom = t.from === '*' || active?.state.id === t.from;
  const again =
    t.from === '*' && active?.state.id === t.to && !t.reenter && (t.odds === null || !t.mayRepeat);
  const out: Part[] = [
    { of: 'able', holds: t.enabled && t.set && t.odds !== 0 },
    { of: 'state', holds: isFrom && !again && state.finished[i] === 0 },
  ];
  const facts = new RunFacts({ program, state, clock });
  facts.asking = i;
  const route = lane.states.flatMap((x) => x.routes).find((w) => w.transition.id === t.id);
  const pulse = route?.pulse ?? -1;
  if (t.on) out.push({ of: 'event', holds: pulse >= 0 && facts.signal(pulse) === true });
  route?.tests.forEach((test, at) => {
    out.push({ of: 'condition', at, holds: test(facts) });
  });
  if (t.notBefore !== null && isFrom) out.push(reached(run, i, t));
  if (state.mustFinish[i] === 1 && fadeRuns(state, i, clock)) out.push({ of: 'crossfade', holds: false });
  return out;
}

function reached(run: Run, i: number, { notBefore }: Transition): Part {
  const { program, state, time } = run;
  const entered = state.entered[i] as number;
  const active = (program.lanes[i] as LaneProgram).states[state.active[i] as number];
  const clip = metIn(program, state, i, active);
  const at = (instant: number): Part => {
    const left = Math.max(entered, instant) - time;
    return {
      of: 'notBefore',
      holds: left <= SAME_INSTANT,
      left: Number.isFinite(left) ? Math.max(0, left) : null,
    };
  };
  if (notBefore === null || (notBefore !== 'loopEnd' && 'seconds' in notBefore))
    return at(entered + (notBefore?.seconds ?? 0));
  if (!clip || clip.data.duration === 0) return at(entered);
  // Only at the instant of a turn; of what is played once, from its end on.
  if (notBefore === 'loopEnd') return { of: 'notBefore', holds: state.hasEnded(i * 2), left: null };
  const play = newPlay(0, 0, 0);
  state.readPlay(i * 2, play);
  return at(percentInstant(play, notBefore.percent, clip.data.duration, clip.clip.loop));
}
