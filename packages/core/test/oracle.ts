/**
 * A plain, slow interpreter of a piece, written from the contract alone (the design's semantics), to hold the engine
 * against. It enumerates what a play will meet, keeps what fades as functions, and looks at everything at every instant.
 * Without pictures: objects are only rows of numbers, so pointer events and masks are not in it, nor storms; the visitor
 * walks along x, in front. It is long since it is a whole second engine, and shares nothing with the first.
 */
import { fnv1a32 } from '../src/base/index.ts';
import type {
  Action,
  Clip,
  Condition,
  Crossfade,
  Lane,
  On,
  Piece,
  Reaction,
  Signal,
  SignalValue,
  State,
  Template,
  Transition,
  Value,
} from '../src/model/index.ts';
import { clipsPlayed, lookNumber, onePlay } from '../src/model/index.ts';
import { BlockersNow } from './oracle-blockers.ts';
import {
  begin,
  gained,
  keyed,
  keysOf,
  type Met,
  near,
  offsetsOf,
  type Play,
  placeOf,
  SAME,
  sample,
  turned,
} from './oracle-play.ts';
import { ShowsNow } from './oracle-shows.ts';
import {
  type BoundSignal,
  groupOf,
  Seats,
  throughBound,
  writtenOut,
  writtenUnder,
} from './oracle-templates.ts';
import { baseX, byDate, type Place, type Pose, ZonesNow } from './oracle-zones.ts';

export interface Line {
  t: number;
  kind: string;
  [more: string]: unknown;
}
export type OracleInput =
  | { set: Record<string, SignalValue> }
  | { pulse: string }
  | { send: string }
  | { key: string; down: boolean }
  | { answer: { object: string; answer: string } };

/** Numbers in [0, 1) of one consumer: sfc32 seeded by FNV-1a 32, twelve dropped. */
class Stream {
  private words: number[];
  constructor(seed: number, consumer: string) {
    this.words = [0, 1, 2, 3].map((i) => fnv1a32(`${seed}/${consumer}/${i}`));
    for (let i = 0; i < 12; i++) this.next();
  }
  next(): number {
    const [a, b, c, n] = this.words as [number, number, number, number];
    const t = (a + b + n) >>> 0;
    this.words = [
      (b ^ (b >>> 9)) >>> 0,
      (c + (c << 3)) >>> 0,
      (((c << 21) | (c >>> 11)) + t) >>> 0,
      (n + 1) >>> 0,
    ];
    return t / 2 ** 32;
  }
}

interface Given {
  v: number;
  w: number;
}
type Gives = (slot: string, t: number) => Given;

interface Fading {
  state: State;
  play: Play | null;
  blend: BlendNow | null;
}
/** Several clips at once: each with its play, which with a common phase is one of a clip that lasts 1. */
interface BlendNow {
  play: Exclude<State['play'], string | { clip: string }>;
  clips: Clip[];
  plays: Play[];
  common: boolean;
  heavy: number;
  /** When all of them have ended; infinite when one loops. */
  end: () => number;
  done: boolean;
}
interface LaneNow {
  lane: Lane;
  state: State | null;
  entered: number;
  entry: number;
  finished: boolean;
  play: Play | null;
  blend: BlendNow | null;
  here: { clip: string; place: number } | null;
  held: Gives;
  fade: { from: number; length: number; easing: 'linear' | 'hold'; old: Gives } | null;
  mustFinish: boolean;
  /** The play that fades out, and its state: a speed signal moves it too. */
  fading: Fading | null;
  over: Map<string, number>;
  asked: number;
  turned: number;
  drawn: Map<string, string>;
  used: Map<string, number>;
}
/** What was put, or tweened: the value at a time, and where it leads. */
interface Held {
  at: (t: number) => number;
  goal: number;
}
/** What a motor has added, in closed form since t0. */
interface MotorNow {
  t0: number;
  added: number;
  rate: number;
  acceleration: number;
  limit: number;
  runs: boolean;
}
const held = (v: number): Held => ({ at: () => v, goal: v });

function motorRate(m: MotorNow, t: number): number {
  const r = m.rate + m.acceleration * (t - m.t0);
  return Math.max(-m.limit, Math.min(m.limit, r));
}
function motorAdds(m: MotorNow, t: number): number {
  if (!m.runs) return m.added;
  const age = t - m.t0;
  const a = m.acceleration;
  // Until the limit is reached it gains speed, from then on it keeps it.
  const edge = a > 0 ? m.limit : -m.limit;
  const until = a === 0 ? Number.POSITIVE_INFINITY : (edge - m.rate) / a;
  if (age <= until) return m.added + m.rate * age + (a * age * age) / 2;
  return m.added + m.rate * until + (a * until * until) / 2 + edge * (age - until);
}

/** A play of its own, by its clip; all are of the clip's own root. `waits`: the askings that begin when it ends. */
interface Direct {
  clip: string;
  play: Play;
  speed: number | { signal: string };
  serial: number;
}
type PlayAction = Action & { do: 'play' };

interface Due {
  t: number;
  seq: number;
  /** What it belongs to: with a spawned one all goes that is its. */
  owner: string;
  act: () => void;
}
interface Raised {
  line: Line;
  entry: number;
}

const NOTHING: Gives = () => ({ v: 0, w: 0 });
const OFF = Number.NEGATIVE_INFINITY;

export class Oracle {
  readonly lines: Line[] = [];
  /** With all that is spawned and there. */
  readonly piece: Piece;
  private readonly bound: readonly BoundSignal[];
  /** Of every template those that are spawned and there, and of each where in their order it comes. */
  private readonly seats = new Map<string, Seats>();
  private readonly alive = new Map<string, number>();
  private readonly streams = new Map<string, Stream>();
  private readonly signals = new Map<string, SignalValue>();
  private readonly serial = new Map<string, number>();
  /** The pulses that are up, with the instant until which they are remembered. */
  private readonly up = new Map<string, number>();
  private lanes: LaneNow[] = [];
  /** Direct plays in the order of their beginning, the last on top. */
  private directs: Direct[] = [];
  private readonly waits = new Map<string, PlayAction[]>();
  private serials = 0;
  private readonly puts = new Map<string, Held>();
  private readonly motors = new Map<string, MotorNow>();
  /** Where each follow stands; those that have not begun are not in it. */
  private readonly follows = new Map<string, number>();
  private readonly cool = new Map<string, number>();
  private readonly spent = new Set<string>();
  private dues: Due[] = [];
  private queue: Raised[] = [];
  private seq = 0;
  private t = 0;
  private tick = -1;
  private readonly zones: ZonesNow;
  private readonly blockers: BlockersNow;
  private readonly shows: ShowsNow;

  constructor(source: Piece) {
    const { piece, bound } = writtenOut(source);
    this.piece = piece;
    this.bound = bound;
    this.zones = new ZonesNow(piece);
    this.blockers = new BlockersNow(piece);
    this.shows = new ShowsNow({
      piece,
      now: () => this.t,
      raise: (fields, queued) => void this.raise(fields, queued),
      due: (t, act) => this.due(t, '', act),
      act: (a, consumer) => this.lasting(a, consumer),
      hears: (on, line) => this.hears(on, { line: line as Line, entry: -1 }, null, null),
    });
    this.takeIn(piece);
    for (const b of bound) this.signals.set(b.inner, this.fitting(b));
  }
  /** What a bound signal begins with. */
  private fitting(b: BoundSignal): SignalValue {
    const value = throughBound(b, this.signals.get(b.outer) as SignalValue);
    return inRange(this.piece.signals[b.inner] as Signal, value);
  }
  /** Signals and lanes of the piece, or of something spawned; returns the lanes. */
  private takeIn(of: Pick<Piece, 'signals' | 'machines'>): LaneNow[] {
    for (const s of Object.values(of.signals)) this.signals.set(s.id, s.type === 'pulse' ? false : s.initial);
    const before = this.lanes.length;
    for (const m of Object.values(of.machines))
      for (const lane of m.lanes)
        this.lanes.push({
          lane,
          state: null,
          entered: 0,
          entry: 0,
          finished: false,
          play: null,
          blend: null,
          here: null,
          held: NOTHING,
          fade: null,
          mustFinish: false,
          fading: null,
          over: new Map(),
          asked: OFF,
          turned: OFF,
          drawn: new Map(),
          used: new Map(),
        });
    return this.lanes.slice(before);
  }

