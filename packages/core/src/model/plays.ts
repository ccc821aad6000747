/** What a state's play comes to; without the schemas, so that what runs a piece need not carry them. */
import type { ClipPlay, Play } from './play.ts';

/** What plays one clip alone; null for what rests, holds or blends. */
export function onePlay(play: Play): ClipPlay | null {
  return typeof play === 'object' && 'clip' in play ? play : null;
}

/** The clips that are played, in the order in which they are written. */
export function clipsPlayed(play: Play): readonly string[] {
  if (typeof play !== 'object') return [];
  if ('clip' in play) return [play.clip];
  return ('range' in play ? play.range.points : play.stack).map((x) => x.clip);
}
