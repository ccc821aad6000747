export { Effects } from './effects.ts';
export { type FrameView, paintFrame } from './paint-frame.ts';
export { Player } from './player.ts';
export { type Placed, Runtime, type RuntimeOptions } from './runtime.ts';
export { SoundPlayer } from './sounds.ts';
export { SYNTHS } from './synth.ts';