  /** Whether what has this id was spawned and is gone. */
  private isGone(id: string): boolean {
    const [name = ''] = id.split('/');
    return name.includes('#') && !this.alive.has(name);
  }
  private spawn(a: Action & { do: 'spawn' }, consumer: string): void {
    const template = this.piece.templates[a.template] as Template;
    const seats = this.seats.get(template.id) ?? new Seats(template.max ?? 20);
    this.seats.set(template.id, seats);
    const given = Object.entries(a.signals ?? {}).map(([id, v]) => [id, this.value(v, consumer)] as const);
    if (seats.oldest) this.end(seats.oldest, 'limit');
    const { name, seat } = seats.take(template.id);
    this.alive.set(name, seat);
    const tables = writtenUnder(template, name);
    this.piece.objects[name] = groupOf(name);
    for (const [table, records] of Object.entries(tables))
      Object.assign(this.piece[table as keyof typeof tables], records);
    const lanes = this.takeIn(tables);
    for (const [id, value] of given) {
      const def = tables.signals[`${name}/${id}`];
      if (def && inRange(def, value) === value) this.signals.set(def.id, value);
    }
    // What lies in them comes in the order of their places.
    const place = (id: string) => this.alive.get(id.split('/')[0] ?? '') ?? -1;
    this.lanes = this.lanes.toSorted((p, q) => place(p.lane.id) - place(q.lane.id));
    const reactions = Object.values(this.piece.reactions).toSorted((p, q) => place(p.id) - place(q.id));
    this.piece.reactions = Object.fromEntries(reactions.map((r) => [r.id, r]));
    this.raise({ kind: 'spawn', event: 'spawn.start', template: template.id, object: name }, true);
    this.begun(Object.values(tables.reactions), lanes);
    if (a.seconds) this.due(this.t + a.seconds, name, () => this.end(name, 'time'));
  }
  private end(name: string, why: string): void {
    const [template = ''] = name.split('#');
    this.raise({ kind: 'spawn', event: 'spawn.end', template, object: name, why }, true);
    this.alive.delete(name);
    this.seats.get(template)?.leave(name);
    const isIts = (id: string) => id === name || id.startsWith(`${name}/`);
    for (const table of ['objects', 'signals', 'clips', 'machines', 'reactions', 'follows'] as const)
      for (const id of Object.keys(this.piece[table])) if (isIts(id)) delete this.piece[table][id];
    for (const map of [this.signals, this.puts, this.motors, this.follows, this.waits, this.up, this.cool])
      for (const id of map.keys()) if (isIts(id)) map.delete(id);
    this.lanes = this.lanes.filter((l) => !isIts(l.lane.id));
    this.directs = this.directs.filter((d) => !isIts(d.clip));
    this.dues = this.dues.filter((d) => !isIts(d.owner));
  }
  /** In each tick in which something writes the property of a signal, that is set to it. */
  private setWritten(): void {
    for (const o of Object.values(this.piece.objects))
      for (const property of this.partsOf(o.id)) {
        const slot = `${o.id}/${property}`;
        if (!this.puts.has(slot)) continue;
        this.setSignal(`${o.id}/${property.slice('signal.'.length)}`, this.screen(slot, this.t));
      }
  }
  private partsOf(object: string): string[] {
    return Object.keys(this.piece.signals)
      .filter((id) => id.startsWith(`${object}/`))
      .map((id) => `signal.${id.slice(object.length + 1)}`);
  }

  private stream(consumer: string): Stream {
    let s = this.streams.get(consumer);
    if (!s) {
      s = new Stream(this.piece.seed, consumer);
      this.streams.set(consumer, s);
    }
    return s;
  }

  step(inputs: readonly OracleInput[]): void {
    this.tick++;
    const now = this.tick / 60;
    const walkedBy = new Set(this.keysDown);
    this.zones.begin();
    if (this.tick === 0) this.start();
    else
      for (;;) {
        const t = this.nextDate();
        if (!(t < now - SAME)) break;
        this.date(t, null);
      }
    this.date(now, inputs);
    this.follow();
    if (this.queue.length > 0) this.date(now, null);
    this.push(now);
    this.walk(walkedBy, now);
    if (this.blockers.any) this.blockers.posed(this.places(now));
    if (this.zones.any) this.zones.posed(this.tick, this.places(now));
    for (const [id, until] of this.up) if (!(this.kept(id) > 0 && until > now + SAME)) this.up.delete(id);
  }

  private push(now: number): void {
    if (!this.piece.visitor || !this.blockers.any) return;
    const pose = this.places(now);
    const { object } = this.piece.visitor;
    const x = this.blockers.push(pose, this.tick === 0 ? () => true : this.zones.hasJumped);
    if (x !== pose.get(object)?.x) this.hold(`${object}/position.x`, held(x));
  }

  /** The keyboard keys that are down. */
  private readonly keysDown = new Set<string>();
  /** The visitor goes along x by the keys that were held before the tick's inputs; here it is seen from the front. */
  private walk(keys: ReadonlySet<string>, now: number): void {
    const { visitor } = this.piece;
    if (!visitor) return;
    if (visitor.plane !== 'x') throw new Error('the interpreter walks along x only');
    const slot = `${visitor.object}/position.x`;
    if (this.screen(`${visitor.object}/shown`, now) < 0.5) return;
    const goes = (some: readonly string[]) => (some.some((k) => keys.has(k)) ? 1 : 0);
    const way = goes(visitor.keys.right) - goes(visitor.keys.left);
    const speed =
      typeof visitor.speed === 'number'
        ? visitor.speed
        : Math.max(0, Number(this.signals.get(visitor.speed.signal)));
    if (way === 0 || speed === 0) return;
    // What is stopped at once has no way, so nothing is put.
    const x = this.blockers.walk(this.places(now), (way * speed) / 60);
    if (Math.abs(x - this.screen(slot, now)) > 1e-9) this.hold(slot, held(x));
  }

  /** Each follow makes up its part of the way to its source; a clip that follows passes what lies between. */
  private follow(): void {
    for (const f of Object.values(this.piece.follows)) {
      if (!('signal' in f.source)) throw new Error('the interpreter has signals only to follow');
      let x = Number(this.signals.get(f.source.signal));
      if (f.from && f.to) {
        x = f.to[0] + ((x - f.from[0]) / (f.from[1] - f.from[0])) * (f.to[1] - f.to[0]);
        if (f.clamp) x = Math.max(Math.min(...f.to), Math.min(Math.max(...f.to), x));
      }
      const y = this.follows.get(f.id);
      const part = f.smooth > 0 ? 1 - Math.exp(-1 / (60 * f.smooth)) : 1;
      const now = y === undefined ? x : y + (x - y) * part;
      this.follows.set(f.id, now);
      const { target } = f;
      if (!('lane' in target)) continue;
      const l = this.lanes.find((k) => k.lane.id === target.lane) as LaneNow;
      if (!('clip' in target)) {
        this.reweigh(l);
        continue;
      }
      const p = l.play;
      if (!p || p.clip.id !== target.clip) continue;
      const from = p.raw0;
      const to = Math.max(0, Math.min(p.clip.duration, now));
      p.raw0 = to;
      p.t0 = this.t;
      if (l.entered > (this.tick - 1) / 60 + SAME) continue;
      const forwards = to > from;
      const { entry } = l;
      const cues = p.clip.cues.filter((q) => (forwards ? q.t > from && q.t <= to : q.t < from && q.t >= to));
      for (const q of forwards ? cues.sort((a, b) => a.t - b.t) : cues.sort((a, b) => b.t - a.t)) {
        if (l.entry !== entry || (q.when !== 'both' && (q.when === 'forwards') !== forwards)) continue;
        this.raise({ kind: 'cue', event: 'cue', cue: q.id, clip: p.clip.id, lane: l.lane.id }, true);
        this.actAll(q.actions, q.id);
      }
    }
  }
  /** Where what the slot follows stands; the last of several counts. */
  private followed(slot: string): number | undefined {
    let now: number | undefined;
    for (const { id, target } of Object.values(this.piece.follows))
      if ('object' in target && `${target.object}/${target.property}` === slot) now = this.follows.get(id);
    return now;
  }
  private isPlaced(lane: string, clip: string): boolean {
    return Object.values(this.piece.follows).some(
      ({ target }) => 'clip' in target && target.lane === lane && target.clip === clip,
    );
  }

