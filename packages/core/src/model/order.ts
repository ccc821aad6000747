/** Fractional indexes for siblings: a place between two others without touching them. */
import { generateKeyBetween } from 'fractional-indexing';

/** A key that sorts (by code units) after `before` and ahead of `after`; null stands for the end on that side. */
export function orderBetween(before: string | null, after: string | null): string {
  try {
    return generateKeyBetween(before, after);
  } catch {
    // Keys from a file need not look as the package makes them; equal neighbours leave no room between.
    return `${before ?? 'a0'}V`;
  }
}
