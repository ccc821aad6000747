/** What the painter is given: where to paint, and where pictures come from. */

export type Context = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

/** Where the frame's centre lies on the canvas and how many canvas px a frame px takes. */
export interface Placement {
  readonly x: number;
  readonly y: number;
  readonly scale: number;
}

/** The picture of an asset, or undefined while it is not there: its place is then filled with its colour. */
export type Pictures = (asset: string) => CanvasImageSource | undefined;
