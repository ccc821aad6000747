/**
 * What actions and conditions are compiled with: the numbers that stand for ids, −1 for what is not there, and room for what
 * they set going.
 */
import type { PlayFrom, PropertyInfo, Speed, TableName, TweenEasing } from '../model/index.ts';
import type { CompilingParts } from './parts.ts';

export interface Names {
  signal(id: string): number;
  lane(id: string): number;
  state(lane: number, id: string): number;
  clip(id: string): number;
  object(id: string): number;
  /** The number of a record among all of its table, in document order. */
  record(table: TableName, id: string): number;
  /** A property by its name; undefined for what is none. Asked of all that are written, but for those of the base. */
  property(name: string): PropertyInfo | undefined;
  /** The objects that have a tag. */
  tagged(tag: string): readonly number[];
  /** What features have made so far of the piece that is being compiled. */
  readonly parts: CompilingParts;
  /** All that the thing of an event may be: whatever a zone notices, or can be dragged. */
  readonly others: readonly number[];
  /** Makes room for tweens, or a motor, of a property of an object. */
  tweens(object: number, property: PropertyInfo): void;
  motors(object: number, property: PropertyInfo): void;
  /** The lane that plays a clip on an object by itself, and its state that plays it so; −1 where one is not there. */
  direct(clip: string, object: string): number;
  directState(lane: number, speed: Speed, from: PlayFrom): number;
  /** The visitor's object; −1 where there is none. */
  readonly visitor: number;
  /** The pivot of an object is asked for at an instant. */
  stands(object: number): void;
  /** The place of a tween's curve; −1 for hold, −2 for linear. */
  curve(easing: TweenEasing): number;
}
