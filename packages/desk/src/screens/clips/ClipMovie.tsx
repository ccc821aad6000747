import type { Clip } from '@apple-tick/core/model';
import { allBut, FaceBuilder, type Program, poseClip } from '@apple-tick/core/run';
import { paintFaces } from '@apple-tick/painter';
import { memo, useEffect, useRef } from 'react';
import { useSession } from '../../session/hooks.ts';
import { type Box, screenBoxes, union } from '../../session/view/screen-boxes.ts';

/** Poses that the camera of a clip takes in. */
const POSES = 9;

/**
 * A clip as a small moving picture of what it moves, as it runs: once with a pause, round and round, there and back. One
 * camera for all of it. It stands, in its middle, where people want no motion, and rests while it is not in sight.
 */
export const ClipMovie = memo(function ClipMovie(props: {
  clip: Clip;
  program: Program;
  width: number;
  height: number;
}) {
  const { clip, program, width, height } = props;
  const s = useSession();
  const ref = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const canvas = ref.current;
    const ctx = canvas?.getContext('2d');
    const root = program.objectIndex.get(clip.root);
    if (!canvas || !ctx || root === undefined) return;
    const ratio = devicePixelRatio || 1;
    canvas.width = width * ratio;
    canvas.height = height * ratio;
    const { view } = s.store.head;
    const builder = new FaceBuilder();
    const values = new Float64Array(program.base.length);
    const others = allBut(program, root);
    const faces = (t: number) => {
      poseClip(program, clip.id, t, values);
      return builder.build(program, values, view, others);
    };
    const whole = { x: 0, y: 0, scale: 1, azimuth: view.azimuth, elevation: view.elevation };
    let seen: Box | undefined;
    for (let i = 0; i < POSES; i++)
      for (const b of screenBoxes(program, faces((clip.duration * i) / (POSES - 1)), whole))
        if (b) seen = union(seen, b);
    if (!seen) return;
    const scale = Math.min((width - 8) / (seen.x1 - seen.x0), (height - 8) / (seen.y1 - seen.y0), 3);
    const [x, y] = [
      width / 2 - (scale * (seen.x0 + seen.x1)) / 2,
      height / 2 - (scale * (seen.y0 + seen.y1)) / 2,
    ];
    const paint = (t: number) => {
      ctx.setTransform(1, 0, 0, 1, 0, 0);
      ctx.clearRect(0, 0, canvas.width, canvas.height);
      paintFaces(ctx, faces(t), { x: x * ratio, y: y * ratio, scale: scale * ratio }, s.pictures, true);
    };
    paint(clip.duration / 2);
    if (clip.duration === 0 || matchMedia('(prefers-reduced-motion: reduce)').matches) return;
    let frame = 0;
    let last = 0;
    const go = (now: number) => {
      frame = requestAnimationFrame(go);
      // Every other frame of the screen is enough for a thumbnail.
      if (now - last < 30 || s.gesture) return;
      last = now;
      paint(placeAt(clip, now / 1000));
    };
    const watch = new IntersectionObserver((list) => {
      cancelAnimationFrame(frame);
      if (list.at(-1)?.isIntersecting) frame = requestAnimationFrame(go);
    });
    watch.observe(canvas);
    return () => {
      watch.disconnect();
      cancelAnimationFrame(frame);
    };
  }, [clip, program, width, height, s]);
  return <canvas ref={ref} style={{ width, height }} aria-hidden="true" />;
});

/** Where a clip stands that is shown again and again. */
function placeAt({ duration, loop }: Clip, now: number): number {
  if (loop === 'loop') return now % duration;
  if (loop === 'there-and-back') {
    const t = now % (2 * duration);
    return t <= duration ? t : 2 * duration - t;
  }
  return Math.min(duration, now % (duration + 0.8));
}
