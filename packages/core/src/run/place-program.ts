/** Where templates can be spawned, which signals others give, and the parts that are written as properties: by number. */
import type { Part } from '../model/index.ts';

/** From `from` up to `to`. */
export interface Span {
  readonly from: number;
  readonly to: number;
}
/** Where one of a template may be: all its things lie side by side. */
export interface PlaceProgram {
  readonly id: string;
  /** Its group. */
  readonly root: number;
  /** Number of its template, and of its parent, −1 for none. */
  readonly template: number;
  readonly parent: number;
  readonly objects: Span;
  readonly lanes: Span;
  /** Lanes of direct plays on its objects. */
  readonly directs: readonly number[];
  readonly slots: Span;
  readonly sources: Span;
  readonly pulses: Span;
  readonly signals: Span;
  readonly reactions: Span;
  readonly streams: readonly number[];
}
export interface SpawnedTemplate {
  readonly id: string;
  readonly max: number;
  readonly places: readonly number[];
}
export interface BoundProgram {
  readonly inner: number;
  readonly from: readonly [number, number] | undefined;
  readonly to: readonly [number, number] | undefined;
}
export interface PartProgram {
  readonly part: Part;
  /** Index into the values where it lies. */
  readonly at: number;
  /** The signal that it is, −1 for the switch of a zone. */
  readonly signal: number;
}
export interface Spawns {
  readonly places: readonly PlaceProgram[];
  readonly templates: readonly SpawnedTemplate[];
  readonly index: ReadonlyMap<string, number>;
  /** By object, reaction and lane the place in which it lies, −1 for none; empty without places. */
  readonly ofObject: Int32Array;
  readonly ofReaction: Int32Array;
  readonly ofLane: Int32Array;
  /** By signal those that it gives. */
  readonly bound: readonly (readonly BoundProgram[])[];
  readonly parts: readonly PartProgram[];
  readonly partAt: ReadonlyMap<number, PartProgram>;
}
