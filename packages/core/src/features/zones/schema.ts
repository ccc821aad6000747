/** Zones, and what is heard and asked of them, as they stand in files and sentences. */
import { list, maybe, type Of, oneOf, record, ref } from '../../grammar/index.ts';
import { common, extent, shaped } from '../../model/collider-kind.ts';
import { events as group } from '../../model/event-kind.ts';
import { comparesOnce, counts, fact } from '../../model/fact-kind.ts';

/** A place of its own shape. */
export const zoneSchema = shaped('zone');
export type Zone = Of<typeof zoneSchema>;
/** A distance from its object's pivot. */
export const nearSchema = record({
  ...common,
  role: oneOf(['near']),
  /** Px at which a thing becomes near, and beyond which it no longer is: at least `enter`. */
  enter: extent,
  leave: extent,
});
export type Near = Of<typeof nearSchema>;

/** What its events can be told by: the thing that is noticed, and the tags one of which it has. */
export const on = {
  collider: maybe(ref('colliders')),
  other: maybe(ref('objects')),
  tags: maybe(list(ref('tags'), { min: 1, max: 64, needed: true })),
};
const by = ['collider', 'object', 'other', 'tags'] as const;

const ofZones = group(
  'Zones',
  {
    'zone.enter': ['something comes into a zone', '{thing} comes into {it}', ...by],
    'zone.leave': ['something leaves a zone', '{thing} leaves {it}', ...by],
  },
  {
    role: 'zone',
    told: { 'zone.enter': '{other} came into {collider}', 'zone.leave': '{other} left {collider}' },
  },
);
const ofNearness = group(
  'Zones',
  {
    'near.enter': ['something comes near', '{thing} comes near {it}', ...by],
    'near.leave': ['something is near no more', '{thing} is no longer near {it}', ...by],
  },
  {
    role: 'near',
    told: {
      'near.enter': '{other} came near {collider}',
      'near.leave': '{other} is no longer near {collider}',
    },
  },
);
export const events = { ...ofZones, ...ofNearness };

/** What a zone has noticed: a certain thing, or things with one of these tags; without them whatever it has. */
const things = { other: on.other, tags: on.tags };

export const facts = {
  inside: fact(
    'In the zone',
    '{thing} {not}in {collider}',
    { collider: ref('colliders'), ...things },
    { role: 'zone', is: 'in it' },
  ),
  /** How many things are in a zone, or near. */
  count: fact(
    'How many are in the zone',
    '{how} {thing} in {collider}',
    { collider: ref('colliders'), tags: things.tags, ...counts },
    { role: 'zone', rule: comparesOnce, start: { atLeast: 1 } },
  ),
  near: fact(
    'Near',
    '{thing} {not}near {collider}',
    { collider: ref('colliders'), ...things },
    { role: 'near', is: 'near' },
  ),
} as const;
