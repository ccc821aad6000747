/** Cue sheets while they run: what begins when, what waits, when a cue has ended and what follows it. */
import { SAME_DATE, snapDate } from '../base/index.ts';
import type { Act } from './acts.ts';
import { type Context, listAsks, type QueuedEvent } from './context.ts';
import type { Deeds } from './deeds.ts';
import { onMatches } from './listening.ts';
import type { CueAct, CueProgram, SheetProgram } from './program.ts';
import { isNoticedOf, isPointedAt } from './reach.ts';
import { CAPTION_ROW, CUE_ACT_ROW, CUE_ROW, SHEET_ROW, TWEEN_ROW } from './rows.ts';
import { placeOf } from './spawned.ts';
import { CAPTIONS, DUE_CUE, DUE_CUE_ACT, DUE_LOOK, DUE_SHEET, type Due, SHEETS } from './state.ts';
import { type Cause, NO_CAUSE } from './trace.ts';

/** What has become of a cue: it is not reached, waits for its time, listens, has begun, or is over. */
const IDLE = 0;
const TIMED = 1;
const LISTENS = 2;
const BEGUN = 3;
const OVER = 4;
/** So many askings of a sheet wait at most. */
const MOST_ASKED = 64;

export class Sheets {
  readonly #run: Context;
  readonly #deeds: Deeds;

  constructor(run: Context, deeds: Deeds) {
    this.#run = run;
    this.#deeds = deeds;
  }

  /** The action `sheet`. `skip`: seconds of it that are taken to have passed; what would have begun in them does not. */
  ask(i: number, cause: Cause, skip = 0): void {
    const run = this.#run;
    const { sheet } = run.program.sheets[i] as SheetProgram;
    const row = run.state.sheets;
    if (!run.mayGoOn(cause)) return;
    if (row[i * SHEET_ROW] !== 1 || sheet.again === 'restart' || skip > 0) this.#begin(i, cause, skip);
    else if (sheet.again === 'queue')
      row[i * SHEET_ROW + 2] = Math.min(MOST_ASKED, (row[i * SHEET_ROW + 2] as number) + 1);
  }

  /** What has not happened of it does not; nothing is told but that it was stopped. */
  stop(i: number, cause: Cause): void {
    const run = this.#run;
    const { id: sheet } = (run.program.sheets[i] as SheetProgram).sheet;
    run.raise({ kind: 'sheet', action: 'stopSheet', sheet }, cause);
    run.state.sheets[i * SHEET_ROW + 2] = 0;
    this.#end(i);
  }

