/** What a feature shows in a page, or lets people hear, while a piece runs there. Whoever embeds a piece gives those that it needs. */
import type { FaceBuilder, InputKind, Run, TraceRecord } from '@apple-tick/core/run';
import type { FaceList } from '@apple-tick/core/world';
import type { Pictures, Placement, Tint } from '@apple-tick/painter';
import type { Placed } from './runtime.ts';

/** What lies over a frame that is painted, and how its faces tremble and are coloured. */
export interface Overlay {
  readonly tremble: (faces: FaceList) => void;
  readonly tintOf: (object: number) => Tint | undefined;
  readonly paint: (
    ctx: CanvasRenderingContext2D,
    at: Placement,
    seen: { readonly width: number; readonly height: number },
    pictures: Pictures,
  ) => void;
}

/** What stands in the page beside a canvas: moved with each frame, until it is taken away. */
export interface Standing {
  readonly show: (run: Run, laid: FaceBuilder, at: Placed) => void;
  readonly remove: () => void;
}

/** One for each run: it may keep what it needs between frames. */
export interface PagePart {
  /** Hears what happened in the ticks of a frame. */
  readonly tell?: (records: readonly TraceRecord[], run: Run) => void;
  /** Comes to stand beside a canvas; what people do with it are inputs of the run. */
  readonly attach?: (canvas: HTMLCanvasElement, input: (input: InputKind) => void) => Standing;
  /** Works out what lies over the next frame; `laid`: a builder in which the pose that is painted lies. */
  readonly overlay?: (run: Run, laid: FaceBuilder, at: Placed) => Overlay;
}
