/** Solids, and what is turned out of the plane: how they are drawn, in which order they are painted, where they stand. */
import type { Feature } from '../../run/feature.ts';
import { findContacts, PaintOrder, SOLID_SHAPES } from '../../world/index.ts';

export const solids: Feature = {
  name: 'solids',
  claims: { kinds: ['box', 'cylinder', 'ball', 'prism', 'mesh'] },
  solids: { ...SOLID_SHAPES, contacts: findContacts, newOrder: () => new PaintOrder() },
};
