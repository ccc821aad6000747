/** Captions while a piece runs: what stands, what waits, what is answered. */
import { snapInstant } from '../../base/index.ts';
import type { Context } from '../../run/context.ts';
import type { Phases } from '../../run/phases.ts';
import type { Span } from '../../run/place-program.ts';
import type { RunBase } from '../../run/run-base.ts';
import type { Cause } from '../../run/trace.ts';
import type { CaptionRows } from './rows.ts';

/** So many captions of one object wait at most. */
const MOST_WAITING = 64;

export interface CaptionHow {
  /** −1: until it is answered, or another takes its place. */
  readonly seconds: number;
  /** Number of its answers in the program; −1 for none. */
  readonly answers: number;
  readonly again: 'restart' | 'ignore' | 'queue';
}

export class Captions implements Phases {
  readonly #run: Context;

  constructor({ context }: RunBase) {
    this.#run = context;
  }

  get #rows(): CaptionRows {
    return this.#run.state.parts.captions as CaptionRows;
  }

  /** Which of all captions of the run it is; 0 when none comes of it. */
  say(object: number, words: string, how: CaptionHow, cause: Cause): number {
    const { texts } = this.#run.state;
    const { list, said } = this.#rows;
    if (this.#run.idOf(object) === undefined || !this.#run.mayGoAhead()) return 0;
    const standing = this.#standing(object);
    if (words === '') {
      for (let k = list.count - 1; k >= 0; k--) if (list.at(k, 0) === object && k !== standing) list.drop(k);
      const left = this.#standing(object);
      if (left >= 0) this.#end(left, 'replaced', cause);
      return 0;
    }
    if (standing >= 0 && how.again === 'ignore') return 0;
    const waits = standing >= 0 && how.again === 'queue';
    if (waits && this.#waiting(object) >= MOST_WAITING) return 0;
    if (standing >= 0 && !waits) this.#end(standing, 'replaced', cause);
    const n = (said[0] as number) + 1;
    said[0] = n;
    const row = [object, texts.number(words), how.seconds, how.answers, n, cause.rec ?? -1, 0, 0];
    const k = list.add(row);
    if (!waits) this.#begin(k, cause);
    return n;
  }

  /** The id of an answer, told by that or by its words, of the caption that stands at an object; null when there is none. */
  answerOf(object: number, answer: string): string | null {
    const k = this.#standing(object);
    const all = this.#run.program.parts.captions?.answers;
    const answers = all?.[k < 0 ? -1 : this.#rows.list.at(k, 3)] ?? [];
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
    const { list } = this.#rows;
    for (let k = 0; k < list.count; k++) {
      if (list.at(k, 4) !== n) continue;
      const object = list.at(k, 0);
      this.#end(k, 'time', cause);
      this.#next(object, cause);
      return;
    }
  }

  #begin(k: number, cause: Cause): void {
    const run = this.#run;
    const { list } = this.#rows;
    const [seconds, n] = [list.at(k, 2), list.at(k, 4)];
    const object = run.program.objects[list.at(k, 0)]?.id as string;
    const text = run.state.texts.list[list.at(k, 1)] as string;
    const rec = run.raise({ kind: 'caption', object, text }, cause);
    list.data[k * list.width + 6] = 1;
    list.data[k * list.width + 7] = run.t;
    if (seconds < 0) return;
    const what = run.scheduledNumber('end of a caption');
    run.addScheduled({ t: snapInstant(run.t + seconds), what, index: n, action: 0, n: 0, cause: rec.id });
  }

  #end(k: number, why: 'time' | 'answer' | 'replaced' | 'removed', cause: Cause): void {
    const run = this.#run;
    const { list } = this.#rows;
    const object = list.at(k, 0);
    list.drop(k);
    const id = run.idOf(object) as string;
    const rec = run.raise({ kind: 'event', event: 'caption.gone', object: id, why }, cause);
    run.queueEvent(rec, cause, object);
  }

  /** These objects go: what stands at them is gone now, and nothing waits there any more. */
  left({ from, to }: Span, cause: Cause): void {
    const { list } = this.#rows;
    const goes = (k: number) => list.at(k, 0) >= from && list.at(k, 0) < to;
    for (let k = list.count - 1; k >= 0; k--) if (goes(k) && list.at(k, 6) !== 1) list.drop(k);
    for (let k = 0; k < list.count; )
      if (goes(k)) this.#end(k, 'removed', cause);
      else k++;
  }

  /** The first that waits at an object begins, if one does. */
  #next(object: number, cause: Cause): void {
    const { list } = this.#rows;
    for (let k = 0; k < list.count; k++) {
      if (list.at(k, 0) !== object) continue;
      const rec = list.at(k, 5);
      this.#begin(k, { ...cause, rec: rec < 0 ? null : rec });
      return;
    }
  }

  #standing(object: number): number {
    const { list } = this.#rows;
    for (let k = 0; k < list.count; k++) if (list.at(k, 0) === object && list.at(k, 6) === 1) return k;
    return -1;
  }

  #waiting(object: number): number {
    const { list } = this.#rows;
    let n = 0;
    for (let k = 0; k < list.count; k++) if (list.at(k, 0) === object && list.at(k, 6) === 0) n++;
    return n;
  }
}
