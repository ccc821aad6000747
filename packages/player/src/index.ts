export { allParts } from './all-parts.ts';
export { Effects } from './features/effects.ts';
export { SoundPlayer } from './features/sounds.ts';
export { SYNTHS } from './features/synth.ts';
export type { PagePart } from './page-part.ts';
export { type FrameView, paintFrame } from './paint-frame.ts';
export { Player } from './player.ts';
export { type Placed, Runtime, type RuntimeOptions } from './runtime.ts';
