/**
 * What a feature adds to the runtime. The spine, all that lies in `run`, knows none of them by name: a program has a set of
 * features, and each phase asks them in the order of that set. A feature lies in a folder of its own in `features` and
 * imports the spine, never another feature; what two of them need is in the spine.
 */
import type {
  Action,
  ClipPlay,
  Condition,
  EventName,
  Expansion,
  Piece,
  Play,
  State,
} from '../model/index.ts';
import type { Geometry, SolidShapes, writtenStops } from '../world/index.ts';
import { Claimed, type Claims, NotInThisBuild } from './claims.ts';
import type { Compiling } from './compiling.ts';
import type { Reads, Test } from './facts.ts';
import type { Hearing } from './hearing.ts';
import type { Input } from './input.ts';
import type { Lasting } from './lasting.ts';
import type { Migration } from './migration.ts';
import type { Names } from './names.ts';
import type { Features, RunParts, StateParts } from './parts.ts';
import { type PhaseLists, type Phases, phaseLists } from './phases.ts';
import type { BlendProgram, ClipProgram, Depth, Driven, Program } from './program.ts';
import type { RowMaker } from './rows.ts';
import type { CompiledAction } from './run-actions.ts';
import type { RunBase } from './run-base.ts';
import type { RunState, Scheduled } from './state.ts';
import type { Cause } from './trace.ts';

/** How actions of some kinds are compiled: a forgotten kind is an error. `stream`: number of the random stream of whoever acts. */
export type ActionTable<K extends Action['do']> = {
  readonly [D in K]: (a: Extract<Action, { do: D }>, names: Names, stream: number) => CompiledAction;
};
export type LastingTable<K extends Action['do']> = {
  readonly [D in K]: (a: Extract<Action, { do: D }>, compiling: Compiling) => Lasting | null;
};
type LastingOf = (a: never, compiling: Compiling) => Lasting | null;
type CompileAction = (a: never, names: Names, stream: number) => CompiledAction;

/** How some facts are compiled, and what must change for them to be asked again: a forgotten one is an error. */
export type FactTable<K extends string> = {
  readonly [F in K]: {
    test(c: Extract<Condition, { fact: F }>, names: Names): Test;
    reads(c: Extract<Condition, { fact: F }>, names: Names, out: Reads): void;
  };
};
interface CompileFact {
  test(c: never, names: Names): Test;
  reads(c: never, names: Names, out: Reads): void;
}

/** What some inputs do, by the field that tells each from the others. */
export type InputTable<K extends string> = {
  readonly [F in K]: (input: Extract<Input, Record<F, unknown>>, run: RunBase) => void;
};
type RunInput = (input: never, run: RunBase) => void;

/** Something that is scheduled for an instant. */
export interface ScheduledKind {
  run(item: Scheduled, cause: Cause, run: RunBase): void;
  /** What is done where it is not served, since a tick was asked for too much. */
  passOver?(item: Scheduled, run: RunBase): void;
  /** The list of actions that asked for it; −1, or absent, for none. */
  list?(program: Program, index: number): number;
  /** The place of what is spawned that asked for it; −1, or absent, for the piece itself. */
  place?(program: Program, index: number): number;
  /** The same in the program after an edit; undefined when what it is of is gone. */
  migrate(migration: Migration, item: Scheduled): Scheduled | undefined;
}

/** A run of which numbers are read by name. */
export interface Readable {
  readonly program: Program;
  readonly state: RunState;
}

export interface Feature {
  readonly name: string;
  /** The events that it raises, and how they are heard. */
  readonly events?: { readonly [name in EventName]?: Hearing };
  /** What of a piece is its own, besides its kinds of actions, events and facts. */
  readonly claims?: Claims;
  /** What it shares with other features, which it brings along. */
  readonly with?: readonly Feature[];
  readonly actions?: { readonly [kind: string]: CompileAction };
  /** Of those that begin something that takes time. */
  readonly lasting?: { readonly [kind: string]: LastingOf };
  readonly facts?: { readonly [kind: string]: CompileFact };
  readonly inputs?: { readonly [field: string]: RunInput };
  readonly scheduled?: { readonly [name: string]: ScheduledKind };
  /** Templates written out; `open`: see `expand` in `model/expand.ts`. */
  expand?(piece: Piece, open: string | null): Expansion;
  /** Stops of gradients that something writes: parts as signals are. */
  stops?(...of: Parameters<typeof writtenStops>): Geometry['stops'];
  /** How solids are drawn, and what is painted besides parallel planes. */
  readonly solids?: SolidShapes & Depth;
  /** How a state that plays several clips at once is compiled. `slots`: by clip, those of its tracks. */
  blend?(
    play: Exclude<Play, string | ClipPlay>,
    driven: Driven | null,
    names: Names,
    clips: readonly ClipProgram[],
    slots: readonly Int32Array[],
  ): BlendProgram;
  /** A `CompilingPart`, and what its own actions need besides. */
  compile?(compiling: Compiling): object;
  /** Its rows of a state. Asked twice, first to count. */
  rows?(program: Program, make: RowMaker): unknown;
  /** `Phases`, and what its own actions and inputs ask for. */
  run?(base: RunBase): object;
  /** What tells a number of it by a name, now and later; null for what is no such name. */
  read?(run: Readable, text: string): (() => unknown) | null;
  /** Takes its rows over to the program after an edit. */
  migrate?(migration: Migration): void;
}

