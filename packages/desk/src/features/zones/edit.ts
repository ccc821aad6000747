/** Zones: new ones that fit their object, and what is changed about them. */
import {
  type Blocker,
  type Collider,
  isSolid,
  type Near,
  type On,
  type SceneObject,
  subtreeOf,
  uniqueName,
  type Vec3,
  type Zone,
} from '@apple-tick/core/model';
import type { Editor, PieceStore } from '../../session/model-help.ts';
import type { Session } from '../../session/session.ts';
import { chosenWords } from '../../session/things/arrange.ts';
import { type Box, drawnBox } from '../../session/things/box.ts';

/** What a zone can be, as it is picked; `near` goes by a distance instead of a shape. */
export type ZoneKind = Zone['shape'] | 'near';

/** What has a place of its own: a zone, or a blocker. */
export type Shaped = Zone | Blocker;

export function zoneKind(c: Collider): ZoneKind {
  return c.role === 'near' ? 'near' : c.shape;
}

/** The zones of an object, in order. */
export function zonesOf(store: PieceStore, object: string): Collider[] {
  return (store.get('objects', object)?.colliders ?? []).flatMap((id) => store.get('colliders', id) ?? []);
}

/** The object that a zone belongs to. */
export function zoneOwner(store: PieceStore, zone: string): SceneObject | undefined {
  return store.all('objects').find((o) => o.colliders?.includes(zone));
}

interface Bounds extends Box {
  /** Whether something in it has a depth of its own. */
  readonly solid: boolean;
}

/** The box round an object and all below it, px in its own space. */
function boundsIn(store: PieceStore, id: string): Bounds {
  const box = drawnBox(store, id, id);
  if (!box) return { least: [-50, -50, -50], most: [50, 50, 50], solid: false };
  const parts = [...subtreeOf(store, id)].map((part) => store.get('objects', part));
  return { ...box, solid: parts.some((o) => o && isSolid(o) && !o.guide) };
}

const tenth = (n: number) => Math.round(n * 10) / 10;

/** What a zone of this kind has that fits its object: round about it, endless in depth where it is flat. */
export function fitted(
  store: PieceStore,
  object: string,
  kind: ZoneKind,
  role: Shaped['role'] = 'zone',
): object {
  const { least, most, solid } = boundsIn(store, object);
  const size = most.map((n, k) => Math.max(1, tenth(n - (least[k] as number)))) as Vec3;
  const at = most.map((n, k) => tenth((n + (least[k] as number)) / 2)) as Vec3;
  const reach = tenth(Math.max(...size) / 2);
  if (kind === 'near') return { role: 'near', enter: tenth(reach + 60), leave: tenth(reach + 90) };
  const zone = { role, shape: kind, at, through: !solid };
  if (kind === 'box') return { ...zone, size };
  if (kind === 'ball') return { ...zone, radius: reach };
  // Its corners are there to be pulled.
  const [w, h] = [size[0] / 2, size[1] / 2];
  const points = [
    [-w, -h],
    [w, -h],
    [w, h],
    [-w, h],
  ];
  return { ...zone, points, depth: size[2] };
}

/**
 * A zone that fits an object; the one tag of the piece, where there is no other, is what it notices. A blocker stops
 * everything at first.
 */
export function newZone(
  store: PieceStore,
  id: string,
  object: string,
  kind: ZoneKind,
  role: Shaped['role'] = 'zone',
): Collider {
  const name = store.get('objects', object)?.name ?? '';
  const taken = new Set(store.all('colliders').map((c) => c.name));
  const tags = store.ids('tags');
  return {
    id,
    name: uniqueName(kind === 'near' ? name : `${name} ${role}`, taken),
    tags: tags.length === 1 && role === 'zone' ? [...tags] : [],
    visitor: true,
    on: true,
    ...fitted(store, object, kind, role),
  } as Collider;
}

/** Puts a zone on its object. */
export function giveZone(e: Editor, object: string, zone: Collider): void {
  e.add('colliders', zone);
  e.update('objects', object, (x) => ({ ...x, colliders: [...(x.colliders ?? []), zone.id] }));
}

/** Gives an object a zone that fits it. Returns its id. */
function addZone(s: Session, object: string, kind: ZoneKind, role: Shaped['role'] = 'zone'): string {
  const zone = newZone(s.store, s.newId('colliders'), object, kind, role);
  const name = s.store.get('objects', object)?.name ?? '';
  s.edit(kind === 'near' ? `${name} notices what comes near` : `Gave ${name} a ${role}`, (e) =>
    giveZone(e, object, zone),
  );
  return zone.id;
}

