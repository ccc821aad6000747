/** Looks: several drawings of one object. A look holds what differs; here it is put together with its object. */
import type { Look, SceneObject } from './scene-object.ts';

const SHAPE_FIELDS = [
  'size',
  'radius',
  'points',
  'sides',
  'star',
  'subpaths',
  'rule',
  'depth',
  'text',
  'font',
  'weight',
  'align',
  'spacing',
  'decoration',
  'italic',
  'asset',
  'cut',
  'pixel',
  'pictures',
] as const;
const cache = new WeakMap<Look, { of: SceneObject; object: SceneObject }>();

/** The object as it is drawn with this look. The same records give the same object again. */
export function withLook(o: SceneObject, look: Look): SceneObject {
  const kept = cache.get(look);
  if (kept?.of === o) return kept.object;
  const object = withWholeLook(o, look) as SceneObject;
  cache.set(look, { of: o, object });
  return object;
}

/** The object with what the look says in place of its own, sound or not. */
export function withWholeLook(o: SceneObject, look: Look): Record<string, unknown> {
  const { id: _, name: __, fill, ...shape } = look;
  const out: Record<string, unknown> = { ...o };
  // A kind, be it the same, brings its whole shape; nothing of the old one is left.
  if (shape.kind !== undefined) for (const f of SHAPE_FIELDS) delete out[f];
  // A polygon is given by corners or by sides, so one kind of giving takes the place of the other.
  if (shape.points) for (const f of ['size', 'sides', 'star']) delete out[f];
  if (shape.sides) delete out['points'];
  Object.assign(out, shape);
  if (fill !== undefined) out['base'] = { ...o.base, fill };
  return out;
}

/** The drawing of an object as another one's look may hold it; a picture's is told by its fields alone. */
export function asLook(o: SceneObject, id: string, name: string): Look {
  const own = o as SceneObject & Record<string, unknown>;
  const look: Record<string, unknown> = { id, name, fill: o.base.fill, stroke: o.stroke ?? null };
  if (o.kind !== 'image') look['kind'] = o.kind;
  for (const f of [...SHAPE_FIELDS, 'fillOpacity']) if (own[f] !== undefined) look[f] = own[f];
  return look as Look;
}

/** The object drawn as another one is, its place and all else its own. */
export function drawnAs(o: SceneObject, other: SceneObject): SceneObject {
  const { fillOpacity: _, ...plain } = o;
  const { id: __, name: ___, ...look } = asLook(other, '', '');
  const whole = { ...look, id: o.id, name: o.name, kind: other.kind } as unknown as Look;
  const { stroke, ...drawn } = withWholeLook(plain as SceneObject, whole);
  return { ...drawn, ...(stroke ? { stroke } : {}) } as unknown as SceneObject;
}

/** The look that the object has in its base, or undefined for its own drawing. */
export function baseLook(o: SceneObject): Look | undefined {
  return o.base.look ? o.looks?.find((l) => l.id === o.base.look) : undefined;
}

/** The object as its base shows it. */
export function drawn(o: SceneObject): SceneObject {
  const look = baseLook(o);
  return look ? withLook(o, look) : o;
}

/**
 * Changes the drawing that the object's base shows: its own, or that of its look, which then holds whatever differs.
 * Place, turn and all else that is not the drawing change on the object itself.
 */
export function editDrawing(o: SceneObject, change: (o: SceneObject) => SceneObject): SceneObject {
  const look = baseLook(o);
  if (!look) return change(o);
  const next = change(withLook(o, look)) as SceneObject & Record<string, unknown>;
  const own = o as SceneObject & Record<string, unknown>;
  const made: Record<string, unknown> = { id: look.id, name: look.name };
  // What is no longer there (a star made plain) cannot be told by what differs.
  const whole =
    next.kind !== o.kind || SHAPE_FIELDS.some((f) => own[f] !== undefined && next[f] === undefined);
  if (whole) made['kind'] = next.kind;
  for (const f of [...SHAPE_FIELDS, 'stroke', 'fillOpacity'])
    if (next[f] !== undefined && (whole || JSON.stringify(next[f]) !== JSON.stringify(own[f])))
      made[f] = next[f];
  if (JSON.stringify(next.base.fill) !== JSON.stringify(o.base.fill)) made['fill'] = next.base.fill;
  const looks = o.looks?.map((l) => (l.id === look.id ? (made as Look) : l)) ?? [];
  return { ...o, base: { ...next.base, fill: o.base.fill }, looks };
}
