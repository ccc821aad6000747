/**
 * Captions, effects and cue sheets in the plain interpreter of `oracle.ts`: what is under way is kept as objects, and
 * whether something goes on is asked of functions.
 */
import type { Action, CueSheet, Effect, On, Piece, SheetCue } from '../src/model/index.ts';
import { SAME } from './oracle-play.ts';

interface Said {
  readonly object: string;
  readonly text: string;
  readonly seconds: number | null;
  readonly answers: readonly string[];
}
interface Round {
  readonly sheet: CueSheet;
  /** What has become of each cue. */
  readonly cues: Map<SheetCue, 'timed' | 'listens' | 'over' | (() => boolean)[]>;
  pauses: boolean;
}

/** What this needs of the interpreter. */
interface Host {
  readonly piece: Piece;
  now(): number;
  raise(fields: { kind: string; [k: string]: unknown }, queued?: boolean): void;
  due(t: number, act: () => void): void;
  /** Does an action now; returns what tells whether what it began goes on. */
  act(a: Action, consumer: string): () => boolean;
  hears(on: On, line: Readonly<Record<string, unknown>>): boolean;
}

export class ShowsNow {
  private readonly host: Host;
  private readonly standing = new Map<string, Said>();
  private waiting: Said[] = [];
  private readonly bursts = new Map<string, number>();
  private flashes: number[] = [];
  private readonly rounds = new Map<string, Round>();
  private readonly asked = new Map<string, number>();

  constructor(host: Host) {
    this.host = host;
  }

  effect(id: string, object: string | undefined): void {
    const { kind } = this.host.piece.effects[id] as Effect;
    const at = object === undefined ? {} : { object };
    const t = this.host.now();
    if (kind === 'burst') {
      const n = this.bursts.get(id) ?? 0;
      this.bursts.set(id, n + 1);
      this.host.raise({ kind: 'burst', effect: id, burst: n, ...at });
      return;
    }
    let unseen = {};
    if (kind === 'flash') {
      if (this.flashes.filter((f) => f > t - 1 + SAME).length < 3) this.flashes.push(t);
      else unseen = { shown: false };
    }
    this.host.raise({ kind: 'action', action: kind, effect: id, ...at, ...unseen });
  }

  /** Returns what tells whether the caption is there still, or waits to be. */
  caption(a: Action & { do: 'caption' }, text: string): () => boolean {
    const { object } = a;
    const said: Said = {
      ...{ object, text, seconds: a.seconds === undefined ? 3 : a.seconds },
      answers: a.answers?.map((x) => x.id) ?? [],
    };
    const old = this.standing.get(object);
    if (text === '') {
      this.waiting = this.waiting.filter((w) => w.object !== object);
      if (old) this.gone(old, 'replaced');
      return () => false;
    }
    if (old && a.again === 'ignore') return () => false;
    if (old && a.again === 'queue') this.waiting.push(said);
    else {
      if (old) this.gone(old, 'replaced');
      this.show(said);
    }
    return () => this.standing.get(object) === said || this.waiting.includes(said);
  }
  private show(said: Said): void {
    this.standing.set(said.object, said);
    this.host.raise({ kind: 'caption', object: said.object, text: said.text });
    if (said.seconds === null) return;
    this.host.due(this.host.now() + said.seconds, () => {
      if (this.standing.get(said.object) !== said) return;
      this.gone(said, 'time');
      this.next(said.object);
    });
  }
  private gone(said: Said, why: string): void {
    this.standing.delete(said.object);
    this.host.raise({ kind: 'event', event: 'caption.gone', object: said.object, why }, true);
  }
  private next(object: string): void {
    const said = this.waiting.find((w) => w.object === object);
    if (!said) return;
    this.waiting = this.waiting.filter((w) => w !== said);
    this.show(said);
  }
  answer(object: string, answer: string): void {
    const said = this.standing.get(object);
    const fits = said?.answers.includes(answer) === true;
    this.host.raise({ kind: 'input', input: 'answer', object, answer, ...(fits ? {} : { missed: true }) });
    if (!said || !fits) return;
    this.host.raise({ kind: 'event', event: 'caption.answer', object, answer }, true);
    this.gone(said, 'answer');
    this.next(object);
  }