/** What notices who comes near an object; made where there is none, and with it a tag where nothing could come near. */
export function nearOf(s: Session, object: string): string {
  const known = zonesOf(s.store, object).find((c) => c.role === 'near');
  if (known) return known.id;
  if (!s.store.head.visitor && s.store.ids('tags').length === 0)
    s.edit('Made a tag', (e) => e.add('tags', { id: s.newId('tags'), name: 'noticed' }));
  return addZone(s, object, 'near');
}

/** Gives each of the objects a zone of its own, as one step. */
export function addZones(
  s: Session,
  objects: readonly string[],
  kind: ZoneKind,
  role: Shaped['role'] = 'zone',
): void {
  const words = chosenWords(s, objects);
  const name =
    kind !== 'near'
      ? `Gave ${words} ${objects.length === 1 ? `a ${role}` : `${role}s`}`
      : `${words} ${objects.length === 1 ? 'notices' : 'notice'} what comes near`;
  s.step(name, () => {
    for (const id of objects) addZone(s, id, kind, role);
  });
}

/** A zone for a kind of event of this object: its own, else any, else one that is made. Within a step. */
export function firstZone(s: Session, object: string, role: Collider['role']): string {
  const own = zonesOf(s.store, object).find((c) => c.role === role);
  const any = own ?? s.store.all('colliders').find((c) => c.role === role);
  return (
    any?.id ?? addZone(s, object, role === 'near' ? 'near' : 'box', role === 'blocker' ? 'blocker' : 'zone')
  );
}

export function changeZone(s: Session, zone: Collider, to: object, name = `Changed ${zone.name}`): void {
  s.edit(name, (e) => e.update('colliders', zone.id, (c) => ({ ...c, ...to }) as Collider));
}

/** The zone in another shape, fitted anew. */
export function reshapeZone(s: Session, object: string, zone: Collider, kind: ZoneKind): void {
  const { id, name, tags, visitor, on } = zone;
  const role = zone.role === 'blocker' ? 'blocker' : 'zone';
  const next = { id, name, tags, visitor, on, ...fitted(s.store, object, kind, role) } as Collider;
  s.edit(`Changed the shape of ${name}`, (e) => e.update('colliders', id, () => next));
}

/** Whether an event is about a thing besides: what a zone notices, what touches a blocker, what is dropped into a zone. */
export function hasThing({ event, collider }: On): boolean {
  return /^(zone|near|touch)\./.test(event) || (event === 'drag.drop' && collider !== undefined);
}

/** The things that a zone may notice, in the order of the piece. */
export function noticeable(store: PieceStore, zone: string | undefined): SceneObject[] {
  const of = zone === undefined ? undefined : store.get('colliders', zone);
  const visitor = (of?.visitor ?? true) ? store.head.visitor?.object : undefined;
  // A blocker is touched by what it stops: without tags whatever is dragged.
  if (of?.role === 'blocker' && of.tags.length === 0)
    return store.all('objects').filter((o) => o.id === visitor || o.drag);
  return store
    .all('objects')
    .filter((o) => o.id === visitor || o.tags.some((t) => of?.tags.includes(t) ?? true));
}

/** Points of a zone's outline in its object's space, as rings to be drawn; one that is endless is drawn flat. */
export function zoneRings(c: Shaped): Vec3[][] {
  const [x, y, z] = c.at;
  const round = (f: (cos: number, sin: number) => Vec3): Vec3[] =>
    Array.from({ length: 48 }, (_, i) => f(Math.cos((i * Math.PI) / 24), Math.sin((i * Math.PI) / 24)));
  if (c.shape === 'ball') {
    const r = Math.max(1, c.radius ?? 0);
    const flat = round((a, b) => [x + r * a, y + r * b, z]);
    if (c.through) return [flat];
    return [flat, round((a, b) => [x + r * a, y, z + r * b]), round((a, b) => [x, y + r * a, z + r * b])];
  }
  const [w, h, d] = c.shape === 'box' ? (c.size as Vec3) : [0, 0, c.depth ?? 0];
  const plan =
    c.shape === 'box'
      ? [
          [-w / 2, -h / 2],
          [w / 2, -h / 2],
          [w / 2, h / 2],
          [-w / 2, h / 2],
        ]
      : (c.points ?? []);
  const ring = (deep: number) => plan.map(([a, b]): Vec3 => [x + (a ?? 0), y + (b ?? 0), z + deep]);
  if (c.through || d <= 1) return [ring(0)];
  const [front, back] = [ring(d / 2), ring(-d / 2)];
  return [front, back, ...front.map((p, i) => [p, back[i] as Vec3])];
}

/** The distances at which a thing becomes near, and at which it no longer is. */
export function nearReach({ enter, leave }: Near): { readonly enter: number; readonly leave: number } {
  return { enter, leave: Math.max(enter, leave) };
}
