/** How what is painted is mixed with what lies under it: the modes of the W3C's Compositing and Blending. */
export const BLENDS = [
  ...(['multiply', 'screen', 'overlay', 'darken', 'lighten', 'color-dodge', 'color-burn'] as const),
  ...(['hard-light', 'soft-light', 'difference', 'exclusion', 'hue', 'saturation', 'color'] as const),
  'luminosity',
] as const;
export type Blend = (typeof BLENDS)[number];
