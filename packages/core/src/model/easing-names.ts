/** Names in easings. They are apart from the schemas, which what people embed does without. */

/** Positions as in CSS: whether there is a jump where the segment starts, where it ends, at neither, or at both. */
export const STEP_POSITIONS = ['jump-start', 'jump-end', 'jump-none', 'jump-both'] as const;
export const FAMILIES = ['sine', 'quad', 'cubic', 'quart', 'quint', 'expo', 'circ', 'back'] as const;
export const WAYS = ['in', 'out', 'in-out'] as const;
