/** How a condition compares a signal. */
export const COMPARISONS = ['is', 'not', 'atLeast', 'atMost', 'above', 'below'] as const;
export type Comparison = (typeof COMPARISONS)[number];
