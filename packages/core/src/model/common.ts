/** Shapes that several records share. Vectors are px or degrees per axis, as the field's name says. */
import { z } from 'zod';

// Under the desk's content policy there is no `unsafe-eval`; without this Zod would probe for it.
z.config({ jitless: true });

export const idSchema = z.string().regex(/^[a-z]{2}_[A-Za-z0-9_-]{1,60}$/, 'must be an id such as "ob_x7k2"');
export const nameSchema = z.string().min(1, 'must not be empty').max(200, 'must be at most 200 characters');
export const finite = z.number();
/** Lengths and places: far beyond any frame, but finite in every product the core makes. */
export const FARTHEST = 1e7;
export const length = z.number().min(-FARTHEST, 'is too small').max(FARTHEST, 'is too large');
export const vec3 = z.tuple([length, length, length]);
export const seconds = z.number().min(0, 'must not be negative').max(86400, 'must be at most a day');
export const colorSchema = z.string().regex(/^#[0-9a-f]{6}$/, 'must be a colour such as "#7fa982"');
export const noteSchema = z.string().max(10000);

export type Vec3 = z.infer<typeof vec3>;
