/** What conditions ask of a run, as it stands. */
import { SAME_INSTANT } from '../base/index.ts';
import type { SignalValue } from '../model/index.ts';
import type { Facts } from './facts.ts';
import { playPlace } from './layers.ts';
import { type LaneProgram, PLAY, type Program } from './program.ts';
import { isUp, POINTER_OVER, POINTER_PRESSED, type RunState } from './state.ts';
import { isPressed, isWithin } from './tree.ts';

export class RunFacts implements Facts {
  readonly #run: { readonly program: Program; readonly state: RunState; readonly clock: Float64Array };
  /** The lane whose conditions are being asked, −1 for none: a pulse that it has used is down for it. */
  asking = -1;

  constructor(run: { readonly program: Program; readonly state: RunState; readonly clock: Float64Array }) {
    this.#run = run;
  }

  get program(): Program {
    return this.#run.program;
  }
  get state(): RunState {
    return this.#run.state;
  }

  signal(i: number): SignalValue {
    const { program, state, clock } = this.#run;
    const def = program.signals[i];
    if (!def) return false;
    if (def.type !== 'pulse') return state.signalValue(def, i);
    if (!isUp(program, state, i, clock[0] as number)) return false;
    const lane = program.lanes[this.asking];
    const at = lane ? lane.pulses.indexOf(i) : -1;
    return !lane || at < 0 || state.pulseUsed[lane.firstPulse + at] !== state.pulseSerial[i];
  }

  stateActive(lane: number, state: number): boolean {
    return this.state.active[lane] === state;
  }

  clipPast(clip: number, object: number, seconds: number): boolean {
    const { program, state, clock } = this.#run;
    for (let i = 0; i < program.lanes.length; i++) {
      const lane = program.lanes[i] as LaneProgram;
      const s = lane.states[state.active[i] as number];
      if (!s || (object >= 0 && lane.object !== object)) continue;
      if (s.blend && s.blend.placeOf(program, state, clip, i * 2, clock) >= seconds - SAME_INSTANT)
        return true;
      if (s.kind !== PLAY || s.clip !== clip) continue;
      if (playPlace(program, state, i * 2, clip, clock) >= seconds - SAME_INSTANT) return true;
    }
    return false;
  }

  over(object: number): boolean {
    return isWithin(this.program, this.state.one[POINTER_OVER] as number, object);
  }

  pressed(object: number): boolean {
    if (object < 0) return isPressed(this.state);
    return isWithin(this.program, this.state.one[POINTER_PRESSED] as number, object);
  }
}
