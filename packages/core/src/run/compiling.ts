/** What features have while a piece is compiled. */
import type { Action, Clip, Expansion, On, Piece, SceneObject } from '../model/index.ts';
import type { Geometry } from '../world/index.ts';
import type { Lasting } from './lasting.ts';
import type { Names } from './names.ts';
import type { Spawns } from './place-program.ts';
import type { ClipProgram, Driven, Driver, LaneProgram } from './program.ts';

/** Before lanes, reactions and actions are compiled. */
export interface Compiling extends Names {
  /** The piece with its templates written out. */
  readonly piece: Piece;
  readonly expansion: Expansion;
  /** In the order of the tree. */
  readonly objects: readonly SceneObject[];
  /** Compiles a list of actions; returns its number. `key` is its stable name, `consumer` that of its random stream. */
  list(key: string, consumer: string, actions: readonly Action[]): number;
  /** The number of the random stream of a consumer. */
  stream(consumer: string): number;
  /** What an action begins that takes time, once it has been compiled; null for what takes none. */
  lasting(action: Action): Lasting | null;
  /** Something of this place listens to an event: throws `NotInThisBuild` where nobody raises it. */
  hears(on: On | undefined, place: string): void;
  /** The row of the tween of a value; −1 where no action asks for one. */
  tweenRow(at: number): number;
  /** The place of what is spawned in which something of this id lies; −1 for the piece itself. */
  placeOf(id: string): number;
  /** The place in a clip of a lane, or, without a clip, the number by which the lane blends, is given by this. */
  drive(lane: string, clip: string | null, by: Driven): void;
  clipOf(id: string): Clip | undefined;
}

/** When all else is there. */
export interface Compiled extends Compiling {
  readonly clips: readonly ClipProgram[];
  /** Of machines, then of direct plays. */
  readonly lanes: readonly LaneProgram[];
  readonly firstDirect: number;
  readonly geometry: Geometry;
  readonly spawns: Spawns;
  /** Index into the values of a zone's switch, where something writes that, else −1. */
  switchOf(collider: string): number;
  /** What is written or asked at these values by themselves, at any instant. */
  asks(ats: Iterable<number>): void;
  /** What sets values above all lanes, and below what is put. */
  drives(ats: Iterable<number>, driver: Driver): void;
}

/** A feature while a piece is compiled. */
export interface CompilingPart {
  /** When all lanes and reactions are there: lists of actions of its own. */
  lists?(): void;
  /** Whether the thing of an event may be this object. */
  mayBeOther?(object: SceneObject, number: number): boolean;
  /** What the program has of it. */
  part?(compiled: Compiled): unknown;
}
