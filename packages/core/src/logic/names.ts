import type { PlayFrom, PropertyInfo, Speed, TweenEasing } from '../model/index.ts';

/** The numbers that stand for ids in a compiled piece; −1 for what is not there. */
export interface Lookup {
  signal(id: string): number;
  lane(id: string): number;
  state(lane: number, id: string): number;
  clip(id: string): number;
  object(id: string): number;
  collider(id: string): number;
  /** The objects that have a tag. */
  tagged(tag: string): readonly number[];
}

/** What actions are compiled with: the numbers, and room for what they set going. */
export interface Names extends Lookup {
  /** All that the thing of an event may be: whatever a zone notices, or can be dragged. */
  readonly others: readonly number[];
  /** Makes room for tweens, or a motor, of a property of an object. */
  tweens(object: number, property: PropertyInfo): void;
  motors(object: number, property: PropertyInfo): void;
  /** The lane that plays a clip on an object by itself, and its state that plays it so; −1 where one is not there. */
  direct(clip: string, object: string): number;
  directState(lane: number, speed: Speed, from: PlayFrom): number;
  effect(id: string): number;
  template(id: string): number;
  sheet(id: string): number;
  /** The visitor's object; −1 where there is none. */
  readonly visitor: number;
  /** The pivot of an object is asked for at a date. */
  stands(object: number): void;
  /** The number of a caption's answers. */
  answers(of: readonly { readonly id: string; readonly text: string }[]): number;
  /** The place of a tween's curve; −1 for hold, −2 for linear. */
  curve(easing: TweenEasing): number;
}
