/** Whether things are taken hold of by a finger: rows of a fixed height are then as high as one needs, 32 px. */
export const IS_COARSE = typeof matchMedia === 'function' && matchMedia('(pointer: coarse)').matches;
/** Px round the middle of a small handle at which a finger takes hold of it. */
export const FINGER = 18;
