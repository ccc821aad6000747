/** Why a transition does not go: each of its parts, and whether it holds now. */
import { newPlay, percentDate } from '../anim/index.ts';
import { SAME_DATE } from '../base/index.ts';
import { compileCondition, type Facts, type Lookup } from '../logic/index.ts';
import type { Transition } from '../model/index.ts';
import { metIn, placeInBlend } from './blending.ts';
import { fadeRuns, playPlace } from './layers.ts';
import { type LaneProgram, PLAY, type Program } from './program.ts';
import { isPressed, isWithin, noticedBy } from './reach.ts';
import type { Run } from './run.ts';
import { isUp, POINTER_OVER, POINTER_PRESSED, WALKED } from './state.ts';

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
  const facts = factsOf(run, lane);
  const pulse = lane.states.flatMap((x) => x.ways).find((w) => w.transition.id === t.id)?.pulse ?? -1;
  if (t.on) out.push({ of: 'event', holds: pulse >= 0 && facts.signal(pulse) === true });
  t.when.forEach((c, at) => {
    out.push({ of: 'condition', at, holds: compileCondition(c, lookupOf(program))(facts) });
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
  const at = (date: number): Part => {
    const left = Math.max(entered, date) - time;
    return {
      of: 'notBefore',
      holds: left <= SAME_DATE,
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
  return at(percentDate(play, notBefore.percent, clip.data.duration, clip.clip.loop));
}

/** What conditions ask, of the run as it stands. */
function factsOf({ program, state, time }: Run, lane: LaneProgram): Facts {
  const clock = new Float64Array([time]);
  return {
    signal: (i) => {
      const def = program.signals[i];
      if (!def) return false;
      if (def.type !== 'pulse') return state.signalValue(def, i);
      const at = lane.pulses.indexOf(i);
      const isUsed = at >= 0 && state.pulseUsed[lane.firstPulse + at] === state.pulseSerial[i];
      return isUp(program, state, i, time) && !isUsed;
    },
    stateActive: (l, s) => state.active[l] === s,
    clipPast: (clip, object, seconds) =>
      program.lanes.some((l, i) => {
        const s = l.states[state.active[i] as number];
        if (!s || (object >= 0 && l.object !== object)) return false;
        if (s.blend) return placeInBlend(program, state, s.blend, clip, i * 2, clock) >= seconds - SAME_DATE;
        if (s.kind !== PLAY || s.clip !== clip) return false;
        return playPlace(program, state, i * 2, clip, clock) >= seconds - SAME_DATE;
      }),
    over: (object) => isWithin(program, state.one[POINTER_OVER] as number, object),
    noticed: (collider, only) => noticedBy(program, state, collider, only),
    walked: () => state.one[WALKED] as number,
    pressed: (object) =>
      object < 0 ? isPressed(state) : isWithin(program, state.one[POINTER_PRESSED] as number, object),
  };
}

function lookupOf(program: Program): Lookup {
  const number = (map: ReadonlyMap<string, number>, id: string) => map.get(id) ?? -1;
  return {
    signal: (id) => number(program.signalIndex, id),
    lane: (id) => number(program.laneIndex, id),
    state: (lane, id) => program.lanes[lane]?.stateIndex.get(id) ?? -1,
    clip: (id) => number(program.clipIndex, id),
    object: (id) => number(program.objectIndex, id),
    collider: (id) => number(program.meeting.index, id),
    tagged: (tag) => program.objects.flatMap((o, i) => (o.tags.includes(tag) ? [i] : [])),
  };
}