  private start(): void {
    this.t = 0;
    this.raise({ kind: 'event', event: 'piece.start' }, true);
    this.begun(Object.values(this.piece.reactions), this.lanes);
  }
  /** Timers run, and lanes are in their first state, from now on. */
  private begun(reactions: readonly Reaction[], lanes: readonly LaneNow[]): void {
    const born = this.t;
    for (const r of reactions) if (r.on.event === 'timer') this.timer(r, born, 0);
    for (const l of [...lanes]) {
      const { initial } = l.lane;
      let to = typeof initial === 'string' ? initial : (initial.draw[0]?.state as string);
      if (typeof initial !== 'string') {
        const total = initial.draw.reduce((n, d) => n + d.odds, 0);
        const able = initial.draw.filter((d) => d.odds > 0);
        const goal = able.length > 1 ? this.stream(l.lane.id).next() * total : 0;
        let sum = 0;
        for (const d of able) {
          to = d.state;
          sum += d.odds;
          if (sum > goal) break;
        }
      }
      this.raise({ kind: 'start', lane: l.lane.id, state: to });
      this.enter(l, to, null);
    }
  }

  /** The nth firing at first + n·every, moved by the jitter drawn for it, since it was there. */
  private timer(r: Reaction, born: number, n: number): void {
    const { after, every, jitter } = r.on;
    if (n > 0 && every === undefined) return;
    let t = born + (after ?? every ?? 0) + n * (every ?? 0);
    if (jitter) t += (2 * this.stream(`${r.id}/jitter`).next() - 1) * jitter;
    this.due(Math.max(this.t, near(t)), r.id, () => {
      this.raise({ kind: 'event', event: 'timer', reaction: r.id }, true);
      this.timer(r, born, n + 1);
    });
  }
  private due(t: number, owner: string, act: () => void): void {
    this.dues.push({ t: near(t), seq: this.seq++, owner, act });
  }

  private nextDate(): number {
    let best = Number.POSITIVE_INFINITY;
    for (const d of this.dues) best = Math.min(best, d.t);
    for (const l of this.lanes)
      best = Math.min(best, this.nextMet(l)?.t ?? best, this.nextMoment(l), this.blendEnd(l));
    for (const d of this.directs) best = Math.min(best, d.play.ahead[0]?.t ?? best);
    return best;
  }
  private nextMet(l: { play: Play | null; blend?: BlendNow | null }): Met | undefined {
    return this.metPlay(l)?.ahead[0];
  }
  /** The play whose cues and ends are met: of a blend that of the clip that counts most. */
  private metPlay(l: { play: Play | null; blend?: BlendNow | null }): Play | null {
    return l.blend ? (l.blend.plays[l.blend.heavy] as Play) : l.play;
  }
  private blendEnd(l: LaneNow): number {
    return l.blend && !l.blend.done ? l.blend.end() : Number.POSITIVE_INFINITY;
  }
  private nextMoment(l: LaneNow): number {
    let best = Number.POSITIVE_INFINITY;
    if (!l.state || l.finished) return best;
    const consider = (t: number) => {
      if (t > l.asked + SAME) best = Math.min(best, t);
    };
    for (const w of this.waysOf(l)) {
      const m = this.moment(l, w);
      if (m !== null) consider(m);
    }
    if (l.mustFinish && l.fade) consider(near(l.fade.from + l.fade.length));
    return best;
  }

  private date(t: number, inputs: readonly OracleInput[] | null): void {
    this.t = t;
    if (this.zones.any) this.zones.dateBegins(this.places(t));
    this.serveDate(t, inputs);
    if (this.zones.any) this.zones.dateEnds(this.places(t));
  }
  /** Where the objects are, and how they are turned, at instant t. */
  private places(t: number): Pose {
    const place = (id: string): Place => ({
      x: this.screen(`${id}/position.x`, t),
      turn: this.screen(`${id}/rotation.z`, t),
      shown: this.screen(`${id}/shown`, t) >= 0.5,
    });
    return new Map(Object.keys(this.piece.objects).map((id) => [id, place(id)]));
  }
  private serveDate(t: number, inputs: readonly OracleInput[] | null): void {
    if (inputs) this.setWritten();
    for (const i of inputs ?? []) this.input(i);
    this.actDues();
    if (inputs && this.zones.any)
      for (const { order: _, ...found } of [
        ...this.zones.notice(this.tick),
        ...this.blockers.notice(this.tick),
      ].sort(byDate))
        this.raise({ kind: 'event', ...found }, true);
    this.settle();
    for (;;) {
      // In the order of their beginning; one that begins anew meanwhile comes again.
      for (let n = 0; ; ) {
        const d = this.directs.find((x) => x.serial > n);
        if (!d) break;
        n = d.serial;
        this.meetDirect(d);
      }
      for (const l of [...this.lanes]) if (this.lanes.includes(l)) this.meet(l);
      for (const l of this.lanes) l.asked = t;
      this.settle();
      const any = this.actDues();
      if (any) this.settle();
      const ended = this.shows.look();
      if (ended) this.settle();
      const more =
        this.directs.some((d) => (this.nextMet(d)?.t ?? 1e99) <= t + SAME) ||
        this.lanes.some(
          (l) =>
            (this.nextMet(l)?.t ?? 1e99) <= t + SAME ||
            this.nextMoment(l) <= t + SAME ||
            this.blendEnd(l) <= t + SAME,
        );
      if (!any && !ended && !more && !this.dues.some((d) => d.t <= t + SAME)) return;
    }
  }
  private actDues(): boolean {
    let any = false;
    for (;;) {
      const [d] = this.dues.filter((x) => x.t <= this.t + SAME).sort((a, b) => a.seq - b.seq);
      if (!d) return any;
      this.dues = this.dues.filter((x) => x !== d);
      any = true;
      d.act();
    }
  }

  private input(i: OracleInput): void {
    if ('key' in i) {
      if (i.down) this.keysDown.add(i.key);
      else this.keysDown.delete(i.key);
      this.raise({ kind: 'input', input: 'key', key: i.key });
      this.raise({ kind: 'event', event: i.down ? 'key.down' : 'key.up', key: i.key }, true);
    } else if ('set' in i)
      for (const [signal, to] of Object.entries(i.set)) {
        this.raise({ kind: 'input', input: 'set', signal, to });
        this.setSignal(signal, to);
      }
    else if ('pulse' in i) {
      this.raise({ kind: 'input', input: 'pulse', signal: i.pulse });
      this.pulse(i.pulse);
    } else if ('answer' in i) this.shows.answer(i.answer.object, i.answer.answer);
    else {
      this.raise({ kind: 'input', input: 'send', message: i.send });
      this.raise({ kind: 'message', event: 'message', message: i.send }, true);
    }
  }

  private raise(fields: { kind: string; [k: string]: unknown }, queued = false, entry = -1): Line {
    const line = { t: this.t, ...fields };
    this.lines.push(line);
    if (queued) this.queue.push({ line, entry });
    return line;
  }

  // Settling, after SCXML.
  private settle(): void {
    do {
      const e = this.queue.shift();
      if (e) this.serve(e);
      for (let round = 0; ; round++) {
        if (round > 60) throw new Error('storm');
        const ways = this.ways(null);
        if (ways.length === 0) break;
        this.goAll(ways);
      }
    } while (this.queue.length > 0);
  }
  private serve(e: Raised): void {
    if (e.line['event'] === 'pulse') {
      const id = e.line['signal'] as string;
      this.up.set(id, this.t + this.kept(id));
    }
    const passing = Object.values(this.piece.reactions).filter((r) => this.passes(r, e));
    for (const r of passing) if (!this.isGone(r.id)) this.react(r);
    this.shows.hear(e.line);
    this.goAll(this.ways(e));
  }
  private ways(e: Raised | null): { l: LaneNow; w: Transition; entry: number }[] {
    return this.lanes.flatMap((l) => {
      const w = this.choose(l, e);
      return w ? [{ l, w, entry: l.entry }] : [];
    });
  }
  private goAll(ways: readonly { l: LaneNow; w: Transition; entry: number }[]): void {
    for (const { l, w, entry } of ways) if (l.entry === entry && this.lanes.includes(l)) this.take(l, w);
  }

