/** How a frame fits the space that a page gives it. */

export interface Fitted {
  /** What people see of the piece, px of the piece round its middle. */
  readonly width: number;
  readonly height: number;
  /** Px of the space for one px of the piece. */
  readonly scale: number;
}

/** contain: all of it, with bars; cover: no bars, what sticks out is cut; widen: no bars, more is seen round it. */
export function fitFrame(
  frame: { readonly width: number; readonly height: number; readonly fit: 'contain' | 'cover' | 'widen' },
  space: { readonly width: number; readonly height: number },
): Fitted {
  const [x, y] = [space.width / frame.width, space.height / frame.height];
  const scale = frame.fit === 'cover' ? Math.max(x, y) : Math.min(x, y);
  if (frame.fit === 'contain') return { width: frame.width, height: frame.height, scale };
  return { width: space.width / scale, height: space.height / scale, scale };
}
