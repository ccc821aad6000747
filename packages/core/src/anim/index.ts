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
  type Playhead,
  percentDate,
  placeAt,
  playPosition,
  rebase,
  skipTo,
  standAt,
  startPosition,
} from './playhead.ts';
