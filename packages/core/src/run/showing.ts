/** Effects that are set off, and captions: what begins, what ends, who waits. What they look like is in `shown.ts`. */
import { composeLocal, MAT, SAME_DATE, snapDate, transformPoint } from '../base/index.ts';
import { CHANNELS, type Effect } from '../model/index.ts';
import { PLACE_CHANNELS } from './compile-meeting.ts';
import type { Context } from './context.ts';
import type { CaptionHow } from './deeds.ts';
import { allOnScreen } from './on-screen.ts';
import type { EffectProgram } from './program.ts';
import { CAPTION_ROW, SHOW_ROW } from './rows.ts';
import type { Scene } from './scene.ts';
import type { Span } from './spawn-program.ts';
import { CAPTIONED, CAPTIONS, DUE_CAPTION, type RunState, SHOWS } from './state.ts';
import type { Cause } from './trace.ts';

/** So many flashes are shown of those that begin within a second: more would harm people. */
const MOST_FLASHES = 3;
const FLASH_WINDOW = 1;
/** So many effects are under way at once; what is more is told and not shown. */
const MOST_SHOWS = 8192;
/** So many captions of one object wait at most. */
const MOST_WAITING = 64;

/** Seconds after which nothing of an effect is left. */
export function lengthOf(effect: Effect): number {
  return effect.kind === 'burst' ? Math.max(...effect.seconds) : effect.seconds;
}

export class Showing {
  readonly #run: Context;
  readonly #scene: Scene;
  readonly #place = new Float64Array(3);
  readonly #row = new Float64Array(CHANNELS);
  readonly #local = new Float64Array(MAT);

  constructor(run: Context, scene: Scene) {
    this.#run = run;
    this.#scene = scene;
  }

  /** Effect `i` begins at an object, or, with −1, over the frame. */
  effect(i: number, object: number, cause: Cause): void {
    const run = this.#run;
    const { program, state, t } = run;
    const { effect } = program.effects[i] as EffectProgram;
    const id = run.idOf(object);
    const at = id === undefined ? {} : { object: id };
    if (!run.mayAct()) return;
    const full = (state.one[SHOWS] as number) >= MOST_SHOWS;
    if (effect.kind === 'burst') {
      if (id === undefined || full) return;
      const n = state.bursts[i] as number;
      state.bursts[i] = n + 1;
      const onTop = this.#pivot(object);
      const [x, y, z] = this.#place as unknown as [number, number, number];
      state.addShow([i, object, t, n, x, y, z, onTop ? 1 : 0, 1]);
      run.raise({ kind: 'burst', effect: effect.id, burst: n, ...at }, cause);
      return;
    }
    const shown = !full && (effect.kind === 'shake' || this.#flashes(t) < MOST_FLASHES);
    if (shown) state.addShow([i, object, t, 0, 0, 0, 0, 0, 1]);
    if (shown && effect.kind === 'flash') this.#shownFlashes(state).push(t);
    const unseen = shown ? {} : { shown };
    run.raise({ kind: 'action', action: effect.kind, effect: effect.id, ...at, ...unseen }, cause);
  }

  /** How many flashes that are shown began in the second before date t. */
  #flashes(t: number): number {
    const dates = this.#shownFlashes(this.#run.state);
    while (dates.length > 0 && (dates[0] as number) <= t - FLASH_WINDOW + SAME_DATE) dates.shift();
    return dates.length;
  }

