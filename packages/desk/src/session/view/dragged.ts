/** What is dragged from one part of the desk to another, by the type that it has in the drag. */
export const CLIP_TYPE = 'application/x-apple-tick-clip';
