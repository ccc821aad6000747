/** What happened in a run: its records, and each that tells something as a line, worded once, when it came. */
import type { TraceRecord } from '@apple-tick/core/run';
import type { PieceStore } from '../model-help.ts';
import { happened } from './log-words.ts';
import { nameOf } from './words.ts';

export interface LogLine {
  readonly id: number;
  readonly t: number;
  readonly words: string;
  /** The lane that it tells of, with which its words begin. */
  readonly lane: string | null;
  /** What else belongs to it: of the start, where each lane begins. */
  readonly more: readonly string[];
  /** What sort of happening it is. */
  readonly group: LogGroup;
  /** The object that it is about, as far as it is about one. */
  readonly about: string | null;
  /** The object that was clicked, of a click. */
  readonly clicked: string | null;
  /** It tells that a tween or a motor began, which is told with what began it. */
  readonly moves: boolean;
  /** The nearest cause that is a line, too. */
  readonly cause: LogLine | undefined;
}

/** Sorts of happenings, as they are picked to be shown alone. */
export const LOG_GROUPS = {
  states: 'states and lanes',
  signals: 'signals and messages',
  hand: 'what was done by hand',
  doings: 'what reacted and acted',
  zones: 'what zones noticed',
  shows: 'captions, cues, sounds, effects',
} as const;
export type LogGroup = keyof typeof LOG_GROUPS;

const GROUPS: Partial<Record<TraceRecord['kind'], LogGroup>> = {
  start: 'states',
  transition: 'states',
  done: 'states',
  signal: 'signals',
  message: 'signals',
  input: 'hand',
  event: 'hand',
  burst: 'shows',
  caption: 'shows',
  sound: 'shows',
  spawn: 'shows',
};

/** What comes again within so many lines is told once, with how many times. */
const SOON = 4;
/** Of these sorts; what somebody did, where a lane went and what was sent each stand alone. */
const FOLDS: ReadonlySet<LogGroup> = new Set(['doings', 'shows', 'zones']);

/** Lines that say the same, soon after each other: the newest of them, and all of them, the oldest first. */
export interface Told {
  readonly line: LogLine;
  readonly all: readonly LogLine[];
  /** The tweens and motors that the newest began. */
  readonly moves: readonly LogLine[];
}

/** What is told of the lines, the oldest first; what comes again and again is one of them, where it came last. */
export function folded(lines: readonly LogLine[]): Told[] {
  const out: (Told & { moves: LogLine[] })[] = [];
  const toldOf = new Map<LogLine, (typeof out)[number]>();
  for (const line of lines) {
    const begun = line.moves && line.cause ? toldOf.get(line.cause) : undefined;
    if (begun) {
      begun.moves.push(line);
      continue;
    }
    let alike = -1;
    // What somebody did, or what led elsewhere, is not looked past: what comes after it is because of that.
    for (let i = out.length - 1; FOLDS.has(line.group) && i >= Math.max(0, out.length - SOON); i--) {
      const { group, words } = (out[i] as Told).line;
      if (!FOLDS.has(group)) break;
      if (words === line.words) {
        alike = i;
        break;
      }
    }
    const [before] = alike < 0 ? [] : out.splice(alike, 1);
    const told = { line, all: before ? [...before.all, line] : [line], moves: [] };
    toldOf.set(line, told);
    out.push(told);
  }
  return out;
}

/** Inputs that are things done, not pointed at. */
const HAND: ReadonlySet<string> = new Set(['set', 'put', 'pulse', 'send']);

/** So many of the newest records and lines stay. */
const MAX = 2000;

export class RunLog {
  private readonly store: PieceStore;
  records: readonly TraceRecord[] = [];
  /** The oldest first. */
  lines: readonly LogLine[] = [];
  /** By the id of a record: its line, or that of its nearest cause that has one. */
  private readonly lineOf = new Map<number, LogLine>();

  constructor(store: PieceStore) {
    this.store = store;
  }

  /** Records that led to something. */
  private readonly heard = new Set<number>();

  /** Whether this is a click that nothing heard. */
  isUnheard(line: LogLine): boolean {
    return line.clicked !== null && !this.heard.has(line.id);
  }

  /** The object that a lane's machine drives. */
  private objectOf(lane: string | undefined): string | null {
    if (lane === undefined) return null;
    const version = this.store.tableVersion('machines');
    if (this.owners.version !== version) {
      const machines = this.store.everywhere('machines');
      const of = new Map(machines.flatMap((m) => m.lanes.map((l) => [l.id, m.object] as const)));
      this.owners = { version, of };
    }
    const own = lane.slice(lane.lastIndexOf('/') + 1);
    const object = this.owners.of.get(own);
    return object === undefined ? null : lane.slice(0, lane.length - own.length) + object;
  }
  /** By lane the object of its machine, as the machines last were. */
  private owners: { version: number; of: ReadonlyMap<string, string> } = { version: -1, of: new Map() };

  /** The line of the piece's start, to which the lanes' first states are added. */
  private started: (LogLine & { more: string[] }) | null = null;

  /** Whether anything was done by hand that a cue could do. */
  byHand = false;

  add(more: readonly TraceRecord[]): void {
    const lines = [...this.lines];
    for (const r of more) {
      if (r.cause !== null) this.heard.add(r.cause);
      if (r.kind === 'input' && HAND.has(r.input ?? '')) this.byHand = true;
      const cause = r.cause === null ? undefined : this.lineOf.get(r.cause);
      const words = happened(this.store, r);
      if (r.kind === 'start' && r.tick === 0 && this.started && words !== null) {
        this.started.more.push(words);
        this.lineOf.set(r.id, this.started);
        continue;
      }
      const lane = r.kind === 'transition' || r.kind === 'start' ? nameOf(this.store, r.lane) : null;
      const clicked = r.event === 'pointer.click' ? (r.object ?? null) : null;
      const isShow =
        r.effect !== undefined || r.event?.startsWith('caption.') === true || r.sheet !== undefined;
      const group = r.collider !== undefined ? 'zones' : isShow ? 'shows' : (GROUPS[r.kind] ?? 'doings');
      const about = r.object ?? this.objectOf(r.lane);
      const moves = r.kind === 'action' && (r.action === 'tween' || r.action === 'motor');
      const made = {
        ...{ id: r.id, t: r.t, words: words ?? '', lane, more: [], group, about, clicked, moves, cause },
      };
      if (r.event === 'piece.start') this.started = made;
      const line = words === null ? cause : made;
      if (line) this.lineOf.set(r.id, line);
      if (words !== null && line) lines.push(line);
    }
    this.lines = lines.slice(-MAX);
    this.records = [...this.records, ...more].slice(-MAX);
    for (const id of this.heard) {
      if (this.heard.size <= 2 * MAX) break;
      this.heard.delete(id);
    }
    // What no later record can name any more; a map lists its oldest first.
    for (const id of this.lineOf.keys()) {
      if (this.lineOf.size <= 2 * MAX) break;
      this.lineOf.delete(id);
    }
  }
}