  private passes(r: Reaction, e: Raised): boolean {
    if (typeof r.limit === 'object' && this.spent.has(r.id) && this.hears(r.limit.onceUntil, e, null, r)) {
      this.spent.delete(r.id);
      return false;
    }
    if (this.spent.has(r.id) || !this.hears(r.on, e, null, r)) return false;
    if (r.cooldown > 0 && this.t <= (this.cool.get(r.id) ?? OFF) + SAME) return false;
    return r.when.every((c) => this.holds(c, null));
  }
  private react(r: Reaction): void {
    this.cool.set(r.id, this.t + r.cooldown);
    if (r.limit !== 'always') this.spent.add(r.id);
    const act = () => {
      this.raise({ kind: 'reaction', reaction: r.id, object: r.object });
      this.actAll(r.actions, r.id);
    };
    if (r.after > 0) this.due(this.t + r.after, r.id, act);
    else act();
  }

  private hears(on: On, e: Raised, l: LaneNow | null, r: Reaction | null): boolean {
    const x = e.line;
    // Of something spawned its coming is its start.
    if (x['event'] === 'spawn.start' && on.event === 'piece.start')
      return r?.id.startsWith(`${x['object']}/`) ?? false;
    if (x['event'] !== on.event) return false;
    if (/^(zone|near|touch)\./.test(on.event)) return this.zones.hears(on, x, r?.object ?? 'ob_a');
    if (on.event === 'timer') return x['reaction'] === r?.id;
    if (l && on.state === undefined && on.lane === undefined && /^(state\.|lane\.)/.test(on.event)) {
      if (x['lane'] !== l.lane.id) return false;
      if (on.event === 'state.done' && e.entry !== l.entry) return false;
    }
    if (on.event.startsWith('caption.')) {
      // Without a name it is that of its own object.
      const own = l || r ? (r?.object ?? 'ob_a') : x['object'];
      if (on.answer !== undefined && on.answer !== x['answer']) return false;
      return on.answer !== undefined && on.object === undefined ? true : (on.object ?? own) === x['object'];
    }
    for (const k of ['signal', 'message', 'key', 'state', 'lane', 'clip', 'cue', 'sheet'] as const)
      if (on[k] !== undefined && on[k] !== x[k]) return false;
    return true;
  }

  private holds(c: Condition, l: LaneNow | null): boolean {
    const value = (id: string): SignalValue =>
      this.piece.signals[id]?.type === 'pulse' ? this.isUp(id, l) : (this.signals.get(id) as SignalValue);
    if ('fact' in c) {
      let is = false;
      if (c.fact === 'state') is = this.lanes.find((x) => x.lane.id === c.lane)?.state?.id === c.state;
      else if (c.fact === 'clip')
        is =
          [...this.lanes.filter((x) => x.state), ...this.directs].some(
            ({ play }) => play?.clip.id === c.clip && placeOf(play, this.t) >= c.past - SAME,
          ) || this.lanes.some((l) => l.blend && this.blendPast(l, l.blend, c.clip, c.past));
      else if (c.fact === 'inside' || c.fact === 'near' || c.fact === 'count') return this.zones.holds(c);
      return is === (c.is ?? true);
    }
    const a = value(c.signal);
    const other = (x: SignalValue | { signal: string }) => (typeof x === 'object' ? value(x.signal) : x);
    if (c.is !== undefined) return a === other(c.is);
    if (c.not !== undefined) return a !== other(c.not);
    const numbers = (b: SignalValue | { signal: string }, f: (x: number, y: number) => boolean) => {
      const y = other(b);
      return typeof a === 'number' && typeof y === 'number' && f(a, y);
    };
    if (c.atLeast !== undefined) return numbers(c.atLeast, (x, y) => x >= y);
    if (c.atMost !== undefined) return numbers(c.atMost, (x, y) => x <= y);
    if (c.above !== undefined) return numbers(c.above, (x, y) => x > y);
    return c.below !== undefined && numbers(c.below, (x, y) => x < y);
  }

  private kept(id: string): number {
    const def = this.piece.signals[id];
    return def?.type === 'pulse' ? (def.remember ?? 0) : 0;
  }
  private isUp(id: string, l: LaneNow | null): boolean {
    const until = this.up.get(id);
    if (until === undefined || (this.kept(id) > 0 && this.t > until + SAME)) return false;
    return !(l?.used.has(id) && l.used.get(id) === this.serial.get(id));
  }
  /** The remembered pulse that a transition waits for: it then goes as an eventless one. */
  private keptPulse(w: Transition): string | null {
    const id = w.on?.event === 'pulse' ? w.on.signal : undefined;
    return id !== undefined && this.kept(id) > 0 ? id : null;
  }

  /** The active state's transitions first, then those from anywhere. */
  private waysOf(l: LaneNow): Transition[] {
    const all = l.lane.transitions;
    return [...all.filter((x) => x.from === l.state?.id), ...all.filter((x) => x.from === '*')];
  }
  /** When a `notBefore` of seconds or per cent is reached; null when there is none to wait for. */
  private moment(l: LaneNow, w: Transition): number | null {
    const nb = w.notBefore;
    if (nb === null || nb === 'loopEnd') return null;
    if ('seconds' in nb) return near(l.entered + nb.seconds);
    const p = this.metPlay(l);
    if (!p || p.clip.duration === 0) return l.entered;
    const along = (p.clip.duration * nb.percent) / 100;
    const gone = p.way < 0 ? p.clip.duration - p.raw0 : p.raw0;
    if (along - gone <= 1e-12) return l.entered;
    if (p.speed === 0 || (p.clip.loop === 'once' && nb.percent > 100)) return Number.POSITIVE_INFINITY;
    return Math.max(l.entered, near(p.t0 + (along - gone) / Math.abs(p.speed)));
  }

  private choose(l: LaneNow, e: Raised | null): Transition | null {
    if (!l.state || l.finished) return null;
    if (l.mustFinish && l.fade && (e ? this.t : l.asked) < l.fade.from + l.fade.length - SAME) return null;
    const ready = this.waysOf(l).filter((w) => this.ready(l, w, e));
    const [first] = ready;
    if (!first || first.odds === null) return first ?? null;
    const key = (w: Transition) => JSON.stringify([w.from, w.on && Object.entries(w.on).sort()]);
    let pool = ready.filter((w) => w.odds !== null && key(w) === key(first));
    const others = pool.filter((w) => w.mayRepeat || w.id !== l.drawn.get(first.from));
    if (others.length > 0) pool = others;
    let way = pool[0] as Transition;
    if (pool.length > 1) {
      const goal = this.stream(l.lane.id).next() * pool.reduce((n, w) => n + (w.odds as number), 0);
      let sum = 0;
      for (const w of pool) {
        way = w;
        sum += w.odds as number;
        if (sum > goal) break;
      }
    }
    l.drawn.set(first.from, way.id);
    return way;
  }
  private ready(l: LaneNow, w: Transition, e: Raised | null): boolean {
    if (
      !w.enabled ||
      !w.set ||
      w.odds === 0 ||
      (e === null) !== (w.on === null || this.keptPulse(w) !== null)
    )
      return false;
    const kept = this.keptPulse(w);
    if (kept !== null && !this.isUp(kept, l)) return false;
    if (w.from === '*' && w.to === l.state?.id && !w.reenter)
      if (w.odds === null || w.on === null || !w.mayRepeat) return false;
    if (e && w.on && !this.hears(w.on, e, l, null)) return false;
    const asked = e ? this.t : l.asked;
    if (w.notBefore === 'loopEnd') {
      const p = this.metPlay(l);
      if (p) {
        if (p.clip.loop === 'once' || p.clip.duration === 0) {
          if (l.blend ? !l.blend.done : !p.ended) return false;
        } else if (Math.abs(l.turned - this.t) >= SAME || (!e && l.asked < this.t - SAME)) return false;
      }
    }
    const m = this.moment(l, w);
    return (m === null || m <= asked + SAME) && w.when.every((c) => this.holds(c, l));
  }

