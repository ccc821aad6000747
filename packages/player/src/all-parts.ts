/** Every feature's part of a page, for who does not know beforehand what a piece needs. */
import { captions } from './features/captions.ts';
import { effects } from './features/effects.ts';
import { type SoundPlayer, sounds } from './features/sounds.ts';
import type { PagePart } from './page-part.ts';

export function allParts(player: SoundPlayer): PagePart[] {
  return [effects(), captions(), sounds(player)];
}
