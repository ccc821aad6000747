/**
 * Small semantic cases: a piece in a few words, what is put into it, and what must be seen, written from the texts of the
 * design. Each is run straight, from snapshots, and in the browser.
 */
import {
  type Action,
  type Collider,
  defaultBase,
  emptyPiece,
  type Piece,
  type Reaction,
  type SceneObject,
  type Signal,
  type State,
  type Transition,
} from '../../src/model/index.ts';
import {
  compile,
  type InputKind,
  loadRun,
  poseReader,
  Run,
  saveRun,
  type TraceRecord,
} from '../../src/runtime/index.ts';

type Key = readonly [t: number, value: unknown, easing?: unknown];
type Way = readonly [from: string, to: string, more?: object];
type Act = object;

/** A piece made in a few words. Names are ids without their prefix. */
export class Made {
  readonly piece: Piece = emptyPiece('case', 'Case');
  /** Counts made ids; a template's begin elsewhere, since ids are the whole piece's. */
  #n: number;
  constructor(first = 0) {
    this.#n = first;
  }
  #id(prefix: string): string {
    return `${prefix}_${this.#n++}`;
  }

  /** A rectangle of 40 px; `base` and `more` of its record. */
  box(name: string, base: Partial<SceneObject['base']> = {}, more: object = {}): this {
    this.piece.objects[`ob_${name}`] = {
      ...{ id: `ob_${name}`, name, parent: null, order: `a${this.#n++}`.padEnd(5, '0'), tags: [], hint: '' },
      ...{ kind: 'rect', size: [40, 40], radius: 0, base: { ...defaultBase(), ...base }, ...more },
    } as unknown as SceneObject;
    return this;
  }
  /** Tracks by property, of the object `root` or of `object.property`; the same property may not come twice. */
  clip(
    name: string,
    root: string,
    duration: number,
    loop: 'once' | 'loop' | 'there-and-back',
    tracks: Readonly<Record<string, readonly Key[]>>,
    more: {
      cues?: readonly (readonly [t: number, actions: readonly Act[], when?: string])[];
      offset?: boolean;
    } = {},
  ): this {
    this.piece.clips[`cl_${name}`] = {
      ...{ id: `cl_${name}`, name, root: `ob_${root}`, duration, loop },
      tracks: Object.entries(tracks).map(([property, keys]) => {
        const [object, rest] = property.includes('/') ? property.split('/') : [root, property];
        return {
          ...{ object: `ob_${object}`, property: rest, mode: more.offset ? 'offset' : 'absolute' },
          keys: keys.map(([t, value, easing = 'linear']) => ({ t, value, easing })),
        };
      }),
      cues: (more.cues ?? []).map(([t, actions, when = 'forwards']) => ({
        ...{ id: this.#id('cu'), t, actions, when },
      })),
    } as unknown as Piece['clips'][string];
    return this;
  }
  /** A lane of the object's machine. A state: its name, what it plays (a clip's name, rest, hold, or a play), and more. */
  lane(
    object: string,
    states: readonly (readonly [name: string, play: unknown, more?: object])[],
    ways: readonly Way[] = [],
    more: object = {},
  ): this {
    const play = (x: unknown): State['play'] =>
      x === 'rest' || x === 'hold' || typeof x === 'object'
        ? (x as State['play'])
        : { clip: `cl_${x}`, speed: 1, from: 'start' };
    const id = `ma_${object}`;
    this.piece.machines[id] ??= { id, name: object, object: `ob_${object}`, lanes: [] };
    const { lanes } = this.piece.machines[id];
    lanes.push({
      ...{ id: `la_${object}${lanes.length || ''}`, name: `${object} ${lanes.length}` },
      ...{ initial: `st_${states[0]?.[0]}`, unkeyed: 'base', amount: 1, blend: 'replace' },
      states: states.map(([name, p, m]) => ({ id: `st_${name}`, name, play: play(p), ...m }) as State),
      transitions: ways.map(
        ([from, to, m]) =>
          ({
            ...{ id: this.#id('tr'), from: from === '*' ? '*' : `st_${from}`, to: `st_${to}` },
            ...{ on: null, when: [], notBefore: null, crossfade: { seconds: 0 }, odds: null },
            ...{ enabled: true, set: true, reenter: false, mayRepeat: true, ...m },
          }) as Transition,
      ),
      ...more,
    } as (typeof lanes)[number]);
    return this;
  }
  on(object: string, on: string | object, actions: readonly Act[], more: object = {}): this {
    const id = this.#id('re');
    this.piece.reactions[id] = {
      ...{ id, object: `ob_${object}`, on: typeof on === 'string' ? { event: on } : on, when: [] },
      ...{ after: 0, cooldown: 0, limit: 'always', actions: actions as Action[], ...more },
    } as Reaction;
    return this;
  }
  signal(name: string, type: string, initial: unknown, more: object = {}): this {
    this.piece.signals[`si_${name}`] = {
      ...{ id: `si_${name}`, name, type, shared: false, note: '' },
      ...(type === 'pulse' ? {} : { initial }),
      ...more,
    } as Signal;
    return this;
  }
  number(name: string, initial = 0, more: object = {}): this {
    return this.signal(name, 'number', initial, more);
  }
  toggle(name: string, initial = false): this {
    return this.signal(name, 'switch', initial);
  }
  message(name: string): this {
    this.piece.messages[`me_${name}`] = { id: `me_${name}`, name, note: '' };
    return this;
  }
  tag(name: string): this {
    this.piece.tags[`ta_${name}`] = { id: `ta_${name}`, name };
    return this;
  }
  /** A zone, a blocker or a near of an object. */
  collider(object: string, name: string, more: object = {}): this {
    const id = `co_${name}`;
    const o = this.piece.objects[`ob_${object}`] as SceneObject;
    this.piece.objects[o.id] = { ...o, colliders: [...(o.colliders ?? []), id] };
    const isNear = (more as { role?: string }).role === 'near';
    this.piece.colliders[id] = {
      ...{ id, name, role: 'zone', tags: [], visitor: true, on: true },
      ...(isNear ? {} : { shape: 'box', at: [0, 0, 0], size: [100, 100, 100], through: false }),
      ...more,
    } as Collider;
    return this;
  }
  follow(target: object, source: object, more: object = {}): this {
    const id = this.#id('fo');
    this.piece.follows[id] = {
      ...{ id, target, source, clamp: true, smooth: 0, ...more },
    } as Piece['follows'][string];
    return this;
  }
}

/** What must be seen: at a tick a pose (`box.rotation.z`) or a signal by its name. */
export type Seen = readonly [tick: number, what: string, value: unknown];
/** All dates at which records tell this: an event, or `kind`; perhaps with a field that must be so, as `event lane=la_a`. */
export type Told = readonly [what: string, ...dates: number[]];

export interface SemanticCase {
  readonly says: string;
  readonly make: (m: Made) => unknown;
  readonly ticks: number;
  readonly inputs: Readonly<Record<number, readonly InputKind[]>>;
  readonly seen: readonly Seen[];
  readonly told: readonly Told[];
}

/** `says`: the sentence of the design that it holds to. */
export function the(
  says: string,
  make: (m: Made) => unknown,
  what: {
    readonly inputs?: Readonly<Record<number, readonly InputKind[]>>;
    readonly seen?: readonly Seen[];
    readonly told?: readonly Told[];
    readonly ticks?: number;
  },
): SemanticCase {
  const { inputs = {}, seen = [], told = [] } = what;
  const last = Math.max(0, ...seen.map((s) => s[0]), ...Object.keys(inputs).map(Number));
  const dates = told.flatMap(([, ...t]) => t);
  const ticks = what.ticks ?? Math.max(last, Math.ceil(Math.max(0, ...dates) * 60)) + 3;
  return { says, make, ticks, inputs, seen, told };
}

export function pieceOf(c: SemanticCase): Piece {
  const made = new Made();
  c.make(made);
  return made.piece;
}

/** Runs a case; `resume`: at this tick it goes on in a new run, from a snapshot. What is not as it must be, a sentence each. */
export function failures(c: SemanticCase, resume: number | null = null): string[] {
  const piece = pieceOf(c);
  const program = compile(piece);
  let run = new Run(program);
  const trace: TraceRecord[] = [];
  const out: string[] = [];
  for (let tick = 0; tick <= c.ticks; tick++) {
    if (tick === resume) run = loadRun(new Run(compile(pieceOf(c))), saveRun(run));
    run.step((c.inputs[tick] ?? []).map((i) => ({ ...i, at: 0 })));
    trace.push(...run.takeTrace());
    for (const [at, what, value] of c.seen) {
      if (at !== tick) continue;
      const now = what.includes('.') ? poseReader(run, what)?.() : run.signalValue(`si_${what}`);
      const same =
        typeof value === 'number' && typeof now === 'number' ? Math.abs(now - value) < 1e-6 : now === value;
      if (!same) out.push(`tick ${tick}: ${what} is ${now}, not ${value}`);
    }
  }
  for (const [what, ...dates] of c.told) {
    const [name, ...fields] = what.split(' ');
    const is = (r: TraceRecord) =>
      (r.event === name || r.kind === name) &&
      fields.every((f) => {
        const [k, v] = f.split('=') as [string, string];
        return String((r as unknown as Record<string, unknown>)[k]) === v;
      });
    const found = trace.filter(is).map((r) => r.t);
    const same =
      found.length === dates.length && dates.every((t, i) => Math.abs(t - (found[i] as number)) < 1e-6);
    if (!same) out.push(`${what} at ${found.join(', ') || 'no date'}, not at ${dates.join(', ') || 'any'}`);
  }
  return out;
}
