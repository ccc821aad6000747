/** The channels by which a thing has its place: position, rotation, scale, pivot. */
export const PLACE_CHANNELS = 12;
