import type { Clip, Piece } from '@apple-tick/core/model';
import { compile, FaceBuilder, poseClip } from '@apple-tick/core/run';
import { paintFaces, paintGround } from '@apple-tick/painter';
import { useEffect, useRef } from 'react';
import { picturesOf } from '../session/keep/pictures.ts';

/** Seconds for which each clip's end is seen. */
const REST = 0.5;
/** A clip that goes round is seen this often. */
const TURNS = 2;

/** The clips of a piece, one after the other and from the first again, as the frame shows them. */
export default function ClipReel({ piece, width, height }: { piece: Piece; width: number; height: number }) {
  const ref = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const canvas = ref.current;
    const ctx = canvas?.getContext('2d');
    const clips = Object.values(piece.clips).filter((c) => c.duration > 0);
    if (!canvas || !ctx || clips.length === 0) return;
    const ratio = devicePixelRatio || 1;
    canvas.width = Math.round(width * ratio);
    canvas.height = Math.round(height * ratio);
    const program = compile(piece);
    const builder = new FaceBuilder();
    const values = program.base.slice();
    const pictures = picturesOf(
      (id) => piece.assets[id],
      () => {},
    );
    const scale = Math.max(canvas.width / piece.frame.width, canvas.height / piece.frame.height);
    const at = { x: canvas.width / 2, y: canvas.height / 2, scale };
    let began = 0;
    let frame = requestAnimationFrame(function paint(now) {
      frame = requestAnimationFrame(paint);
      began ||= now;
      const { clip, place } = reelAt(clips, (now - began) / 1000);
      poseClip(program, clip.id, place, values);
      paintGround(ctx, piece.frame.background, canvas.width / scale, canvas.height / scale, at);
      paintFaces(ctx, builder.build(program, values, piece.view), at, pictures);
    });
    return () => cancelAnimationFrame(frame);
  }, [piece, width, height]);
  return <canvas ref={ref} className="absolute inset-0 w-full h-full" aria-hidden="true" />;
}

const lengthOf = (c: Clip) =>
  (c.loop === 'once' ? c.duration : c.duration * TURNS * (c.loop === 'loop' ? 1 : 2)) + REST;

/** What is seen after so many seconds: which clip, and where in it. */
export function reelAt(clips: readonly Clip[], seconds: number): { clip: Clip; place: number } {
  let t = seconds % clips.reduce((n, c) => n + lengthOf(c), 0);
  let clip = clips[0] as Clip;
  for (const c of clips) {
    clip = c;
    if (t < lengthOf(c)) break;
    t -= lengthOf(c);
  }
  const { duration: d, loop } = clip;
  if (loop === 'once') return { clip, place: Math.min(t, d) };
  const run = Math.min(t, lengthOf(clip) - REST);
  if (loop === 'loop') return { clip, place: run % d };
  const m = run % (2 * d);
  return { clip, place: m <= d ? m : 2 * d - m };
}