  private take(l: LaneNow, w: Transition): void {
    this.raise({ kind: 'transition', lane: l.lane.id, from: l.state?.id, to: w.to, transition: w.id });
    for (const c of w.when)
      if ('signal' in c && this.piece.signals[c.signal]?.type === 'pulse')
        l.used.set(c.signal, this.serial.get(c.signal) ?? 0);
    const kept = this.keptPulse(w);
    if (kept !== null) l.used.set(kept, this.serial.get(kept) ?? 0);
    this.leave(l, w.to, w.crossfade);
  }
  private leave(l: LaneNow, to: string, fade: Crossfade | null): void {
    const old = l.state as State;
    const where = { lane: l.lane.id, state: old.id };
    this.raise({ kind: 'event', event: 'state.leave', ...where }, true);
    if (l.play) {
      if (!l.play.ended)
        this.raise({ kind: 'event', event: 'clip.stopped', clip: l.play.clip.id, ...where }, true);
      l.here = { clip: l.play.clip.id, place: placeOf(l.play, this.t) };
      for (const slot of offsetsOf(l.play.clip))
        if (!this.puts.has(slot) && !this.above(l, slot)) this.puts.set(slot, held(this.shown(slot, this.t)));
    }
    if (l.blend) {
      const clip = (l.blend.clips[l.blend.heavy] as Clip).id;
      if (!l.blend.done) this.raise({ kind: 'event', event: 'clip.stopped', clip, ...where }, true);
      l.here = null;
    }
    if (old.onExit) this.actAll(old.onExit, old.id);
    this.enter(l, to, fade);
  }

  private enter(l: LaneNow, to: string, fade: Crossfade | null): void {
    const { t } = this;
    const next = l.lane.states.find((s) => s.id === to) as State;
    const stood = this.frozen(l, t);
    const starts = new Map<string, number>();
    const one = onePlay(next.play);
    const clip = one ? (this.piece.clips[one.clip] as Clip) : null;
    for (const slot of clip ? offsetsOf(clip) : []) starts.set(slot, this.standing(l, slot));
    let length = 0;
    if (l.state && fade) {
      if ('seconds' in fade) length = fade.seconds;
      else {
        const p = this.metPlay(l);
        if (p && p.speed !== 0) length = ((p.clip.duration / Math.abs(p.speed)) * fade.percent) / 100;
      }
    }
    const plays = l.state && (l.play || l.blend) && !this.fading(l, t) && next.play !== 'hold';
    l.fading = plays ? { state: l.state as State, play: l.play, blend: l.blend } : null;
    const old = l.fading ? this.ofState(l, l.fading) : stood;
    l.fade =
      length > 0 ? { from: t, length, easing: fade?.easing === 'hold' ? 'hold' : 'linear', old } : null;
    l.mustFinish = length > 0 && (fade?.mustFinish ?? false);
    l.over = new Map();
    const all = clipsPlayed(next.play).map((id) => this.piece.clips[id] as Clip);
    for (const slot of new Set(all.flatMap((c) => [...keysOf(c)]))) {
      const put = this.puts.get(slot);
      if (put === undefined) continue;
      this.puts.delete(slot);
      l.over.set(slot, put.at(t));
    }
    if (next.play === 'hold' || l.lane.unkeyed === 'keep') l.held = stood;
    if (next.play === 'rest') l.here = null;
    l.play = null;
    l.blend = null;
    if (typeof next.play === 'object' && !('clip' in next.play)) l.blend = this.beginBlend(l, next.play);
    if (clip && one) {
      const speed = this.speedOf(next);
      const d = clip.duration;
      const start = speed < 0 ? d : 0;
      const { from } = one;
      let raw = start;
      if (from === 'here') raw = l.here?.clip === clip.id ? l.here.place : start;
      else if (typeof from === 'object')
        raw =
          'seconds' in from
            ? Math.min(from.seconds, d)
            : Math.abs(start - (Math.min(100, from.percent) / 100) * d);
      l.play = begin(clip, raw, t, speed, speed < 0 ? -1 : 1, true);
      const still = { ...l.play, starts: new Map() };
      for (const [slot, v] of starts) l.play.starts.set(slot, v - gained(still, slot, t));
    }
    l.state = next;
    l.entered = t;
    l.entry++;
    l.asked = OFF;
    l.turned = OFF;
    l.finished = false;
    const where = { lane: l.lane.id, state: next.id };
    const met = l.blend ? l.blend.clips[l.blend.heavy] : clip;
    if (met) this.raise({ kind: 'event', event: 'clip.start', clip: met.id, ...where }, true);
    this.raise({ kind: 'event', event: 'state.enter', ...where }, true);
    const { entry } = l;
    if (next.onEntry) this.actAll(next.onEntry, next.id);
    if (next.final && l.entry === entry) {
      l.finished = true;
      this.raise({ kind: 'done', event: 'lane.done', lane: l.lane.id }, true);
    }
  }
  private speedOf(s: State): number {
    const play = onePlay(s.play);
    if (!play) return 0;
    const owner = this.lanes.find((l) => l.lane.states.includes(s));
    // What follows goes by its source.
    if (owner && this.isPlaced(owner.lane.id, play.clip)) return 0;
    return this.factor(play.speed);
  }