/** Features in the order in which they are asked. */
export class FeatureSet implements Features {
  readonly list: readonly Feature[];
  readonly names: readonly string[];
  readonly claimed: Claimed;
  readonly actions: ReadonlyMap<string, CompileAction>;
  readonly events: ReadonlyMap<string, Hearing>;
  readonly lasting: ReadonlyMap<string, LastingOf>;
  readonly facts: ReadonlyMap<string, CompileFact>;
  readonly inputs: ReadonlyMap<string, RunInput>;
  /** Kinds of scheduled items by number, and their numbers by name. */
  readonly scheduled: readonly ScheduledKind[];
  readonly scheduledNumbers: ReadonlyMap<string, number>;

  /** `features`: without the spine's own, which stands before them. */
  constructor(spine: Feature, features: readonly Feature[]) {
    const all = (f: Feature): Feature[] => [...(f.with ?? []).flatMap(all), f];
    this.list = [...new Set([spine, ...features].flatMap(all))];
    this.names = this.list.map((f) => f.name);
    const gathered = <T>(of: (f: Feature) => { readonly [name: string]: T } | undefined) =>
      new Map(this.list.flatMap((f) => Object.entries(of(f) ?? {})));
    this.actions = gathered((f) => f.actions);
    this.events = gathered((f) => f.events);
    this.claimed = new Claimed(
      this.list.flatMap((f) => f.claims ?? []),
      this.events,
    );
    this.lasting = gathered((f) => f.lasting);
    this.facts = gathered((f) => f.facts);
    this.inputs = gathered((f) => f.inputs);
    const scheduled = [...gathered((f) => f.scheduled)];
    this.scheduled = scheduled.map(([, kind]) => kind);
    this.scheduledNumbers = new Map(scheduled.map(([name], i) => [name, i]));
  }

  /** What a state plays that plays several clips at once; throws `NotInThisBuild` where no feature does that. */
  blend(
    { id, play }: State,
    ...rest: Parameters<NonNullable<Feature['blend']>> extends [unknown, ...infer R] ? R : never
  ): BlendProgram {
    const by = this.list.find((f) => f.blend);
    if (!by?.blend) throw new NotInThisBuild('several clips at once', id);
    return by.blend(play as Exclude<Play, string | ClipPlay>, ...rest);
  }

  /** A piece with its templates written out. */
  expand(piece: Piece, open: string | null): Expansion {
    const by = this.list.find((f) => f.expand);
    return by?.expand?.(piece, open) ?? { piece, bound: [], parts: [], places: [] };
  }

  get solids(): (SolidShapes & Depth) | null {
    return this.list.find((f) => f.solids)?.solids ?? null;
  }

  scheduledKind(what: number): ScheduledKind | undefined {
    return this.scheduled[what];
  }

  rowsOf(program: Program, make: RowMaker): StateParts {
    return Object.fromEntries(
      this.list.flatMap((f) => (f.rows ? [[f.name, f.rows(program, make)]] : [])),
    ) as StateParts;
  }

  /** What each does while a piece runs, and the same by phase. */
  run(base: RunBase): { readonly parts: RunParts; readonly phases: PhaseLists } {
    const made = this.list.flatMap((f): [string, Phases][] =>
      f.run ? [[f.name, f.run(base) as Phases]] : [],
    );
    return {
      parts: Object.fromEntries(made) as RunParts,
      phases: phaseLists(made.map(([, phases]) => phases)),
    };
  }
}

export function featuresOf(program: Program): FeatureSet {
  return program.features as FeatureSet;
}
