/** Lengths and places: far beyond any frame, but finite in every product the core makes. */
export const FARTHEST = 1e7;
/** Stops of a gradient. */
export const MAX_STOPS = 64;