  // Blends.
  private weights(lane: string, b: { play: BlendNow['play']; clips: Clip[] }): number[] {
    if ('stack' in b.play)
      return b.play.stack.map(({ amount }) => {
        if (typeof amount === 'number') return amount;
        const def = this.piece.signals[amount.signal] as Signal & { type: 'number' };
        const [min, max] = [def.min ?? 0, def.max ?? 1];
        return Math.min(1, Math.max(0, (Number(this.signals.get(def.id)) - min) / (max - min)));
      });
    const { signal, points } = b.play.range;
    const follow = Object.values(this.piece.follows).findLast(
      ({ target }) => 'blend' in target && target.lane === lane,
    );
    const x = (follow && this.follows.get(follow.id)) ?? Number(this.signals.get(signal));
    const sorted = points.map((p, k) => ({ at: p.at, k })).sort((p, q) => p.at - q.at || p.k - q.k);
    const out = points.map(() => 0);
    const below = sorted.filter((p) => p.at <= x).at(-1);
    const above = sorted.find((p) => p.at > x);
    const part = below && above ? (x - below.at) / (above.at - below.at) : 0;
    if (below) out[below.k] = above ? 1 - part : 1;
    if (above) out[above.k] = below ? part : 1;
    return out;
  }
  /** Of those that count equally the last on the range, or in the stack. */
  private heaviest(lane: string, b: { play: BlendNow['play']; clips: Clip[] }): number {
    const w = this.weights(lane, b);
    const most = Math.max(...w);
    const order = w.map((_, k) => k);
    if ('range' in b.play) {
      const { points } = b.play.range;
      order.sort((p, q) => (points[p]?.at ?? 0) - (points[q]?.at ?? 0) || p - q);
    }
    return order.findLast((k) => w[k] === most) as number;
  }
  private rate(lane: string, b: { play: BlendNow['play']; clips: Clip[] }): number {
    const w = this.weights(lane, b);
    const d = b.clips.reduce((n, c, k) => n + (w[k] as number) * c.duration, 0);
    return d > 0 ? Math.min(1000, 1 / d) : 0;
  }
  private beginBlend(l: LaneNow, play: BlendNow['play']): BlendNow {
    const clips = clipsPlayed(play).map((id) => this.piece.clips[id] as Clip);
    const longest = Math.max(...clips.map((c) => c.duration));
    const common = 'range' in play && play.range.phase === 'common' && longest > 0;
    const once = clips.every((c) => c.loop === 'once');
    const { t } = this;
    const whole = (c: Clip): Clip => ({
      ...c,
      duration: 1,
      loop: once ? 'once' : 'loop',
      cues: c.cues.map((q) => ({ ...q, t: c.duration > 0 ? q.t / c.duration : 0 })),
    });
    const b: BlendNow = {
      ...{ play, clips, common, done: false, heavy: 0, plays: [] },
      end: () => {
        if (!once) return Number.POSITIVE_INFINITY;
        if (longest === 0) return t;
        if (!common) return near(t + longest);
        const [p] = b.plays as [Play];
        return p.speed === 0 ? Number.POSITIVE_INFINITY : near(p.t0 + (1 - p.raw0) / p.speed);
      },
    };
    const lane = l.lane.id;
    b.plays = clips.map((c) =>
      common ? begin(whole(c), 0, t, this.rate(lane, b), 1, true) : begin(c, 0, t, 1, 1, true),
    );
    b.heavy = this.heaviest(lane, b);
    return b;
  }
  /** What a lane blends by may have changed. */
  private reweigh(l: LaneNow): void {
    for (const b of [l.blend, this.fading(l, this.t) ? (l.fading?.blend ?? null) : null]) {
      if (!b) continue;
      // Of those that are not met an end that is past is past.
      for (const [k, p] of b.plays.entries())
        if (k !== b.heavy && p.clip.loop === 'once' && placeOf(p, this.t) >= p.clip.duration - SAME)
          Object.assign(p, { ended: true, ahead: [], fresh: false });
      if (b.common) b.plays = b.plays.map((p) => turned(p, this.t, this.rate(l.lane.id, b)));
      const now = this.heaviest(l.lane.id, b);
      if (now === b.heavy) continue;
      b.heavy = now;
      // What it would have met until now is over.
      const p = b.plays[now] as Play;
      p.ahead = p.ahead.filter((m) => m.t > this.t + SAME);
      p.fresh = false;
    }
  }
  private blendPast(l: LaneNow, b: BlendNow, clip: string, past: number): boolean {
    const w = this.weights(l.lane.id, b);
    const k = this.ordered(b).find((n) => b.clips[n]?.id === clip && (w[n] as number) > 0);
    return k !== undefined && this.placeInBlend(b, k, this.t) >= past - SAME;
  }
  private ordered(b: BlendNow): number[] {
    const order = b.clips.map((_, k) => k);
    if (!('range' in b.play)) return order;
    const { points } = b.play.range;
    return order.sort((p, q) => (points[p]?.at ?? 0) - (points[q]?.at ?? 0) || p - q);
  }
  private placeInBlend(b: BlendNow, k: number, t: number): number {
    const at = placeOf(b.plays[k] as Play, t);
    return b.common ? at * (b.clips[k] as Clip).duration : at;
  }
  private blended(l: LaneNow, b: BlendNow, slot: string, t: number): Given {
    const w = this.weights(l.lane.id, b);
    let [v, sum] = [0, 0];
    b.clips.forEach((clip, k) => {
      const track = clip.tracks.find((x) => `${x.object}/${x.property}` === slot);
      if (!track || w[k] === 0) return;
      const adds = track.mode === 'offset' ? baseOf(slot) : 0;
      const value = keyed(clip, slot, this.placeInBlend(b, k, t)) + adds;
      if ('stack' in b.play) v += (w[k] as number) * (value - baseOf(slot));
      else {
        v += (w[k] as number) * value;
        sum += w[k] as number;
      }
    });
    return { v, w: sum };
  }

  // Direct plays.
  private play(a: PlayAction): void {
    const d = this.directs.find((x) => x.clip === a.clip);
    const again = a.again ?? 'restart';
    if (d && !d.play.ended && again !== 'restart') {
      if (again === 'queue') this.waits.set(a.clip, [...(this.waits.get(a.clip) ?? []), a]);
      this.raise({ kind: 'action', action: 'play', clip: a.clip, object: a.object });
      return;
    }
    this.playNow(a);
  }
  private playNow(a: PlayAction): void {
    this.begin(a, this.cut(a.clip, a.object));
  }
  private begin(a: PlayAction, here: number | null): void {
    const clip = this.piece.clips[a.clip] as Clip;
    const starts = new Map(offsetsOf(clip).map((slot) => [slot, this.shown(slot, this.t)]));
    for (const slot of keysOf(clip)) this.puts.delete(slot);
    const speed = this.factor(a.speed ?? 1);
    const start = speed < 0 ? clip.duration : 0;
    const raw = a.from === 'here' ? (here ?? start) : start;
    const play = begin(clip, raw, this.t, speed, speed < 0 ? -1 : 1, true);
    const still = { ...play, starts: new Map() };
    for (const [slot, v] of starts) play.starts.set(slot, v - gained(still, slot, this.t));
    this.directs = this.directs.filter((x) => x.clip !== a.clip);
    this.directs.push({ clip: a.clip, play, speed: a.speed ?? 1, serial: ++this.serials });
    this.raise({ kind: 'event', event: 'clip.start', clip: a.clip, object: a.object }, true);
  }
  /** What a play of this clip has come to an end with, if it was under way: its place. */
  private cut(clip: string, object: string): number | null {
    const d = this.directs.find((x) => x.clip === clip);
    if (!d) return null;
    const runs = !d.play.ended;
    if (runs) this.raise({ kind: 'event', event: 'clip.stopped', clip, object }, true);
    for (const slot of offsetsOf(d.play.clip)) {
      const over = this.directs.slice(this.directs.indexOf(d) + 1).some((x) => keysOf(x.play.clip).has(slot));
      const above = over || this.followed(slot) !== undefined || this.anyLane(this.lanes, slot);
      if (!this.puts.has(slot) && !above) this.puts.set(slot, held(this.shown(slot, this.t)));
    }
    return runs ? placeOf(d.play, this.t) : null;
  }
  private stopDirect(clip: string, object: string): void {
    const d = this.directs.find((x) => x.clip === clip);
    const under = this.cut(clip, object);
    if (under === null) this.raise({ kind: 'action', action: 'stop', clip, object });
    const [next, ...rest] = this.waits.get(clip) ?? [];
    if (d && d.play.clip.loop !== 'once' && next) {
      this.waits.set(clip, rest);
      this.begin(next, under);
      return;
    }
    this.waits.delete(clip);
    this.directs = this.directs.filter((x) => x !== d);
  }
  private factor(speed: number | { signal: string }): number {
    const v = typeof speed === 'number' ? speed : Number(this.signals.get(speed.signal));
    return Math.max(-1000, Math.min(1000, v));
  }
  private anyLane(lanes: readonly LaneNow[], slot: string): boolean {
    return lanes.some((x) => {
      const { v, w } = this.gives(x, slot, this.t);
      return (v !== 0 || w !== 0) && (x.lane.amount as number) > 0;
    });
  }
  private meetDirect(d: Direct): void {
    const where = { clip: d.clip, object: d.play.clip.root };
    this.meetAll(
      () => (this.directs.includes(d) ? d.play : null),
      () => true,
      where,
      () => {
        this.raise({ kind: 'event', event: 'clip.loop', ...where }, true);
      },
      () => {
        this.raise({ kind: 'done', event: 'clip.done', ...where }, true);
        const [next, ...rest] = this.waits.get(d.clip) ?? [];
        if (!next) return;
        this.waits.set(d.clip, rest);
        this.playNow(next);
      },
    );
  }

