/** Earlier and later poses of what is chosen, painted as it is painted, and faintly. */
import { allBut, FaceBuilder, type Program, poseClip } from '@apple-tick/core/run';
import { paintFaces } from '@apple-tick/painter';
import type { Session } from '../../session/session.ts';
import type { Screen } from '../../session/view-math.ts';

const builder = new FaceBuilder();
let layer: OffscreenCanvas | null = null;

export function paintGhosts(
  ctx: CanvasRenderingContext2D,
  view: {
    readonly session: Session;
    readonly program: Program;
    readonly screen: Screen;
    readonly size: { readonly w: number; readonly h: number };
    readonly seen: { readonly width: number; readonly height: number };
    readonly playhead: number;
  },
): void {
  const { session: s, program, screen, playhead } = view;
  const clip = s.open?.clip;
  const object = program.objectIndex.get(s.state.object ?? '');
  if (!clip || object === undefined || !isMoved(program, clip.tracks, object)) return;
  const others = allBut(program, object);
  const { fps } = s.store.head;
  const { ghostCount, ghostStep } = s.state;
  const { canvas } = ctx;
  const ratio = devicePixelRatio || 1;
  if (layer?.width !== canvas.width || layer.height !== canvas.height)
    layer = new OffscreenCanvas(Math.max(1, canvas.width), Math.max(1, canvas.height));
  const on = layer.getContext('2d');
  if (!on) return;
  const values = new Float64Array(program.base.length);
  for (let k = ghostCount; k > 0; k--)
    for (const way of [-1, 1]) {
      const t = playhead + (way * k * ghostStep) / fps;
      if (t < -1e-9 || t > clip.duration + 1e-9) continue;
      poseClip(program, clip.id, t, values);
      const faces = builder.build(program, values, screen, others, view.seen);
      if (faces.count === 0) continue;
      on.setTransform(1, 0, 0, 1, 0, 0);
      on.clearRect(0, 0, canvas.width, canvas.height);
      paintFaces(
        on,
        faces,
        { x: screen.x * ratio, y: screen.y * ratio, scale: screen.scale * ratio },
        s.pictures,
        s.state.masks,
      );
      ctx.setTransform(1, 0, 0, 1, 0, 0);
      ctx.globalAlpha = 0.34 * (1 - (k - 1) / (ghostCount + 1));
      ctx.drawImage(layer, 0, 0);
      ctx.globalAlpha = 1;
    }
}

/** Whether the clip keys the object, or something above or below it. */
function isMoved(program: Program, tracks: readonly { readonly object: string }[], object: number): boolean {
  const { parent } = program.geometry;
  const isAbove = (a: number, b: number) => {
    for (let i = b; i >= 0; i = parent[i] as number) if (i === a) return true;
    return false;
  };
  return tracks.some((t) => {
    const i = program.objectIndex.get(t.object);
    return i !== undefined && (isAbove(i, object) || isAbove(object, i));
  });
}
