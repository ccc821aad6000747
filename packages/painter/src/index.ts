/** What paints a piece on a 2D canvas. */
export { paintFaces, paintGround, type Tint } from './paint-faces.ts';
export { type Particles, paintParticles, type Stamp } from './particles.ts';
export type { Pictures, Placement } from './types.ts';
