/**
 * The phases of a run in which features have something to do, in the order in which a tick comes by them (`Run` walks
 * them). In each the features are asked in the order of their set.
 */
import type { QueuedEvent } from './events.ts';
import type { PlaceProgram, Span } from './place-program.ts';
import type { Program } from './program.ts';
import type { Cause } from './trace.ts';

export interface Phases {
  /** A tick begins. */
  beginTick?(): void;
  /** Before the inputs of a tick act. */
  beforeInputs?(): void;
  /** A keyboard key goes down or comes up, before the event is raised. */
  key?(key: string, down: boolean): void;
  /** The pointer goes down on an object, −1 for none; it moves while it is down; it is about to come up. */
  press?(hit: number): void;
  moved?(cause: Cause): void;
  release?(): void;
  /** The pointer has come up, which record `rec` tells: true where that is no click. */
  released?(rec: number | null): boolean;
  /** After the inputs: what the newest pose has brought about; then, when all of that is logged, what follows from it. */
  detect?(): void;
  detected?(): void;
  /** An event is served: after reactions have heard it, before lanes do. */
  hear?(e: QueuedEvent): void;
  /** An instant ends: true when something has come to its end there. */
  serve?(): boolean;
  /** Before the pose of the tick. */
  advance?(): void;
  /** The values of the tick are there. */
  posed?(): void;
  /** What moves by itself, after all other values; then, when all of that has moved. */
  move?(): void;
  settle?(): void;
  /** After that: true when the tick must be posed once more. */
  follow?(): boolean;

  // Not of a tick, but of what comes and goes.
  /** The piece begins (null), or what is spawned into a place, before their lanes do. */
  start?(place: PlaceProgram | null): void;
  /** The run goes on with an edited piece; `old` is the program before. */
  edited?(old: Program): void;
  /** These objects go: before that is logged, and when what zones and blockers lose by it is logged. */
  leave?(objects: Span, cause: Cause): void;
  left?(objects: Span, cause: Cause): void;
  /** All that lies in a place is as it was before anything was there; `k`: the number of the place. */
  setBack?(place: PlaceProgram, k: number): void;
}

/** A phase that is not here does not compile. */
const NAMES: Readonly<Record<keyof Phases, 1>> = {
  ...({ beginTick: 1, beforeInputs: 1, key: 1, press: 1, moved: 1, release: 1, released: 1 } as const),
  ...({
    detect: 1,
    detected: 1,
    hear: 1,
    serve: 1,
    advance: 1,
    posed: 1,
    move: 1,
    settle: 1,
    follow: 1,
  } as const),
  ...({ start: 1, edited: 1, leave: 1, left: 1, setBack: 1 } as const),
};

/** By phase those that have something to do there. */
export type PhaseLists = { readonly [P in keyof Phases]-?: readonly Required<Pick<Phases, P>>[] };

export function phaseLists(all: readonly Phases[]): PhaseLists {
  return Object.fromEntries(
    Object.keys(NAMES).map((p) => [p, all.filter((x) => x[p as keyof Phases])]),
  ) as unknown as PhaseLists;
}
