/** Blends: states that play several clips at once. */
import type { Feature } from '../../run/feature.ts';
import { compileBlend } from './program.ts';

export const blends: Feature = { name: 'blends', blend: compileBlend };