  #end(i: number): void {
    const { sheets, one } = this.#run.state;
    if (sheets[i * SHEET_ROW] === 1) one[SHEETS] = (one[SHEETS] as number) - 1;
    sheets[i * SHEET_ROW] = 0;
    // What is still due is of an earlier round, and does nothing.
    sheets[i * SHEET_ROW + 1] = (sheets[i * SHEET_ROW + 1] as number) + 1;
  }

  #begin(i: number, cause: Cause, skip: number): void {
    const run = this.#run;
    const { sheets, cues, one } = run.state;
    const { sheet, first, end } = run.program.sheets[i] as SheetProgram;
    this.#end(i);
    sheets[i * SHEET_ROW] = 1;
    sheets[i * SHEET_ROW + 4] = run.t - skip;
    one[SHEETS] = (one[SHEETS] as number) + 1;
    const rec = run.raise({ kind: 'event', event: 'sheet.start', sheet: sheet.id }, cause);
    run.queueEvent(rec, cause);
    cues.fill(0, first * CUE_ROW, end * CUE_ROW);
    for (let c = first; c < end; c++)
      if (this.#cue(c).parent < 0) this.#lay(c, run.t - skip, rec.id, skip > 0);
  }

  #cue(c: number): CueProgram {
    return this.#run.program.cues[c] as CueProgram;
  }

  /** Cue c is timed from date `from`. With `skips` one that lies before the present date is over without having been. */
  #lay(c: number, from: number, rec: number, skips = false): void {
    const run = this.#run;
    const { cues, sheets } = run.state;
    const { cue, sheet, length } = this.#cue(c);
    const t = snapDate(from + cue.t);
    if (skips && t < run.t - SAME_DATE) {
      cues[c * CUE_ROW] = OVER;
      this.#follow(c, t, false, rec, true);
      this.#follow(c, t + (Number.isFinite(length) ? length : 0), true, rec, true);
      return;
    }
    cues[c * CUE_ROW] = TIMED;
    const n = sheets[sheet * SHEET_ROW + 1] as number;
    run.addDue({ t: Math.max(run.t, t), what: DUE_CUE, index: c, action: 0, n, cause: rec });
  }

  /** Lays what hangs on cue c, on its start or on its end. */
  #follow(c: number, from: number, after: boolean, rec: number, skips = false): void {
    const { end } = this.#run.program.sheets[this.#cue(c).sheet] as SheetProgram;
    for (let k = c + 1; k < end; k++) {
      const cue = this.#cue(k);
      if (cue.parent === c && cue.after === after) this.#lay(k, from, rec, skips);
    }
  }

  /** Something of a sheet is due. */
  due(d: Due, cause: Cause): void {
    const { state } = this.#run;
    if (d.what === DUE_LOOK) return;
    const sheet = d.what === DUE_SHEET ? d.index : this.#cue(d.index).sheet;
    if (state.sheets[sheet * SHEET_ROW] !== 1 || state.sheets[sheet * SHEET_ROW + 1] !== d.n) return;
    if (d.what === DUE_SHEET) this.#begin(sheet, cause, 0);
    else if (d.what === DUE_CUE_ACT) this.#act(d.index, d.action, cause);
    else if (this.#cue(d.index).cue.wait) state.cues[d.index * CUE_ROW] = LISTENS;
    else this.#start(d.index, cause);
  }

  /** The cues that wait for this event begin, in the order of the document. */
  hear(e: QueuedEvent): void {
    const { state, program } = this.#run;
    if (state.one[SHEETS] === 0) return;
    const heard: { readonly c: number; readonly round: number }[] = [];
    program.cues.forEach(({ cue, sheet }, c) => {
      if (state.sheets[sheet * SHEET_ROW] !== 1 || state.cues[c * CUE_ROW] !== LISTENS) return;
      if (cue.wait && this.#means(c, e))
        heard.push({ c, round: state.sheets[sheet * SHEET_ROW + 1] as number });
    });
    // One that begins may stop another, or all of its sheet.
    for (const { c, round } of heard)
      if (state.cues[c * CUE_ROW] === LISTENS && state.sheets[this.#cue(c).sheet * SHEET_ROW + 1] === round)
        this.#start(c, { rec: e.rec.id, depth: e.depth, other: e.other });
  }

  #means(c: number, e: QueuedEvent): boolean {
    const on = this.#cue(c).cue.wait;
    const { program } = this.#run;
    if (!on || on.event !== e.rec.event) return false;
    const pointed = isPointedAt(program, on, e.rec, e.object) ?? isNoticedOf(program, on, e.rec, e.other);
    return (
      pointed ??
      onMatches(on, e.rec, {
        object: on.object ?? e.rec.object,
        place: placeOf(program, 'Sheet', this.#cue(c).sheet),
      })
    );
  }

  #start(c: number, cause: Cause): void {
    const run = this.#run;
    const { state } = run;
    const { cue, sheet, acts, firstAct, list } = this.#cue(c);
    if (!run.mayAct(listAsks(list))) return;
    const round = state.sheets[sheet * SHEET_ROW + 1] as number;
    const { id } = (run.program.sheets[sheet] as SheetProgram).sheet;
    const rec = run.raise({ kind: 'cue', event: 'cue', cue: cue.id, sheet: id }, cause);
    run.queueEvent(rec, cause);
    state.cues[c * CUE_ROW] = BEGUN;
    state.cues[c * CUE_ROW + 1] = rec.id;
    const { after, first } = run.program.lists;
    const from = first[list] as number;
    for (let i = 0; i < acts.length; i++) {
      const at = (firstAct + i) * CUE_ACT_ROW;
      state.cueActs[at] = -1;
      const seconds = after[from + i] as number;
      const due = { what: DUE_CUE_ACT, index: c, action: i, n: round, cause: rec.id };
      if (seconds > 0) run.addDue({ t: snapDate(run.t + seconds), ...due });
      else this.#act(c, i, { ...cause, rec: rec.id });
      // It may have stopped itself, or begun anew.
      if (state.sheets[sheet * SHEET_ROW + 1] !== round) return;
    }
    this.#follow(c, run.t, false, rec.id);
  }

  #act(c: number, i: number, cause: Cause): void {
    const run = this.#run;
    const { list, firstAct, acts } = this.#cue(c);
    const at = (firstAct + i) * CUE_ACT_ROW;
    const { cueActs } = run.state;
    cueActs[at] = run.t;
    cueActs[at + 1] = -1;
    if (!run.mayAct(listAsks(list))) return;
    const { acts: all, first } = run.program.lists;
    const token = (all[(first[list] as number) + i] as Act)(this.#deeds, cause);
    if (typeof token === 'number' && cueActs[at] === run.t) cueActs[at + 1] = token;
    const { what, seconds } = acts[i] as CueAct;
    // Its end is a date at which is looked whether the cue has ended.
    if (what === 'tween' && seconds > 0)
      run.addDue({ t: snapDate(run.t + seconds), what: DUE_LOOK, index: 0, action: 0, n: 0, cause: -1 });
  }

  /** Looks which cues, and which sheets, have ended at the present date; whether any have. */
  serve(): boolean {
    const run = this.#run;
    const { state, program } = run;
    if (state.one[SHEETS] === 0) return false;
    let any = false;
    program.sheets.forEach(({ first, end }, i) => {
      if (state.sheets[i * SHEET_ROW] !== 1) return;
      let rest = 0;
      for (let c = first; c < end; c++) {
        if (state.cues[c * CUE_ROW] === BEGUN && !this.#goesOn(c)) {
          state.cues[c * CUE_ROW] = OVER;
          this.#follow(c, run.t, true, state.cues[c * CUE_ROW + 1] as number);
          any = true;
        }
        const status = state.cues[c * CUE_ROW];
        if (status !== OVER && status !== IDLE) rest++;
      }
      // In the pause of a loop all are over, and the pause counts as running.
      if (rest > 0 || state.sheets[i * SHEET_ROW + 3] === state.sheets[i * SHEET_ROW + 1]) return;
      any = true;
      this.#done(i);
    });
    return any;
  }

  #done(i: number): void {
    const run = this.#run;
    const { sheets } = run.state;
    const { sheet } = run.program.sheets[i] as SheetProgram;
    const rec = run.raise({ kind: 'done', event: 'sheet.done', sheet: sheet.id }, this.#lastOf(i));
    run.queueEvent(rec, NO_CAUSE);
    const cause: Cause = { rec: rec.id, depth: 0 };
    const asked = sheets[i * SHEET_ROW + 2] as number;
    if (asked > 0) {
      sheets[i * SHEET_ROW + 2] = asked - 1;
      this.#begin(i, cause, 0);
    } else if (sheet.end === 'stop') this.#end(i);
    else {
      const n = sheets[i * SHEET_ROW + 1] as number;
      sheets[i * SHEET_ROW + 3] = n;
      const t = snapDate(run.t + sheet.end.loop);
      run.addDue({ t, what: DUE_SHEET, index: i, action: 0, n, cause: rec.id });
    }
  }

  /** The newest record of a cue of a sheet. */
  #lastOf(i: number): Cause {
    const { first, end } = this.#run.program.sheets[i] as SheetProgram;
    let rec = 0;
    for (let c = first; c < end; c++) rec = Math.max(rec, this.#run.state.cues[c * CUE_ROW + 1] as number);
    return rec > 0 ? { rec, depth: 0 } : NO_CAUSE;
  }

  #goesOn(c: number): boolean {
    const { acts, firstAct } = this.#cue(c);
    const { cueActs } = this.#run.state;
    return acts.some((act, i) => {
      const began = cueActs[(firstAct + i) * CUE_ACT_ROW] as number;
      return began < 0 || this.#isGoing(act, began, cueActs[(firstAct + i) * CUE_ACT_ROW + 1] as number);
    });
  }

  /** Whether what an action began is neither over, nor cut short, nor replaced. */
  #isGoing({ what, rows, lane, seconds }: CueAct, began: number, token: number): boolean {
    const { state, program, t } = this.#run;
    if (what === 'tween')
      return (
        t < began + seconds - SAME_DATE &&
        rows.some((k) => {
          const at = k * TWEEN_ROW;
          const isIt = state.tweens[at] === 1 && state.tweens[at + 6] === token;
          return isIt && state.isPut(program.tweenAts[k] as number);
        })
      );
    if (what === 'caption') {
      for (let k = 0; k < (state.one[CAPTIONS] as number); k++)
        if (state.captions[k * CAPTION_ROW + 4] === token) return true;
      return false;
    }
    if (what !== 'play' || lane < 0 || state.active[lane] === 0 || state.hasEnded(lane * 2)) return false;
    return state.begun[lane - program.firstDirect] === token;
  }
}
