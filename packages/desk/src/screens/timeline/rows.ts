/** Which rows a timeline has, and how tall each is. */
import { type Clip, keysTrack } from '@apple-tick/core/model';
import { kindOf } from '../../session/motion/keys.ts';

export type TimelineRow =
  /** An object over its properties. */
  | { readonly kind: 'object'; readonly object: string; readonly folded: boolean; readonly height: number }
  | { readonly kind: 'track'; readonly track: number; readonly under: boolean; readonly height: number };

/** Px of a row that is not tall; of the one that is worked on where there is no room for all. */
export const DENSE = 24;
const TALL = 116;
/** No row grows beyond this, however much room there is. */
const TALLEST = 220;

export function isCurve(track: Clip['tracks'][number]): boolean {
  const kind = kindOf(track);
  return kind !== 'switch' && kind !== 'color' && kind !== 'look' && kind !== 'text';
}

/**
 * The rows of a clip, those of one object together, in the order in which it was first keyed. Curves share the room that
 * is free; where it is scarce, those that are worked on are tall and scroll the rest.
 */
export function rowsOf(
  clip: Clip,
  parts: {
    /** Whether a property's row is shown at all. */
    readonly shows: (track: Clip['tracks'][number]) => boolean;
    readonly folded: ReadonlySet<string>;
    /** Rows that are worked on, by `keysTrack`. */
    readonly chosen: ReadonlySet<string>;
    /** Px that there are. */
    readonly room: number;
  },
): TimelineRow[] {
  const byObject = new Map<string, number[]>();
  clip.tracks.forEach((t, i) => {
    if (!parts.shows(t)) return;
    const list = byObject.get(t.object);
    if (list) list.push(i);
    else byObject.set(t.object, [i]);
  });
  const grouped = byObject.size > 1;
  const plain: TimelineRow[] = [];
  for (const [object, tracks] of byObject) {
    const folded = grouped && parts.folded.has(object);
    if (grouped) plain.push({ kind: 'object', object, folded, height: DENSE });
    if (!folded)
      for (const track of tracks) plain.push({ kind: 'track', track, under: grouped, height: DENSE });
  }
  const trackOf = (r: TimelineRow) => (r.kind === 'track' ? clip.tracks[r.track] : undefined);
  const curves = plain.filter((r) => {
    const track = trackOf(r);
    return track !== undefined && isCurve(track);
  });
  const free = parts.room - plain.length * DENSE;
  const even = curves.length > 0 ? Math.min(TALLEST, DENSE + Math.floor(free / curves.length)) : 0;
  // As tall as each can be where that is enough to read a curve: then nothing moves when a key is chosen.
  const roomy = even >= 52;
  return plain.map((r) => {
    const track = trackOf(r);
    if (track === undefined || !isCurve(track)) return r;
    const height = roomy ? even : parts.chosen.has(keysTrack(track)) ? TALL : Math.max(DENSE, even);
    return { ...r, height };
  });
}
