/** How long captions take. */
import type { LengthTable } from '../../model/length-table.ts';

/** How long a caption stays that says nothing else. */
export const CAPTION_SECONDS = 3;

export const lengths: LengthTable<'caption'> = {
  caption: (a) => (a.seconds === null ? Number.POSITIVE_INFINITY : (a.seconds ?? CAPTION_SECONDS)),
};
