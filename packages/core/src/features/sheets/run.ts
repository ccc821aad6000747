/** Cue sheets while they run: what begins when, what waits, when a cue has ended and what follows it. */
import { SAME_INSTANT, snapInstant } from '../../base/index.ts';
import { type Context, listAsks } from '../../run/context.ts';
import type { QueuedEvent } from '../../run/events.ts';
import type { Phases } from '../../run/phases.ts';
import type { PlaceProgram } from '../../run/place-program.ts';
import type { RunBase } from '../../run/run-base.ts';
import type { Scheduled } from '../../run/state.ts';
import { type Cause, NO_CAUSE } from '../../run/trace.ts';
import type { CueProgram, SheetProgram } from './program.ts';
import { CUE_ACTION_ROW, CUE_ROW, SHEET_ROW, type SheetRows } from './rows.ts';

/** What has become of a cue: it is not reached, waits for its time, listens, has begun, or is over. */
const IDLE = 0;
const TIMED = 1;
const LISTENS = 2;
const BEGUN = 3;
const OVER = 4;
/** So many askings of a sheet wait at most. */
const MOST_ASKED = 64;

export class Sheets implements Phases {
  readonly #run: Context;
  readonly #base: RunBase;
  readonly #item: (name: string) => number;

  constructor(base: RunBase) {
    this.#run = base.context;
    this.#base = base;
    this.#item = (name) => base.context.scheduledNumber(name);
  }

