export {
  type ClipData,
  compileClip,
  KEY,
  MIX_COLOR,
  MIX_NUMBER,
  MIX_SWITCH,
  mixOf,
  sampleAt,
  sampleTrack,
} from './clip-data.ts';
export { bezierAt, CURVE, compileCurve, easeInPlace, evaluateCurve } from './easing.ts';
export {
  crossingPosition,
  dateOf,
  fold,
  MAX_SPEED,
  meets,
  newPlay,
  PLAY_ROW,
  type Playhead,
  percentDate,
  placeInto,
  playPosition,
  rebase,
  skipTo,
  standAt,
  startPosition,
} from './playhead.ts';
