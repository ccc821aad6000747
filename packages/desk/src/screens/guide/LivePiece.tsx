import type { Piece } from '@apple-tick/core/model';
import { compile } from '@apple-tick/core/run';
import { allParts, type Placed, Runtime } from '@apple-tick/player';
import { useEffect, useRef } from 'react';
import { sounds } from '../../features/sounds/edit.ts';

/** No starter has pictures of its own. */
const noPictures = () => undefined;

/** A piece that runs in the page, and is clicked and walked in there like anywhere else. */
export default function LivePiece({ piece, label }: { piece: Piece; label: string }) {
  const ref = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const canvas = ref.current;
    if (!canvas) return;
    const runtime = new Runtime(compile(piece), {
      pictures: noPictures,
      parts: allParts(sounds),
      onTicks: () => {},
    });
    const placed = (): Placed => {
      const size = { w: canvas.clientWidth, h: canvas.clientHeight };
      const scale = Math.min(size.w / piece.frame.width, size.h / piece.frame.height);
      return { ...piece.view, size, seen: piece.frame, masks: false, x: size.w / 2, y: size.h / 2, scale };
    };
    const letGo = runtime.attach(canvas, placed);
    const resized = new ResizeObserver(() => runtime.repaint());
    resized.observe(canvas);
    return () => {
      resized.disconnect();
      letGo();
      runtime.stop();
    };
  }, [piece]);
  return (
    <span className="block relative overflow-hidden rounded-[9px] border border-line aspect-video">
      <canvas ref={ref} tabIndex={0} aria-label={label} className="absolute inset-0 w-full h-full" />
    </span>
  );
}
