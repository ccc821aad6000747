/** How long tweens take. */
import type { LengthTable } from '../../model/length-table.ts';

export const lengths: LengthTable<'tween' | 'face'> = {
  tween: (a) => a.seconds,
  face: (a) => a.seconds,
};
