/** What a recipe is, and words that many of them use. */
import { EASING_PRESETS, type PieceStore, type SceneObject, type TweenEasing } from '@apple-tick/core/model';
import type { Maker } from './recipe-maker.ts';

export type Range = [number, number];

/** What is done, at which second; where, px of the frame from its middle. */
export type Act = readonly [
  at: number,
  does: 'click' | 'enter' | 'leave' | 'press' | 'pull' | 'answer' | 'key',
  where?: readonly [number, number],
];

export interface Recipe {
  readonly id: string;
  readonly name: string;
  /** An empty piece may begin with it. */
  readonly begins?: true;
  /** What it does, for an object of this name. */
  readonly says: (name: string) => string;
  /** Whether it does something for an object; without it, it does for all. */
  readonly fits?: (store: PieceStore, object: SceneObject) => boolean;
  readonly make: (m: Maker) => void;
  /** What is done to it while it is shown, by seconds from the start; then it begins anew. */
  readonly shown: {
    readonly seconds: number;
    readonly acts: readonly Act[];
    /** Another thing goes this way, px from the middle, y up, once in that time. */
    readonly comes?: { readonly from: Range; readonly to: Range; readonly seconds: number };
  };
}

export const EASE_OUT = { bezier: [...EASING_PRESETS['ease-out']] } satisfies TweenEasing;

export const click = { on: { event: 'pointer.click' } } as const;

export const done = { on: { event: 'state.done' } } as const;

export const from = (clip: string, speed = 1) => ({ clip, speed, from: 'here' as const });
