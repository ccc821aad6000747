/** Earlier and later poses of what is chosen, painted as it is painted, and faintly. */
import { allBut, FaceBuilder, type Program, poseClip } from '@apple-tick/core/run';
import { hitAll } from '@apple-tick/core/world';
import { paintFaces } from '@apple-tick/painter';
import type { Session } from '../../session/session.ts';
import type { Screen } from '../../session/view/view-math.ts';

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
  const { ghostCount } = s.state;
  const { canvas } = ctx;
  const ratio = devicePixelRatio || 1;
  if (layer?.width !== canvas.width || layer.height !== canvas.height)
    layer = new OffscreenCanvas(Math.max(1, canvas.width), Math.max(1, canvas.height));
  const on = layer.getContext('2d');
  if (!on) return;
  const values = new Float64Array(program.base.length);
  for (const { t, k } of ghostTimes(s, clip.duration, playhead)) {
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

/** When the ghosts are of, the farthest first; `k`: how many steps from the playhead. */
function ghostTimes(s: Session, duration: number, playhead: number): { t: number; k: number }[] {
  const { ghostCount, ghostStep } = s.state;
  return Array.from({ length: 2 * ghostCount }, (_, n) => {
    const k = ghostCount - Math.floor(n / 2);
    return { k, t: playhead + ((n % 2 === 0 ? -1 : 1) * k * ghostStep) / s.store.head.fps };
  }).filter(({ t }) => t >= -1e-9 && t <= duration + 1e-9);
}

/**
 * The second of the ghost under a point of the frame, px round its middle, y up: of one that has a key within half a
 * step, that key's; else of the nearest one. Null where there is none.
 */
export function ghostUnder(
  s: Session,
  program: Program,
  view: Pick<Screen, 'azimuth' | 'elevation'>,
  at: { readonly x: number; readonly y: number },
): number | null {
  const clip = s.open?.clip;
  const object = program.objectIndex.get(s.state.object ?? '');
  if (!clip || object === undefined || !isMoved(program, clip.tracks, object)) return null;
  const others = allBut(program, object);
  const values = new Float64Array(program.base.length);
  const half = s.state.ghostStep / s.store.head.fps / 2;
  const keys = clip.tracks.flatMap((x) => (x.object === s.state.object ? x.keys.map((q) => q.t) : []));
  const keyNear = (t: number) => keys.find((q) => Math.abs(q - t) <= half);
  const under = ghostTimes(s, clip.duration, s.state.playhead)
    .reverse()
    .filter(({ t }) => {
      poseClip(program, clip.id, t, values);
      return hitAll(builder.build(program, values, view, others), at.x, at.y).length > 0;
    });
  const keyed = under.find(({ t }) => keyNear(t) !== undefined);
  const [nearest] = under;
  if (keyed) return keyNear(keyed.t) as number;
  return nearest ? Math.max(0, Math.min(clip.duration, nearest.t)) : null;
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
