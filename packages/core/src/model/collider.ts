/**
 * Colliders. Zones: where an object notices others; blockers: where it stops them. A zone is a place of its own shape, near
 * a distance from its object's pivot; both belong to the object in whose `colliders` they are named.
 */
import { blockerForm } from '../features/blockers/forms.ts';
import { nearForm, zoneForm } from '../features/zones/forms.ts';
import { kinds, type Of } from '../grammar/index.ts';

export const colliderForm = kinds('role', zoneForm, blockerForm, nearForm);
export type Collider = Of<typeof colliderForm>;
