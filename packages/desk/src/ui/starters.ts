/** The small finished pieces that the server offers, with what is told of each. */
import type { Piece } from '@apple-tick/core/model';
import { useQuery } from '@tanstack/react-query';
import { addPiece } from '../session/keep/keeping.ts';
import { db } from '../session/keep/storage.ts';
import { copyOf } from '../session/model-help.ts';

/** One of the sentences that lead through a piece; names of controls stand in brackets. */
interface Step {
  readonly say: string;
  /** The name of the object that is chosen with it. */
  readonly choose?: string;
}

export interface Starter {
  /** Its name in addresses. */
  readonly key: string;
  readonly title: string;
  /** Words of those who look for it. */
  readonly find: string;
  readonly walk: readonly Step[];
  /** As it came: `readStarter` says whether it is sound. */
  readonly piece: unknown;
}

interface StartersFile {
  readonly demo: readonly Pick<Starter, 'key' | 'title' | 'piece'>[];
  readonly starters: readonly Starter[];
}

/** Fetched once, by who first wants them. */
export function useStarters(wanted = true) {
  return useQuery({
    queryKey: ['starters'],
    enabled: wanted,
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async ({ signal }) => (await (await fetch('/api/starters', { signal })).json()) as StartersFile,
  });
}

/** The piece of a starter; null where it is not sound. */
export async function readStarter(json: unknown): Promise<Piece | null> {
  const { readPieceJson } = await import('@apple-tick/core/check');
  const read = readPieceJson(json);
  return read.ok ? read.value : null;
}

/** The address of its still picture, which was made with it. */
export const pictureOf = (key: string): string => `/api/starters/${key}.webp`;

/** Keeps a copy of a starter as a piece of one's own, with its picture. Its id, or null where it cannot be read. */
export async function takeStarter({
  key,
  piece: json,
}: Pick<Starter, 'key' | 'piece'>): Promise<string | null> {
  const piece = await readStarter(json);
  if (!piece) return null;
  const own = copyOf(piece, piece.name);
  // Fetched before, so that nothing slow stands between the piece and its picture. Without it the shelf paints one.
  const picture = await fetchPicture(key).catch(() => null);
  await addPiece(own);
  const row = picture && (await db.pieces.get(own.id));
  if (row) await db.thumbs.put({ id: own.id, changed: row.changed, picture }).catch(() => {});
  return own.id;
}

async function fetchPicture(key: string): Promise<Blob | null> {
  const answer = await fetch(pictureOf(key));
  return answer.ok ? answer.blob() : null;
}