  get #rows(): SheetRows {
    return this.#run.state.parts.sheets as SheetRows;
  }
  get #program(): { readonly sheets: readonly SheetProgram[]; readonly cues: readonly CueProgram[] } {
    return this.#run.program.parts.sheets as NonNullable<Context['program']['parts']['sheets']>;
  }
  #sheet(i: number): SheetProgram {
    return this.#program.sheets[i] as SheetProgram;
  }
  #cue(c: number): CueProgram {
    return this.#program.cues[c] as CueProgram;
  }

  /** The action `sheet`. `skip`: seconds of it that are taken to have passed; what would have begun in them does not. */
  ask(i: number, cause: Cause, skip = 0): void {
    const run = this.#run;
    const { sheet } = this.#sheet(i);
    const row = this.#rows.sheets;
    if (!run.mayGoOn(cause)) return;
    if (row[i * SHEET_ROW] !== 1 || sheet.again === 'restart' || skip > 0) this.#begin(i, cause, skip);
    else if (sheet.again === 'queue')
      row[i * SHEET_ROW + 2] = Math.min(MOST_ASKED, (row[i * SHEET_ROW + 2] as number) + 1);
  }

  /** What has not happened of it does not; nothing is logged but that it was stopped. */
  stop(i: number, cause: Cause): void {
    const run = this.#run;
    const { id: sheet } = this.#sheet(i).sheet;
    run.raise({ kind: 'sheet', action: 'stopSheet', sheet }, cause);
    this.#rows.sheets[i * SHEET_ROW + 2] = 0;
    this.#end(i);
  }

  #end(i: number): void {
    const { sheets, running } = this.#rows;
    if (sheets[i * SHEET_ROW] === 1) running[0] = (running[0] as number) - 1;
    sheets[i * SHEET_ROW] = 0;
    // What is still scheduled is of an earlier round, and does nothing.
    sheets[i * SHEET_ROW + 1] = (sheets[i * SHEET_ROW + 1] as number) + 1;
  }

  #begin(i: number, cause: Cause, skip: number): void {
    const run = this.#run;
    const { sheets, cues, running } = this.#rows;
    const { sheet, first, end } = this.#sheet(i);
    this.#end(i);
    sheets[i * SHEET_ROW] = 1;
    sheets[i * SHEET_ROW + 4] = run.t - skip;
    running[0] = (running[0] as number) + 1;
    const rec = run.raise({ kind: 'event', event: 'sheet.start', sheet: sheet.id }, cause);
    run.queueEvent(rec, cause);
    cues.fill(0, first * CUE_ROW, end * CUE_ROW);
    for (let c = first; c < end; c++)
      if (this.#cue(c).parent < 0) this.#lay(c, run.t - skip, rec.id, skip > 0);
  }

  /** Cue c is timed from instant `from`. With `skips` one that lies before the present instant is over without having been. */
  #lay(c: number, from: number, rec: number, skips = false): void {
    const run = this.#run;
    const { cues, sheets } = this.#rows;
    const { cue, sheet, length } = this.#cue(c);
    const t = snapInstant(from + cue.t);
    if (skips && t < run.t - SAME_INSTANT) {
      cues[c * CUE_ROW] = OVER;
      this.#follow(c, t, false, rec, true);
      this.#follow(c, t + (Number.isFinite(length) ? length : 0), true, rec, true);
      return;
    }
    cues[c * CUE_ROW] = TIMED;
    const n = sheets[sheet * SHEET_ROW + 1] as number;
    run.addScheduled({ t: Math.max(run.t, t), what: this.#item('cue'), index: c, action: 0, n, cause: rec });
  }

  /** Lays what hangs on cue c, on its start or on its end. */
  #follow(c: number, from: number, after: boolean, rec: number, skips = false): void {
    const { end } = this.#sheet(this.#cue(c).sheet);
    for (let k = c + 1; k < end; k++) {
      const cue = this.#cue(k);
      if (cue.parent === c && cue.after === after) this.#lay(k, from, rec, skips);
    }
  }

  /** The time of a cue has come. */
  item(d: Scheduled, cause: Cause): void {
    if (!this.#isOfThisRound(this.#cue(d.index).sheet, d)) return;
    if (this.#cue(d.index).cue.wait) this.#rows.cues[d.index * CUE_ROW] = LISTENS;
    else this.#start(d.index, cause);
  }
  /** An action of a cue comes after its delay. */
  runDelayedAction(d: Scheduled, cause: Cause): void {
    if (this.#isOfThisRound(this.#cue(d.index).sheet, d)) this.#runAction(d.index, d.action, cause);
  }
  /** The pause of a sheet that loops is over. */
  beginNextRound(d: Scheduled, cause: Cause): void {
    if (this.#isOfThisRound(d.index, d)) this.#begin(d.index, cause, 0);
  }
  #isOfThisRound(sheet: number, d: Scheduled): boolean {
    const { sheets } = this.#rows;
    return sheets[sheet * SHEET_ROW] === 1 && sheets[sheet * SHEET_ROW + 1] === d.n;
  }

  /** The cues that wait for this event begin, in the order of the document. */
  hear(e: QueuedEvent): void {
    const { sheets, cues, running } = this.#rows;
    if (running[0] === 0) return;
    const heard: { readonly c: number; readonly round: number }[] = [];
    this.#program.cues.forEach(({ cue, sheet }, c) => {
      if (sheets[sheet * SHEET_ROW] !== 1 || cues[c * CUE_ROW] !== LISTENS) return;
      if (cue.wait && this.#means(c, e)) heard.push({ c, round: sheets[sheet * SHEET_ROW + 1] as number });
    });
    // One that begins may stop another, or all of its sheet.
    for (const { c, round } of heard)
      if (cues[c * CUE_ROW] === LISTENS && sheets[this.#cue(c).sheet * SHEET_ROW + 1] === round)
        this.#start(c, { rec: e.rec.id, depth: e.depth, other: e.other });
  }

  #means(c: number, e: QueuedEvent): boolean {
    const { cue, sheet } = this.#cue(c);
    const { program } = this.#run;
    const on = cue.wait;
    if (!on || on.event !== e.rec.event) return false;
    const place = program.spawns.places[this.#sheet(sheet).place]?.id;
    return program.hearing.get(on.event)?.means(program, on, e, { object: null, place, stop: -1 }) === true;
  }

  #start(c: number, cause: Cause): void {
    const run = this.#run;
    const { sheets, cues, cueActions } = this.#rows;
    const { cue, sheet, lasting, firstAction, list } = this.#cue(c);
    if (!run.mayGoAhead(listAsks(list))) return;
    const round = sheets[sheet * SHEET_ROW + 1] as number;
    const { id } = this.#sheet(sheet).sheet;
    const rec = run.raise({ kind: 'cue', event: 'cue', cue: cue.id, sheet: id }, cause);
    run.queueEvent(rec, cause);
    cues[c * CUE_ROW] = BEGUN;
    cues[c * CUE_ROW + 1] = rec.id;
    const { after, first } = run.program.lists;
    const from = first[list] as number;
    for (let i = 0; i < lasting.length; i++) {
      const at = (firstAction + i) * CUE_ACTION_ROW;
      cueActions[at] = -1;
      const seconds = after[from + i] as number;
      const item = { what: this.#item('action of a cue'), index: c, action: i, n: round, cause: rec.id };
      if (seconds > 0) run.addScheduled({ t: snapInstant(run.t + seconds), ...item });
      else this.#runAction(c, i, { ...cause, rec: rec.id });
      // It may have stopped itself, or begun anew.
      if (sheets[sheet * SHEET_ROW + 1] !== round) return;
    }
    this.#follow(c, run.t, false, rec.id);
  }

  #runAction(c: number, i: number, cause: Cause): void {
    const run = this.#run;
    const { list, firstAction, lasting } = this.#cue(c);
    const at = (firstAction + i) * CUE_ACTION_ROW;
    const { cueActions } = this.#rows;
    cueActions[at] = run.t;
    cueActions[at + 1] = -1;
    if (!run.mayGoAhead(listAsks(list))) return;
    const { compiled: all, first } = run.program.lists;
    const token = all[(first[list] as number) + i]?.(this.#base.runner, cause);
    if (typeof token === 'number' && cueActions[at] === run.t) cueActions[at + 1] = token;
    const seconds = lasting[i]?.seconds ?? 0;
    // Its end is an instant at which is looked whether the cue has ended.
    if (seconds > 0)
      run.addScheduled({
        t: snapInstant(run.t + seconds),
        what: this.#item('look at cues'),
        index: 0,
        action: 0,
        n: 0,
        cause: -1,
      });
  }

  /** Looks which cues, and which sheets, have ended at the present instant; whether any have. */
  serve(): boolean {
    const run = this.#run;
    const { sheets, cues, running } = this.#rows;
    if (running[0] === 0) return false;
    let any = false;
    this.#program.sheets.forEach(({ first, end }, i) => {
      if (sheets[i * SHEET_ROW] !== 1) return;
      let rest = 0;
      for (let c = first; c < end; c++) {
        if (cues[c * CUE_ROW] === BEGUN && !this.#goesOn(c)) {
          cues[c * CUE_ROW] = OVER;
          this.#follow(c, run.t, true, cues[c * CUE_ROW + 1] as number);
          any = true;
        }
        const status = cues[c * CUE_ROW];
        if (status !== OVER && status !== IDLE) rest++;
      }
      // In the pause of a loop all are over, and the pause counts as running.
      if (rest > 0 || sheets[i * SHEET_ROW + 3] === sheets[i * SHEET_ROW + 1]) return;
      any = true;
      this.#done(i);
    });
    return any;
  }

  #done(i: number): void {
    const run = this.#run;
    const { sheets } = this.#rows;
    const { sheet } = this.#sheet(i);
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
      const t = snapInstant(run.t + sheet.end.loop);
      run.addScheduled({ t, what: this.#item('round of a sheet'), index: i, action: 0, n, cause: rec.id });
    }
  }

  /** The newest record of a cue of a sheet. */
  #lastOf(i: number): Cause {
    const { first, end } = this.#sheet(i);
    const { cues } = this.#rows;
    let rec = 0;
    for (let c = first; c < end; c++) rec = Math.max(rec, cues[c * CUE_ROW + 1] as number);
    return rec > 0 ? { rec, depth: 0 } : NO_CAUSE;
  }

  /** Whether anything that cue c began goes on, or some action of it is still to come. */
  #goesOn(c: number): boolean {
    const { lasting, firstAction } = this.#cue(c);
    const { cueActions } = this.#rows;
    const { program, state, t } = this.#run;
    return lasting.some((lasting, i) => {
      const at = (firstAction + i) * CUE_ACTION_ROW;
      const began = cueActions[at] as number;
      return began < 0 || lasting?.goesOn(program, state, t, began, cueActions[at + 1] as number) === true;
    });
  }

  /** Seconds since a sheet began, by its id; undefined while it does not run. */
  timeOf(sheet: string): number | undefined {
    const i = this.#run.program.parts.sheets?.index.get(sheet) ?? -1;
    const { sheets } = this.#rows;
    if (i < 0 || sheets[i * SHEET_ROW] !== 1) return undefined;
    return this.#run.time - (sheets[i * SHEET_ROW + 4] as number);
  }

  setBack(_place: PlaceProgram, k: number): void {
    const { sheets, cues, cueActions, running } = this.#rows;
    for (const i of this.#run.program.parts.sheets?.byPlace.get(k) ?? []) {
      const { first, end } = this.#sheet(i);
      if (sheets[i * SHEET_ROW] === 1) running[0] = (running[0] as number) - 1;
      sheets.fill(0, i * SHEET_ROW, (i + 1) * SHEET_ROW);
      cues.fill(0, first * CUE_ROW, end * CUE_ROW);
      for (let c = first; c < end; c++) {
        const { firstAction, lasting } = this.#cue(c);
        cueActions.fill(0, firstAction * CUE_ACTION_ROW, (firstAction + lasting.length) * CUE_ACTION_ROW);
      }
    }
  }
}
