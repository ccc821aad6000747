/** What an action begins that takes time, for cue sheets, whose cues end with it. */
import type { Program } from './program.ts';
import type { RunState } from './state.ts';

export interface Lasting {
  /** Seconds after which it is over without anybody saying so; 0 where whoever ends it says so. */
  readonly seconds: number;
  /**
   * Whether what began at `began` is neither over, nor cut short, nor replaced at `t`, both seconds. `token`: what the
   * action returned, which tells what it began from others.
   */
  goesOn(program: Program, state: RunState, t: number, began: number, token: number): boolean;
}