  /** Serves the cues and ends of a lane's clip that lie at this instant. */
  private meet(l: LaneNow): void {
    const { entry } = l;
    const id = this.metPlay(l)?.clip.id;
    const where = { clip: id, lane: l.lane.id };
    const { blend } = l;
    const heavy = blend?.heavy;
    this.meetAll(
      () => (l.entry !== entry ? null : blend ? (blend.plays[heavy as number] as Play) : l.play),
      // What is met is met whole, whatever it changes.
      () => blend?.heavy === heavy,
      where,
      () => {
        l.turned = this.t;
        this.raise({ kind: 'event', event: 'clip.loop', ...where }, true);
      },
      () => {
        this.raise({ kind: 'done', event: 'clip.done', ...where }, true);
        if (!blend) this.stateDone(l);
      },
    );
    if (!blend || l.entry !== entry) return;
    if (blend.heavy !== heavy) return this.meet(l);
    if (this.blendEnd(l) > this.t + SAME) return;
    blend.done = true;
    this.stateDone(l);
  }
  private stateDone(l: LaneNow): void {
    this.raise({ kind: 'done', event: 'state.done', lane: l.lane.id, state: l.state?.id }, true, l.entry);
  }
  /** `of`: the play, null once it is another or none. */
  private meetAll(
    of: () => Play | null,
    goesOn: () => boolean,
    where: object,
    turns: () => void,
    done: () => void,
  ): void {
    for (let m = of()?.ahead[0]; m && m.t <= this.t + SAME && goesOn(); m = of()?.ahead[0]) {
      const p = of() as Play;
      p.ahead.shift();
      p.fresh = false;
      const cues = (list: readonly number[]) => {
        for (const n of list) {
          if (of() === null) return;
          const cue = p.clip.cues[n] as Clip['cues'][number];
          this.raise({ kind: 'cue', event: 'cue', cue: cue.id, ...where }, true);
          this.actAll(cue.actions, cue.id);
        }
      };
      const { way } = p;
      cues(m.cues);
      if (m.what === 'cue') continue;
      const now = of();
      if (!now) return;
      if (m.what === 'turn') {
        turns();
        if (now.way === way) cues(m.start);
      } else {
        // A cue there may have turned it round: then it runs back.
        if (now.way === way || now.clip.duration === 0) {
          now.ended = true;
          now.ahead = [];
        }
        done();
      }
    }
  }

  private actAll(list: readonly Action[], consumer: string): void {
    for (const a of list) {
      if (this.isGone(consumer)) return;
      if (a.after) this.due(this.t + a.after, consumer, () => this.act(a, consumer));
      else this.act(a, consumer);
    }
  }
  /** Does an action of a cue; returns what tells whether what it began goes on. */
  private lasting(a: Action, consumer: string): () => boolean {
    if (a.do === 'caption') return this.shows.caption(a, String(this.value(a.text, consumer)));
    if (a.do === 'tween') {
      this.act(a, consumer);
      const slots = (a.properties ?? [a]).map((x) => `${a.object}/${x.property}`);
      const made = slots.map((slot) => this.puts.get(slot));
      const end = near(this.t + a.seconds);
      if (a.seconds > 0) this.due(end, '', () => {});
      return () => this.t < end - SAME && slots.some((slot, i) => made[i] && this.puts.get(slot) === made[i]);
    }
    const before = this.serials;
    this.act(a, consumer);
    if (a.do !== 'play' || this.piece.clips[a.clip]?.loop !== 'once') return () => false;
    const d = this.directs.find((x) => x.clip === a.clip && x.serial > before);
    return () => d !== undefined && this.directs.includes(d) && !d.play.ended;
  }
  private act(a: Action, consumer: string): void {
    switch (a.do) {
      case 'set':
        return this.setSignal(a.signal, this.value(a.to, consumer));
      case 'toggle':
        return this.setSignal(a.signal, !this.signals.get(a.signal));
      case 'add':
        return this.setSignal(
          a.signal,
          Number(this.signals.get(a.signal)) + Number(this.value(a.by, consumer)),
        );
      case 'pulse':
        return this.pulse(a.signal);
      case 'send':
        this.raise({ kind: 'message', event: 'message', message: a.message }, true);
        return;
      case 'show':
      case 'hide':
      case 'look': {
        const to: SignalValue = a.do === 'look' ? a.to : a.do === 'show';
        const property = a.do === 'look' ? 'look' : 'shown';
        this.hold(`${a.object}/${property}`, held(a.do === 'look' ? lookNumber(a.to) : Number(to)));
        this.raise({ kind: 'action', action: 'put', object: a.object, property, to });
        return;
      }
      case 'sound': {
        const loud = (a.volume ?? 1) === 1 ? {} : { volume: a.volume };
        this.raise({ kind: 'sound', sound: a.sound, ...loud, ...(a.object ? { object: a.object } : {}) });
        return;
      }
      case 'stopSound':
        this.raise({ kind: 'action', action: 'stopSound', sound: a.sound });
        return;
      case 'face': {
        // All of these stand side by side along x, so it points there or the other way.
        const x = (id: string) => this.screen(`${id}/position.x`, this.t);
        const slot = `${a.object}/rotation.z`;
        const now = this.screen(slot, this.t);
        const wanted = x(a.toward) >= x(a.object) ? 0 : 180;
        const goal = now + ((((wanted - now) % 360) + 540) % 360) - 180;
        const t0 = this.t;
        const at = (t: number) =>
          t >= t0 + a.seconds - SAME ? goal : now + (goal - now) * Math.max(0, (t - t0) / a.seconds);
        this.hold(slot, { at, goal });
        this.raise({ kind: 'action', action: 'face', object: a.object, property: 'rotation.z' });
        return;
      }
      case 'put': {
        const to = this.value(a.to, consumer);
        this.hold(`${a.object}/${a.property}`, held(Number(to)));
        this.raise({ kind: 'action', action: 'put', object: a.object, property: a.property, to });
        return;
      }
      case 'tween': {
        const goals = (
          a.properties ?? [{ property: a.property as string, to: a.to, by: a.by, toBase: a.toBase }]
        ).map((x) => {
          const slot = `${a.object}/${x.property}`;
          const now = this.screen(slot, this.t);
          const put = this.puts.get(slot);
          const adds = this.motorPart(slot, this.t);
          let goal: number;
          if (x.to !== undefined) goal = Number(this.value(x.to, consumer));
          else if (x.toBase !== undefined) goal = baseOf(slot) + x.toBase;
          else
            goal = (put && !a.fromNow ? put.goal + adds : now) + Number(this.value(x.by as Value, consumer));
          if (slot.endsWith('/opacity')) goal = Math.min(1, Math.max(0, goal));
          return { slot, now, goal };
        });
        for (const { slot, now, goal } of goals) {
          const t0 = this.t;
          const k = (t: number) => (a.easing === 'hold' ? 0 : (t - t0) / a.seconds);
          const at = (t: number) =>
            t >= t0 + a.seconds - SAME ? goal : now + (goal - now) * Math.max(0, k(t));
          this.hold(slot, { at, goal });
        }
        const [only] = goals.length === 1 ? goals : [];
        const what = only ? { property: splitSlot(only.slot)[1] } : {};
        this.raise({ kind: 'action', action: 'tween', object: a.object, ...what });
        return;
      }
      case 'motor': {
        const slot = `${a.object}/${a.property}`;
        const number = (v: Value | undefined, none: number) =>
          v === undefined ? none : Number(this.value(v, consumer));
        const rate = number(a.rate, 0);
        const acceleration = number(a.acceleration, 0);
        const limit = Math.abs(number(a.limit, Number.POSITIVE_INFINITY));
        this.motors.set(slot, {
          ...{ t0: this.t, added: this.motorPart(slot, this.t), acceleration, limit, runs: true },
          rate: Math.max(-limit, Math.min(limit, rate)),
        });
        this.raise({ kind: 'action', action: 'motor', object: a.object, property: a.property });
        return;
      }
      case 'stopMotor': {
        const slot = `${a.object}/${a.property}`;
        const m = this.motors.get(slot);
        if (m && a.return) this.motors.delete(slot);
        else if (m) this.motors.set(slot, { ...m, t0: this.t, added: motorAdds(m, this.t), runs: false });
        this.raise({ kind: 'action', action: 'stopMotor', object: a.object, property: a.property });
        return;
      }
      case 'release':
        this.puts.delete(`${a.object}/${a.property}`);
        this.motors.delete(`${a.object}/${a.property}`);
        this.raise({ kind: 'action', action: 'release', object: a.object, property: a.property });
        return;
      case 'caption':
        this.shows.caption(a, String(this.value(a.text, consumer)));
        return;
      case 'burst':
      case 'flash':
      case 'shake':
        return this.shows.effect(a.effect, a.object);
      case 'sheet':
        return this.shows.ask(a.sheet);
      case 'stopSheet':
        return this.shows.stop(a.sheet);
      case 'spawn':
        return this.spawn(a, consumer);
      case 'remove': {
        const [name = ''] = a.object.split('/');
        if (this.alive.has(name)) this.end(name, 'asked');
        return;
      }
      case 'play':
        return this.play(a);
      case 'stop':
        return this.stopDirect(a.clip, a.object);
      case 'go': {
        const l = this.lanes.find((x) => x.lane.id === a.lane) as LaneNow;
        this.raise({ kind: 'transition', lane: a.lane, from: l.state?.id, to: a.state });
        return this.leave(l, a.state, a.crossfade ?? null);
      }
    }
  }
  private value(v: Value, consumer: string): SignalValue {
    if (typeof v !== 'object') return v;
    const num = (x: Value) => Number(this.value(x, consumer));
    if ('signal' in v) {
      const s = this.signals.get(v.signal) as SignalValue;
      if (!v.from || !v.to) return s;
      return v.to[0] + ((Number(s) - v.from[0]) / (v.from[1] - v.from[0])) * (v.to[1] - v.to[0]);
    }
    if ('sum' in v) return v.sum.map(num).reduce((a, b) => a + b, 0);
    if ('product' in v) return v.product.map(num).reduce((a, b) => a * b, 1);
    if ('difference' in v) return v.difference.map(num).reduce((a, b) => a - b);
    return this.value(v.pick[Math.floor(this.stream(consumer).next() * v.pick.length)] as Value, consumer);
  }
  private setSignal(id: string, value: SignalValue): void {
    const def = this.piece.signals[id] as Signal;
    const to = inRange(def, value);
    if (to === this.signals.get(id)) return;
    this.signals.set(id, to);
    this.raise({ kind: 'signal', event: 'signal.change', signal: id, to }, true);
    for (const d of this.directs)
      if (typeof d.speed === 'object' && d.speed.signal === id)
        d.play = turned(d.play, this.t, this.factor(d.speed));
    for (const l of this.lanes) {
      this.reweigh(l);
      const by = (state: State | null | undefined) => {
        const speed = state && onePlay(state.play)?.speed;
        return typeof speed === 'object' && speed?.signal === id;
      };
      if (l.fading?.play && by(l.fading.state))
        l.fading.play = turned(l.fading.play, this.t, this.speedOf(l.fading.state));
      if (l.play && l.state && by(l.state)) l.play = turned(l.play, this.t, this.speedOf(l.state));
    }
    for (const b of this.bound) if (b.outer === id) this.setSignal(b.inner, throughBound(b, to));
  }
  private pulse(id: string): void {
    this.serial.set(id, (this.serial.get(id) ?? 0) + 1);
    this.raise({ kind: 'signal', event: 'pulse', signal: id }, true);
  }

