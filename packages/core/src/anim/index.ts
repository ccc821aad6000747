export {
  type ClipData,
  compileClip,
  KEY,
  MIX_AMOUNT,
  MIX_COLOR,
  MIX_NUMBER,
  MIX_SWITCH,
  mixOf,
  sampleTrack,
} from './clip-data.ts';
export { bezierAt, CURVE, compileCurve, evaluateCurve } from './easing.ts';
export {
  crossingPosition,
  fold,
  type Playhead,
  playPosition,
  rebase,
  startPosition,
} from './playhead.ts';