  /** Their dates, as the state has them: looked for once, since there may be thousands of effects. */
  #shownFlashes(state: RunState): number[] {
    if (this.#dates.of !== state) {
      const { program } = this.#run;
      const dates: number[] = [];
      for (let k = 0; k < (state.one[SHOWS] as number); k++)
        if (program.effects[state.shows[k * SHOW_ROW] as number]?.effect.kind === 'flash')
          dates.push(state.shows[k * SHOW_ROW + 2] as number);
      this.#dates = { of: state, dates: dates.sort((x, y) => x - y) };
    }
    return this.#dates.dates;
  }
  #dates: { readonly of: RunState | null; readonly dates: number[] } = { of: null, dates: [] };

  /** Where the pivot of an object is at the present date, into `#place`; of one on top in the frame: then true. */
  #pivot(object: number): boolean {
    const { program, state, clock } = this.#run;
    const { parent, onTop } = program.geometry;
    if (onTop[object] === 1) {
      this.#scene.pivot(object, true, this.#place);
      return true;
    }
    const row = this.#row;
    for (let i = object; i >= 0; i = parent[i] as number) {
      for (let k = 0; k < PLACE_CHANNELS; k++) row[k] = allOnScreen(program, state, i * CHANNELS + k, clock);
      composeLocal(this.#local, 0, row, 0);
      // First the pivot itself, then where that is in the parent of each.
      const from = i === object ? row.subarray(9, 12) : this.#place;
      const [x, y, z] = from as unknown as [number, number, number];
      transformPoint(this.#place, 0, this.#local, 0, x, y, z);
    }
    return false;
  }

  /** Where the pivot of an object is at the present date: in the world, of one on top in the frame. */
  pivotAt(object: number, out: Float64Array): void {
    this.#pivot(object);
    out.set(this.#place);
  }

  /** What is over is dropped. A flash is remembered for as long as it counts. */
  endTick(): void {
    const { program, state, t } = this.#run;
    for (let k = (state.one[SHOWS] as number) - 1; k >= 0; k--) {
      const effect = program.effects[state.shows[k * SHOW_ROW] as number]?.effect;
      const rest = effect?.kind === 'flash' ? FLASH_WINDOW : 0;
      const length = effect ? Math.max(rest, lengthOf(effect)) : 0;
      if ((state.shows[k * SHOW_ROW + 2] as number) + length <= t) state.dropShow(k);
    }
  }

  // Captions.

  /** Which of all captions of the run it is; 0 when none comes of it. */
  caption(object: number, words: string, how: CaptionHow, cause: Cause): number {
    const { state } = this.#run;
    if (this.#run.idOf(object) === undefined || !this.#run.mayAct()) return 0;
    const standing = this.#standing(object);
    if (words === '') {
      for (let k = (state.one[CAPTIONS] as number) - 1; k >= 0; k--)
        if (state.captions[k * CAPTION_ROW] === object && k !== standing) state.dropCaption(k);
      const left = this.#standing(object);
      if (left >= 0) this.#end(left, 'replaced', cause);
      return 0;
    }
    if (standing >= 0 && how.again === 'ignore') return 0;
    const waits = standing >= 0 && how.again === 'queue';
    if (waits && this.#waiting(object) >= MOST_WAITING) return 0;
    if (standing >= 0 && !waits) this.#end(standing, 'replaced', cause);
    const n = (state.one[CAPTIONED] as number) + 1;
    state.one[CAPTIONED] = n;
    const text = state.texts.number(words);
    state.addCaption([object, text, how.seconds, how.answers, n, cause.rec ?? -1, 0, 0]);
    if (!waits) this.#begin((state.one[CAPTIONS] as number) - 1, cause);
    return n;
  }

  /** The id of an answer, told by that or by its words, of the caption that stands at an object; null when there is none. */
  answerOf(object: number, answer: string): string | null {
    const { program, state } = this.#run;
    const k = this.#standing(object);
    const answers = program.answers[k < 0 ? -1 : (state.captions[k * CAPTION_ROW + 3] as number)] ?? [];
    return (answers.find((a) => a.id === answer) ?? answers.find((a) => a.text === answer))?.id ?? null;
  }

  /** The caption that stands at an object is answered, by one of its answers. */
  answer(object: number, answer: string, cause: Cause): void {
    const run = this.#run;
    const k = this.#standing(object);
    const id = run.idOf(object) as string;
    const rec = run.raise({ kind: 'event', event: 'caption.answer', object: id, answer }, cause);
    run.queueEvent(rec, cause, object);
    this.#end(k, 'answer', { ...cause, rec: rec.id });
    this.#next(object, cause);
  }

  /** The time of the nth caption is over. */
  over(n: number, cause: Cause): void {
    const { state } = this.#run;
    for (let k = 0; k < (state.one[CAPTIONS] as number); k++) {
      if (state.captions[k * CAPTION_ROW + 4] !== n) continue;
      const object = state.captions[k * CAPTION_ROW] as number;
      this.#end(k, 'time', cause);
      this.#next(object, cause);
      return;
    }
  }

  #begin(k: number, cause: Cause): void {
    const run = this.#run;
    const { captions, texts } = run.state;
    const at = k * CAPTION_ROW;
    const [seconds, n] = [captions[at + 2] as number, captions[at + 4] as number];
    const object = run.program.objects[captions[at] as number]?.id as string;
    const text = texts.list[captions[at + 1] as number] as string;
    const rec = run.raise({ kind: 'caption', object, text }, cause);
    captions[at + 6] = 1;
    captions[at + 7] = run.t;
    if (seconds < 0) return;
    run.addDue({ t: snapDate(run.t + seconds), what: DUE_CAPTION, index: n, action: 0, n: 0, cause: rec.id });
  }

  #end(k: number, why: 'time' | 'answer' | 'replaced' | 'removed', cause: Cause): void {
    const run = this.#run;
    const object = run.state.captions[k * CAPTION_ROW] as number;
    run.state.dropCaption(k);
    const id = run.idOf(object) as string;
    const rec = run.raise({ kind: 'event', event: 'caption.gone', object: id, why }, cause);
    run.queueEvent(rec, cause, object);
  }

  /** These objects go: what stands at them is gone now, and nothing waits there any more. */
  removed({ from, to }: Span, cause: Cause): void {
    const { state } = this.#run;
    const goes = (k: number) => {
      const object = state.captions[k * CAPTION_ROW] as number;
      return object >= from && object < to;
    };
    for (let k = (state.one[CAPTIONS] as number) - 1; k >= 0; k--)
      if (goes(k) && state.captions[k * CAPTION_ROW + 6] !== 1) state.dropCaption(k);
    for (let k = 0; k < (state.one[CAPTIONS] as number); )
      if (goes(k)) this.#end(k, 'removed', cause);
      else k++;
  }

  /** The first that waits at an object begins, if one does. */
  #next(object: number, cause: Cause): void {
    const { state } = this.#run;
    for (let k = 0; k < (state.one[CAPTIONS] as number); k++) {
      if (state.captions[k * CAPTION_ROW] !== object) continue;
      const rec = state.captions[k * CAPTION_ROW + 5] as number;
      this.#begin(k, { ...cause, rec: rec < 0 ? null : rec });
      return;
    }
  }

  #standing(object: number): number {
    const { captions, one } = this.#run.state;
    for (let k = 0; k < (one[CAPTIONS] as number); k++)
      if (captions[k * CAPTION_ROW] === object && captions[k * CAPTION_ROW + 6] === 1) return k;
    return -1;
  }

  #waiting(object: number): number {
    const { captions, one } = this.#run.state;
    let n = 0;
    for (let k = 0; k < (one[CAPTIONS] as number); k++)
      if (captions[k * CAPTION_ROW] === object && captions[k * CAPTION_ROW + 6] === 0) n++;
    return n;
  }
}
