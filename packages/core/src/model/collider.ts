/**
 * Colliders. Zones: where an object notices others; blockers: where it stops them. A zone is a place of its own shape, near
 * a distance from its object's pivot; both belong to the object in whose `colliders` they are named.
 */
import { blockerSchema } from '../features/blockers/schema.ts';
import { nearSchema, zoneSchema } from '../features/zones/schema.ts';
import { kinds, type Of } from '../grammar/index.ts';

export const colliderSchema = kinds('role', zoneSchema, blockerSchema, nearSchema);
export type Collider = Of<typeof colliderSchema>;
