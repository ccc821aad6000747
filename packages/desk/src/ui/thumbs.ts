/** Asks the worker for thumbnails. Each asker gets the newest of what it asked for; older ones are let go. */
import type { Piece } from '@apple-tick/core/model';
import { proxy, type Remote, wrap } from 'comlink';
import type { Painted, ThumbPainter } from './thumb-worker.ts';

/** A frame round an object and all below it. */
export interface Mark {
  readonly id: string;
  readonly color: string;
  readonly isStrong: boolean;
}

export interface PictureRequest {
  readonly id: number;
  /** Only what the picture needs: what lies below the one object, and the one clip. */
  readonly piece: Piece;
  /** Px of the picture. */
  readonly width: number;
  readonly height: number;
  readonly clip: string | null;
  readonly at: number;
  readonly only: boolean;
  readonly marks: readonly Mark[];
  /** Another version of the piece, whose picture is to be by the same camera. */
  readonly beside: Piece | null;
}

/** A pose of a clip, or the base; px wide. */
export interface Pose {
  readonly clip: string | null;
  readonly at: number;
  readonly width: number;
}

/** Several poses of one object, by one camera over all clips of `piece`. Px are of the screen; `ratio`: device px to one. */
export interface PosesRequest {
  readonly id: number;
  readonly piece: Piece;
  readonly object: string;
  readonly poses: readonly Pose[];
  readonly height: number;
  readonly ratio: number;
}

export type ThumbRequest = PictureRequest | PosesRequest;
let worker: Remote<ThumbPainter> | null = null;
let lastId = 0;
const askers = new Map<number, (bitmaps: readonly ImageBitmap[]) => void>();

/**
 * Calls `done` with the picture or pictures, again when something in them has come late; it closes them. Returns a way to
 * stop asking.
 */
export function askThumb(
  request: Omit<PictureRequest, 'id'> | Omit<PosesRequest, 'id'>,
  done: (bitmaps: readonly ImageBitmap[]) => void,
): () => void {
  if (!worker) {
    worker = wrap<ThumbPainter>(
      new Worker(new URL('./thumb-worker.ts', import.meta.url), { type: 'module' }),
    );
    const painted: Painted = (id, bitmaps) => {
      const asker = askers.get(id);
      if (asker) asker(bitmaps);
      else for (const b of bitmaps) b.close();
    };
    void worker.tell(proxy(painted));
  }
  const id = ++lastId;
  askers.set(id, done);
  void worker.paint({ ...request, id });
  return () => {
    askers.delete(id);
    void worker?.forget(id);
  };
}

/** The part of a piece that a picture of one object in one clip needs; without an object the whole. */
export function partFor(piece: Piece, only: string | undefined, clip: string | null): Piece {
  const objects: Piece['objects'] = {};
  const below = new Map<string, boolean>();
  const inside = (id: string): boolean => {
    const known = below.get(id);
    if (known !== undefined) return known;
    const parent = piece.objects[id]?.parent ?? null;
    const yes = id === only || (parent !== null && inside(parent));
    below.set(id, yes);
    return yes;
  };
  for (const o of Object.values(piece.objects)) {
    if (only === undefined) objects[o.id] = o;
    else if (inside(o.id)) objects[o.id] = o.id === only ? { ...o, parent: null } : o;
  }
  const shown = clip === null ? undefined : piece.clips[clip];
  return stillPiece(piece, objects, shown ? { [shown.id]: shown } : {});
}

/** What a picture of some objects in some clips needs of a piece. */
export function stillPiece(piece: Piece, objects: Piece['objects'], clips: Piece['clips']): Piece {
  return { ...piece, objects, clips, machines: {}, reactions: {}, signals: {}, messages: {} };
}
