/** The edges, corners and middle of the frame to which objects can be fixed. */
export const ANCHORS = [
  'top left',
  'top',
  'top right',
  'left',
  'middle',
  'right',
  'bottom left',
  'bottom',
  'bottom right',
] as const;