  // Cue sheets.

  ask(id: string): void {
    const sheet = this.host.piece.cueSheets[id] as CueSheet;
    if (!this.rounds.has(id) || sheet.again === 'restart') return this.begin(sheet);
    if (sheet.again === 'queue') this.asked.set(id, (this.asked.get(id) ?? 0) + 1);
  }
  stop(id: string): void {
    this.host.raise({ kind: 'sheet', action: 'stopSheet', sheet: id });
    this.rounds.delete(id);
    this.asked.delete(id);
  }
  private begin(sheet: CueSheet): void {
    const round: Round = { sheet, cues: new Map(), pauses: false };
    this.rounds.set(sheet.id, round);
    this.host.raise({ kind: 'event', event: 'sheet.start', sheet: sheet.id }, true);
    for (const cue of sheet.cues) this.time(round, cue);
  }
  private stands(round: Round): boolean {
    return this.rounds.get(round.sheet.id) === round;
  }
  private time(round: Round, cue: SheetCue): void {
    round.cues.set(cue, 'timed');
    this.host.due(this.host.now() + cue.t, () => {
      if (!this.stands(round)) return;
      if (cue.wait) round.cues.set(cue, 'listens');
      else this.start(round, cue);
    });
  }
  private start(round: Round, cue: SheetCue): void {
    this.host.raise({ kind: 'cue', event: 'cue', cue: cue.id, sheet: round.sheet.id }, true);
    const going: (() => boolean)[] = [];
    round.cues.set(cue, going);
    cue.actions.forEach((a, i) => {
      going.push(() => true);
      const act = () => {
        if (!this.stands(round)) return;
        // While it acts it goes on.
        going[i] = this.host.act(a, cue.id);
      };
      if (!this.stands(round)) return;
      if (a.after) this.host.due(this.host.now() + a.after, act);
      else act();
    });
    if (this.stands(round)) for (const c of cue.then) this.time(round, c);
  }
  hear(line: Readonly<Record<string, unknown>>): void {
    const heard: [Round, SheetCue][] = [];
    for (const id of Object.keys(this.host.piece.cueSheets)) {
      const round = this.rounds.get(id);
      for (const cue of round ? everyCue(round.sheet.cues) : [])
        if (round?.cues.get(cue) === 'listens' && cue.wait && this.host.hears(cue.wait, line))
          heard.push([round, cue]);
    }
    for (const [round, cue] of heard)
      if (this.stands(round) && round.cues.get(cue) === 'listens') this.start(round, cue);
  }
  /** Whether a cue, or a sheet, has come to its end at this instant. */
  look(): boolean {
    let any = false;
    for (const id of Object.keys(this.host.piece.cueSheets)) {
      const round = this.rounds.get(id);
      if (!round || round.pauses) continue;
      for (const cue of everyCue(round.sheet.cues)) {
        const going = round.cues.get(cue);
        if (!Array.isArray(going) || going.some((g) => g())) continue;
        any = true;
        round.cues.set(cue, 'over');
        for (const c of cue.thenAfter) this.time(round, c);
      }
      if ([...round.cues.values()].some((x) => x !== 'over')) continue;
      any = true;
      this.host.raise({ kind: 'done', event: 'sheet.done', sheet: id }, true);
      const { end } = round.sheet;
      const n = this.asked.get(id) ?? 0;
      if (n > 0) {
        this.asked.set(id, n - 1);
        this.begin(round.sheet);
      } else if (end === 'stop') this.rounds.delete(id);
      else {
        round.pauses = true;
        this.host.due(this.host.now() + end.loop, () => {
          if (this.stands(round)) this.begin(round.sheet);
        });
      }
    }
    return any;
  }
}

function everyCue(cues: readonly SheetCue[]): SheetCue[] {
  return cues.flatMap((c) => [c, ...everyCue(c.then), ...everyCue(c.thenAfter)]);
}
