/** Pictures of the states of a lane, all by one camera. */
import {
  type Clip,
  clipOnto,
  clipsPlayed,
  type Lane,
  type Machine,
  onePlay,
  type Piece,
  partsAt,
  type State,
} from '@apple-tick/core/model';
import { useEffect, useMemo, useRef, useState } from 'react';
import { useIdleVersion, useSession } from '../session/hooks.ts';
import type { Session } from '../session/session.ts';
import { drawBitmap } from './PieceThumb.tsx';
import { askThumb, type Pose, stillPiece } from './thumbs.ts';

/** The place of a state's pictures, px of the screen. */
interface PoseBox {
  readonly w: number;
  readonly h: number;
}
/** Between two pictures, px. */
const BETWEEN = 4;
/** Of a blend so many clips are shown. */
const MOST = 5;
/** The place is rounded down to so many px, so that not each px of a drag asks for new pictures. */
const STEP = 8;

/**
 * What a state shows, in the order in which it is gone through: where its clip begins and where it leads, of one that turns
 * its start and its middle; of a rest the base; of a hold what most likely stands there. Without `two` the last alone.
 */
function posesOf(
  lane: Lane,
  state: State,
  clipOf: (id: string) => Clip | undefined,
  width: number,
  two: boolean,
): Pose[] {
  const blended = clipsPlayed(state.play).flatMap((id) => clipOf(id) ?? []);
  if (!onePlay(state.play) && blended.length > 0) {
    const shown = blended.slice(0, two ? MOST : 1);
    const each = (width - BETWEEN * (shown.length - 1)) / shown.length;
    return shown.map((c) => ({
      clip: c.id,
      at: c.loop === 'once' ? c.duration : c.duration / 2,
      width: each,
    }));
  }
  const [clip] = blended;
  if (!clip) return [{ ...held(lane, state, clipOf), width }];
  if (clip.duration === 0) return [{ clip: clip.id, at: 0, width }];
  const { speed } = onePlay(state.play) ?? {};
  const back = typeof speed === 'number' && speed < 0;
  const [from, to] = clip.loop === 'once' ? [0, clip.duration] : [0, clip.duration / 2];
  const at = back ? [to, from] : [from, to];
  if (!two) return [{ clip: clip.id, at: at[1] as number, width }];
  return at.map((t) => ({ clip: clip.id, at: t, width: (width - BETWEEN) / 2 }));
}

/** What a holding state most likely shows: the end of a clip whose state leads to it. */
function held(lane: Lane, state: State, clipOf: (id: string) => Clip | undefined): Omit<Pose, 'width'> {
  if (state.play === 'hold')
    for (const t of lane.transitions) {
      const from = onePlay(lane.states.find((x) => x.id === t.from)?.play ?? 'rest');
      const clip = t.to === state.id && from ? clipOf(from.clip) : undefined;
      if (clip && from)
        return { clip: clip.id, at: typeof from.speed === 'number' && from.speed < 0 ? 0 : clip.duration };
    }
  return { clip: null, at: 0 };
}

/** The clips of a lane by id, those of other objects as they are found by name at this one. */
function clipsOf(s: Session, machine: Machine, lane: Lane): Piece['clips'] {
  const out: Piece['clips'] = {};
  for (const id of lane.states.flatMap((x) => clipsPlayed(x.play))) {
    const clip = s.store.get('clips', id);
    if (!clip) continue;
    const at = clip.root === machine.object ? null : partsAt(s.store.all('objects'), clip, machine.object);
    out[clip.id] = at ? clipOnto(clip, machine.object, at) : clip;
  }
  return out;
}

/** The pictures of each state's poses, by the state's id. They are those of before until the new ones are there. */
export function useLanePoses(
  machine: Machine,
  lane: Lane,
  box: PoseBox,
  two: boolean,
): ReadonlyMap<string, readonly ImageBitmap[]> {
  const s = useSession();
  const [width, height] = [box.w, box.h].map((n) => Math.max(STEP, Math.floor(n / STEP) * STEP)) as [
    number,
    number,
  ];
  const version = useIdleVersion();
  const [made, setMade] = useState<ReadonlyMap<string, readonly ImageBitmap[]>>(NONE);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the version stands for the contents of the store
  const request = useMemo(() => {
    const clips = clipsOf(s, machine, lane);
    const states = lane.states.map((x) => ({
      id: x.id,
      poses: posesOf(lane, x, (id) => clips[id], width, two),
    }));
    const piece = s.piece();
    return { states, piece: stillPiece(piece, piece.objects, clips) };
  }, [s, machine, lane, version, width, two]);
  useEffect(() => {
    const poses = request.states.flatMap((x) => x.poses);
    const ask = { piece: request.piece, object: machine.object, poses };
    return askThumb({ ...ask, height, ratio: devicePixelRatio || 1 }, (bitmaps) => {
      let at = 0;
      const byState = new Map<string, readonly ImageBitmap[]>();
      for (const x of request.states) {
        byState.set(x.id, bitmaps.slice(at, at + x.poses.length));
        at += x.poses.length;
      }
      setMade(byState);
    });
  }, [request, machine.object, height]);
  return made;
}
const NONE: ReadonlyMap<string, readonly ImageBitmap[]> = new Map();

/** One pose. */
export function PosePicture({ bitmap }: { bitmap: ImageBitmap }) {
  const ref = useRef<HTMLCanvasElement>(null);
  useEffect(() => drawBitmap(ref.current, bitmap), [bitmap]);
  const ratio = devicePixelRatio || 1;
  return (
    <canvas
      ref={ref}
      style={{ width: bitmap.width / ratio, height: bitmap.height / ratio }}
      aria-hidden="true"
      className="flex-none"
    />
  );
}
