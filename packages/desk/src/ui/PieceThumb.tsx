import type { Piece } from '@apple-tick/core/model';
import { useEffect, useRef } from 'react';
import { askThumb, type Mark, partFor } from './thumbs.ts';

/** A canvas that shows the bitmap, px for px. */
export function drawBitmap(canvas: HTMLCanvasElement | null, bitmap: ImageBitmap): void {
  if (!canvas) return;
  canvas.width = bitmap.width;
  canvas.height = bitmap.height;
  canvas.getContext('2d')?.drawImage(bitmap, 0, 0);
}

const NO_MARKS: readonly Mark[] = [];

/** A still picture of a piece, painted as the frame is; `only` limits it to what lies below one object. */
export function PieceThumb(props: {
  piece: Piece;
  width: number;
  height: number;
  clip?: string | null;
  at?: number;
  only?: string;
  marks?: readonly Mark[];
  /** Another version of it, which is shown beside it by the same camera. */
  beside?: Piece;
  /** It is as wide as its place, in the same proportions. */
  fills?: boolean;
  /** Hears that the picture is painted. */
  onPainted?: (canvas: HTMLCanvasElement) => void;
}) {
  const ref = useRef<HTMLCanvasElement>(null);
  const { piece, width, height, clip = null, at = 0, only, marks = NO_MARKS, beside } = props;
  const painted = useRef(props.onPainted);
  painted.current = props.onPainted;
  const ratio = devicePixelRatio || 1;
  useEffect(() => {
    const request = {
      piece: partFor(piece, only, clip),
      width: Math.round(width * ratio),
      height: Math.round(height * ratio),
      clip,
      at,
      only: only !== undefined,
      marks,
      beside: beside ? partFor(beside, only, clip) : null,
    };
    return askThumb(request, ([bitmap]) => {
      // The old picture stays until the new one is there.
      if (bitmap) drawBitmap(ref.current, bitmap);
      if (bitmap && ref.current) painted.current?.(ref.current);
      bitmap?.close();
    });
  }, [piece, width, height, clip, at, only, marks, beside, ratio]);
  const style = props.fills
    ? { width: '100%', aspectRatio: `${width} / ${height}`, display: 'block' }
    : { width, height };
  return <canvas ref={ref} style={style} aria-hidden="true" />;
}
