/** Asks the worker for thumbnails. Each asker gets the newest of what it asked for; older ones are let go. */
import type { Piece } from '@apple-tick/core/model';

export interface ThumbRequest {
  readonly id: number;
  /** Only what the picture needs: what lies below the one object, and the one clip. */
  readonly piece: Piece;
  /** Px of the picture. */
  readonly width: number;
  readonly height: number;
  readonly clip: string | null;
  readonly at: number;
  readonly only: boolean;
}

let worker: Worker | null = null;
let lastId = 0;
const askers = new Map<number, (bitmap: ImageBitmap) => void>();

/** Calls `done` with the picture, again when something in it has come late. Returns a way to stop asking. */
export function askThumb(request: Omit<ThumbRequest, 'id'>, done: (bitmap: ImageBitmap) => void): () => void {
  if (!worker) {
    worker = new Worker(new URL('./thumb-worker.ts', import.meta.url), { type: 'module' });
    worker.onmessage = (e: MessageEvent<{ id: number; bitmap: ImageBitmap }>) => {
      const { id, bitmap } = e.data;
      askers.get(id)?.(bitmap);
      bitmap.close();
    };
  }
  const id = ++lastId;
  askers.set(id, done);
  worker.postMessage({ ...request, id });
  return () => askers.delete(id);
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
  return {
    ...piece,
    objects,
    clips: shown ? { [shown.id]: shown } : {},
    machines: {},
    reactions: {},
    signals: {},
    messages: {},
  };
}