  // Values.
  private fading(l: LaneNow, t: number): boolean {
    return l.fade !== null && t < l.fade.from + l.fade.length - SAME;
  }
  /** What the active state gives, without any crossfade, as a function of time that outlives the state. */
  private ofState(l: LaneNow, from: { play: Play | null; blend: BlendNow | null } = l): Gives {
    const { play, blend, held } = { play: from.play, blend: from.blend, held: l.held };
    const keeps = l.lane.unkeyed === 'keep';
    const state = l.state;
    if (!state || state.play === 'rest') return NOTHING;
    if (blend) {
      const keys = new Set(blend.clips.flatMap((c) => [...keysOf(c)]));
      return (slot, t) =>
        keys.has(slot) ? this.blended(l, blend, slot, t) : keeps ? held(slot, t) : NOTHING(slot, t);
    }
    if (state.play === 'hold' || !play) return held;
    const keys = keysOf(play.clip);
    return (slot, t) =>
      keys.has(slot)
        ? { v: sample(from.play as Play, slot, t), w: 1 }
        : keeps
          ? held(slot, t)
          : NOTHING(slot, t);
  }
  private gives(l: LaneNow, slot: string, t: number): Given {
    const state = l.state;
    const now = this.ofState(l)(slot, t);
    if (!l.fade || !this.fading(l, t) || state?.play === 'hold') return now;
    const keys = l.blend
      ? new Set(l.blend.clips.flatMap((c) => [...keysOf(c)]))
      : l.play
        ? keysOf(l.play.clip)
        : null;
    if (keys && l.lane.unkeyed === 'keep' && !keys.has(slot)) return now;
    const k = l.fade.easing === 'hold' ? 0 : (t - l.fade.from) / l.fade.length;
    const put = l.over.get(slot);
    const old = put === undefined ? l.fade.old(slot, t) : { v: put, w: 1 };
    return { v: old.v * (1 - k) + now.v * k, w: old.w * (1 - k) + now.w * k };
  }
  /** What the lane gives at this instant, for good. */
  private frozen(l: LaneNow, t: number): Gives {
    const stood = new Map<string, Given>();
    for (const s of l.lane.states)
      for (const id of clipsPlayed(s.play))
        for (const slot of keysOf(this.piece.clips[id] as Clip)) stood.set(slot, this.gives(l, slot, t));
    return (slot) => stood.get(slot) ?? { v: 0, w: 0 };
  }
  /** Whether a lane after this one gives anything for the slot. */
  private above(l: LaneNow, slot: string): boolean {
    if (this.followed(slot) !== undefined) return true;
    return this.anyLane(this.lanes.slice(this.lanes.indexOf(l) + 1), slot);
  }
  /** What an offset track that begins now adds to: what is shown; an adding lane goes on from its own part of that. */
  private standing(l: LaneNow, slot: string): number {
    const shown = this.shown(slot, this.t);
    if (l.lane.blend === 'replace') return shown;
    return baseOf(slot) + shown - this.below(slot, this.t, this.lanes.indexOf(l));
  }
  /** What the base and the first `count` lanes come to. */
  private below(slot: string, t: number, count: number): number {
    let below = baseOf(slot);
    for (const { play } of this.directs) if (keysOf(play.clip).has(slot)) below = sample(play, slot, t);
    for (const l of this.lanes.slice(0, count)) {
      const { v, w } = this.gives(l, slot, t);
      const amount = l.lane.amount as number;
      below =
        l.lane.blend === 'add'
          ? below + amount * (v - baseOf(slot) * w)
          : below * (1 - amount * w) + amount * v;
    }
    return below;
  }
  /** What is on the screen but for motors. */
  private shown(slot: string, t: number): number {
    const n = this.puts.get(slot)?.at(t) ?? this.followed(slot) ?? this.below(slot, t, this.lanes.length);
    return slot.endsWith('/opacity') ? Math.min(1, Math.max(0, n)) : n;
  }
  private motorPart(slot: string, t: number): number {
    const m = this.motors.get(slot);
    return m ? motorAdds(m, t) : 0;
  }
  private screen(slot: string, t: number): number {
    const n =
      (this.puts.get(slot)?.at(t) ?? this.followed(slot) ?? this.below(slot, t, this.lanes.length)) +
      this.motorPart(slot, t);
    return slot.endsWith('/opacity') ? Math.min(1, Math.max(0, n)) : n;
  }
  /** Puts or tweens: a motor's part is taken in and begins again at 0; a running one goes on from its speed. */
  private hold(slot: string, to: Held): void {
    this.puts.set(slot, to);
    const m = this.motors.get(slot);
    if (m) this.motors.set(slot, { ...m, t0: this.t, added: 0, rate: m.runs ? motorRate(m, this.t) : 0 });
  }
  /** The number on the screen of "object/property". */
  number(slot: string): number {
    return this.screen(slot, this.tick / 60);
  }
}

/** All objects of these pieces stand at the usual base, but for where they are along x. */
const baseOf = (slot: string) => {
  const [id, property] = splitSlot(slot);
  return property === 'opacity' || property === 'shown' ? 1 : property === 'position.x' ? baseX(id) : 0;
};

/** The object and the property; ids of what lies in instances have strokes of their own. */
function splitSlot(slot: string): [object: string, property: string] {
  const cut = slot.lastIndexOf('/');
  return [slot.slice(0, cut), slot.slice(cut + 1)];
}

function inRange(def: Signal, value: SignalValue): SignalValue {
  if (def.type !== 'number') return value;
  const n = def.whole ? Math.round(Number(value)) : Number(value);
  return Math.min(def.max ?? Number.POSITIVE_INFINITY, Math.max(def.min ?? OFF, n));
}
