import type { Piece } from '@apple-tick/core/model';
import { compile, FaceBuilder, poseClip } from '@apple-tick/core/run';
import { paintFaces, paintGround } from '@apple-tick/painter';
import { useEffect, useRef, useState } from 'react';
import { picturesOf } from '../session/pictures.ts';

/** A still picture of a piece, painted as the frame is; `only` limits it to what lies below one object. */
export function PieceThumb(props: {
  piece: Piece;
  width: number;
  height: number;
  clip?: string | null;
  at?: number;
  only?: string;
}) {
  const ref = useRef<HTMLCanvasElement>(null);
  const { piece, width, height, clip = null, at = 0, only } = props;
  const [came, setCame] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: `came` counts pictures that have come since
  useEffect(() => {
    const canvas = ref.current;
    const ctx = canvas?.getContext('2d');
    if (!canvas || !ctx) return;
    const ratio = devicePixelRatio || 1;
    canvas.width = width * ratio;
    canvas.height = height * ratio;
    const program = compile(only ? subtree(piece, only) : piece);
    const values = program.base.slice();
    poseClip(program, clip, at, values);
    const faces = new FaceBuilder().build(program, values, piece.view);
    let scale = Math.max(width / piece.frame.width, height / piece.frame.height) * ratio;
    let x = canvas.width / 2;
    let y = canvas.height / 2;
    if (only) {
      const b = boundsOf(faces);
      scale = Math.min(canvas.width / (b.w + 8), canvas.height / (b.h + 8));
      x -= b.x * scale;
      y += b.y * scale;
    }
    // A cover: what of the frame sticks out of the picture is cut.
    if (!only)
      paintGround(ctx, piece.frame.background, canvas.width / scale, canvas.height / scale, { x, y, scale });
    const pictures = picturesOf(
      (id) => piece.assets[id],
      () => setCame((n) => n + 1),
    );
    paintFaces(ctx, faces, { x, y, scale }, pictures);
  }, [piece, width, height, clip, at, only, came]);
  return <canvas ref={ref} style={{ width, height }} aria-hidden="true" />;
}

function boundsOf(faces: ReturnType<FaceBuilder['build']>) {
  let [x0, y0, x1, y1] = [1e9, 1e9, -1e9, -1e9];
  for (let f = 0; f < faces.count; f++) {
    const p = faces.plane.subarray(f * 9, f * 9 + 9) as unknown as number[];
    const hull = (faces.outline[f] as (typeof faces.outline)[number]).hull;
    for (let i = 0; i < hull.length; i += 2) {
      const [u, v] = [hull[i] as number, hull[i + 1] as number];
      const x = (p[0] as number) + (p[3] as number) * u + (p[6] as number) * v;
      const y = (p[1] as number) + (p[4] as number) * u + (p[7] as number) * v;
      x0 = Math.min(x0, x);
      x1 = Math.max(x1, x);
      y0 = Math.min(y0, y);
      y1 = Math.max(y1, y);
    }
  }
  return { x: (x0 + x1) / 2, y: (y0 + y1) / 2, w: Math.max(10, x1 - x0), h: Math.max(10, y1 - y0) };
}

function subtree(piece: Piece, root: string): Piece {
  const keep: Piece['objects'] = {};
  const inside = (id: string): boolean => {
    if (id === root) return true;
    const parent = piece.objects[id]?.parent;
    return parent ? inside(parent) : false;
  };
  for (const o of Object.values(piece.objects))
    if (inside(o.id)) keep[o.id] = o.id === root ? { ...o, parent: null } : o;
  return { ...piece, objects: keep, machines: {}, reactions: {} };
}
