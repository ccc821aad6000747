/** What recipes are made with: ordinary records, by the words that recipes use. */
import { flatten, type IdKind } from '@apple-tick/core/base';
import {
  baseLook,
  type Clip,
  type Drag,
  defaultBase,
  defaultEasing,
  type Easing,
  type Editor,
  type Follow,
  isSolid,
  type Lane,
  type Look,
  type PieceStore,
  type Reaction,
  type SceneObject,
  type Signal,
  type State,
  type Stroke,
  sizeOf,
  subpathsOf,
  subtreeOf,
  type Track,
  type Transition,
  uniqueName,
  type Vec3,
} from '@apple-tick/core/model';
import { type EffectKind, madeEffect } from '../../features/effects/edit.ts';
import { giveZone, newZone, type ZoneKind } from '../../features/zones/edit.ts';
import { withPivot } from '../things/pivot.ts';

type Value = number | string;

/** How far a hinge opens, degrees. */
const OPENS = 75;
/** The line that is given to what has none and is to be drawn. */
const NEW_LINE: Stroke = { color: '#20302a', width: 3, cap: 'round', join: 'round' };

/** Whether an object, or something below it, has a line or can have one. */
export const hasLines = (store: PieceStore, { id }: SceneObject): boolean =>
  [...subtreeOf(store, id)].some((x) =>
    ['rect', 'ellipse', 'path', 'polygon'].includes(store.get('objects', x)?.kind ?? ''),
  );

/** Px along the longest outline of what is flat; 0 for what has no line. */
function lineLength(o: SceneObject): number {
  if (o.kind === 'rect') return 2 * (o.size[0] + o.size[1]);
  if (o.kind === 'ellipse') {
    // Ramanujan's first approximation of the perimeter.
    const [a, b] = [o.size[0] / 2, o.size[1] / 2];
    return Math.PI * (3 * (a + b) - Math.sqrt((3 * a + b) * (a + 3 * b)));
  }
  if (o.kind !== 'path' && o.kind !== 'polygon') return 0;
  const { points, ends, closed } = flatten(subpathsOf(o) ?? []);
  let [longest, start] = [0, 0];
  ends.forEach((end, n) => {
    let length = 0;
    for (let i = start; i < (closed[n] ? end : end - 1); i++) {
      const j = i + 1 < end ? i + 1 : start;
      length += Math.hypot(
        (points[2 * j] as number) - (points[2 * i] as number),
        (points[2 * j + 1] as number) - (points[2 * i + 1] as number),
      );
    }
    longest = Math.max(longest, length);
    start = end;
  });
  return longest;
}

/** The colour of what is warm. */
export const WARM = '#e8973f';

/** What a recipe is made with: an editor of the store, and the object that it is put on. */
export class Maker {
  readonly object: SceneObject;
  private readonly e: Editor;
  private readonly newId: (kind: IdKind) => string;

  constructor(e: Editor, newId: (kind: IdKind) => string, object: SceneObject) {
    this.e = e;
    this.newId = newId;
    this.object = object;
  }

  /** A clip of its own; each property goes through its values, evenly over the whole time. */
  clip(
    name: string,
    duration: number,
    keys: readonly (readonly [property: string, ...values: Value[]])[],
    more: Partial<Pick<Clip, 'loop'>> & {
      readonly easing?: Easing;
      /** What moves, else the object itself; or of each of the keys. */
      readonly part?: string | readonly string[];
    } = {},
  ): string {
    const { id: root } = this.object;
    const taken = this.e.store.all('clips').flatMap((c) => (c.root === root ? [c.name] : []));
    const { easing = defaultEasing(), loop = 'once', part = root } = more;
    const key = (t: number, value: Value) => ({ t, value, easing });
    const clip: Clip = {
      ...{
        id: this.newId('clips'),
        name: uniqueName(name, new Set(taken)),
        root,
        duration,
        loop,
        cues: [],
      },
      tracks: keys.map(
        ([property, ...values], k): Track => ({
          ...{ object: typeof part === 'string' ? part : (part[k] ?? root), property, mode: 'absolute' },
          keys:
            duration === 0
              ? [key(0, values.at(-1) as Value)]
              : values.map((v, k) => key((k * duration) / (values.length - 1), v)),
        }),
      ),
    };
    this.e.add('clips', clip);
    return clip.id;
  }

  switchSignal(name: string): string {
    const taken = new Set(this.e.store.all('signals').map((x) => x.name));
    const id = this.newId('signals');
    const signal: Signal = {
      ...{ id, name: uniqueName(name, taken), type: 'switch', initial: false, shared: false, note: '' },
    };
    this.e.add('signals', signal);
    return id;
  }

  get frame(): { readonly width: number; readonly height: number } {
    return this.e.store.head.frame;
  }

  /** What the object does; for so many seconds after it once did it does not again. */
  reaction(on: Reaction['on'], actions: Reaction['actions'], cooldown = 0): void {
    this.e.add('reactions', {
      ...{ id: this.newId('reactions'), object: this.object.id, on, when: [] },
      ...{ after: 0, cooldown, limit: 'always', actions },
    });
  }

  effect(kind: EffectKind, wish: string): string {
    const taken = new Set(this.e.store.all('effects').map((x) => x.name));
    const id = this.newId('effects');
    this.e.add('effects', madeEffect(kind, id, uniqueName(wish, taken)));
    return id;
  }

  /** A template of one round thing in the colour of the object, which does this from its beginning on. */
  template(wish: string, size: number, max: number, does: (object: string) => Reaction['actions']): string {
    const { store } = this.e;
    const id = this.newId('templates');
    const root = this.newId('objects');
    const name = uniqueName(wish, new Set(store.all('templates').map((t) => t.name)));
    const { fill } = this.object.base;
    const base = { ...defaultBase(), fill: this.object.kind === 'group' ? WARM : fill };
    this.e.add('templates', { id, name, max });
    const drop = { id: root, name, parent: null, order: 'a0', tags: [], hint: '', base };
    this.e.add('objects', { ...drop, kind: 'ellipse', size: [size, size] }, undefined, id);
    const start: Reaction = {
      ...{ id: this.newId('reactions'), object: root, on: { event: 'piece.start' }, when: [] },
      ...{ after: 0, cooldown: 0, limit: 'always', actions: does(root) },
    };
    this.e.add('reactions', start, undefined, id);
    return id;
  }

  answerId(): string {
    return this.newId('answers');
  }

  /** A click toggles the signal. */
  clickToggles(signal: string): void {
    this.reaction({ event: 'pointer.click' }, [{ do: 'toggle', signal }]);
  }

  /**
   * How it turns on a hinge: about the edge at which its pivot is, a solid toward whoever looks at it. A pivot in the
   * middle becomes one at the upper edge of a solid, at the left one of what is flat.
   */
  hinge(): {
    readonly property: 'rotation.x' | 'rotation.y' | 'rotation.z';
    readonly now: number;
    readonly by: number;
  } {
    const solid = isSolid(this.object);
    const [w, h] = sizeOf(this.object);
    if (this.object.base.pivot.every((n) => n === 0)) {
      const edge: Vec3 = solid ? [0, h / 2, 0] : [-w / 2, 0, 0];
      this.e.update('objects', this.object.id, (o) => ({ ...o, base: withPivot(o.base, edge) }));
    }
    const { pivot, rotation } = (this.e.store.get('objects', this.object.id) as SceneObject).base;
    const upright = Math.abs(pivot[0]) / Math.max(w, 1) > Math.abs(pivot[1]) / Math.max(h, 1);
    const turn = (axis: 0 | 1 | 2, sign: number) => ({
      ...{ property: (['rotation.x', 'rotation.y', 'rotation.z'] as const)[axis], now: rotation[axis] },
      by: sign * OPENS,
    });
    if (!solid) return turn(2, upright && pivot[0] > 0 ? 1 : -1);
    return upright ? turn(1, pivot[0] > 0 ? 1 : -1) : turn(0, pivot[1] < 0 ? 1 : -1);
  }

  /** Where it waits beyond the side of the frame to which it is nearer, along x. */
  outside(): number {
    const { base, parent } = this.object;
    const [x] = base.position;
    const [w] = sizeOf(this.object);
    const { width } = this.frame;
    // What lies in something else is as far off as the whole frame is wide.
    const far = parent === null ? width / 2 + w - Math.abs(x) : width + w;
    return x + (x > 0 ? far : -far);
  }

  follow(property: string, source: Follow['source'], how: Pick<Follow, 'from' | 'to' | 'smooth'>): void {
    const target = { object: this.object.id, property };
    this.e.add('follows', { id: this.newId('follows'), target, source, clamp: true, ...how });
  }

  /** Who comes near: the visitor, where there is another than the object itself, else the pointer. */
  comer(): 'visitor' | 'pointer' {
    const { visitor } = this.e.store.head;
    return visitor && visitor.object !== this.object.id ? 'visitor' : 'pointer';
  }

  /** The place in a clip that a lane plays goes after a source, over `to` seconds. */
  scrub(
    lane: string,
    clip: string,
    source: Follow['source'],
    how: Pick<Follow, 'from' | 'to' | 'smooth'>,
  ): void {
    this.e.add('follows', { id: this.newId('follows'), target: { lane, clip }, source, clamp: true, ...how });
  }

  dragged(drag: Drag): void {
    this.e.update('objects', this.object.id, (o) => ({ ...o, drag }));
  }

  number(name: string, initial: number, min: number, max: number): string {
    const taken = new Set(this.e.store.all('signals').map((x) => x.name));
    const id = this.newId('signals');
    const range = { initial, min, max };
    const signal: Signal = {
      ...{ id, name: uniqueName(name, taken), type: 'number', ...range, shared: false, note: '' },
    };
    this.e.add('signals', signal);
    return id;
  }

  /** What lies directly in the object, from the back to the front. */
  get parts(): readonly SceneObject[] {
    const { id } = this.object;
    return this.e.store
      .all('objects')
      .filter((o) => o.parent === id)
      .sort((a, b) => (a.order < b.order ? -1 : 1));
  }

  /** The looks it has beside its own; one in another colour is made where it has none. */
  looks(): readonly Look[] {
    if (this.object.looks?.length) return this.object.looks;
    const own = baseLook(this.object);
    const look: Look = { ...own, id: this.newId('looks'), name: 'other look', fill: WARM };
    this.e.update('objects', this.object.id, (o) => ({ ...o, looks: [look] }));
    return [look];
  }

  /** Nothing goes through it. */
  blocks(): void {
    const { store } = this.e;
    giveZone(
      this.e,
      this.object.id,
      newZone(store, this.newId('colliders'), this.object.id, 'box', 'blocker'),
    );
  }

  /**
   * Gives the lines of the object and of all below it one dash as long as they are, which begins beyond their end: they are
   * not seen. Where nothing has a line, what is flat gets one. Returns what has one now, and where its dash begins, px.
   */
  hiddenLines(): readonly (readonly [part: string, start: number])[] {
    const { store } = this.e;
    const flat = [...subtreeOf(store, this.object.id)].flatMap((id) => {
      const o = store.get('objects', id);
      return o && lineLength(o) > 0 ? [o] : [];
    });
    const lined = flat.filter((o) => o.stroke);
    return (lined.length > 0 ? lined : flat).map((o) => {
      const stroke = o.stroke ?? NEW_LINE;
      const length = Math.ceil(lineLength(o));
      // The ends of the line may reach half its width beyond it.
      const dashed = { ...stroke, dashes: [length, length + 2 * stroke.width], dashStart: 0 };
      this.e.update('objects', o.id, (x) => ({ ...x, stroke: dashed }));
      return [o.id, length + stroke.width];
    });
  }

  /** It stands on its lower edge, and grows from there. */
  standsOnItsFoot(): void {
    const { base } = this.object;
    const foot: Vec3 = [base.pivot[0], -sizeOf(this.object)[1] / 2, base.pivot[2]];
    this.e.update('objects', this.object.id, (o) => ({ ...o, base: withPivot(o.base, foot) }));
  }

  /** A zone that fits the object; what it notices has the piece's tag, which is made where there is none. */
  zone(kind: ZoneKind): string {
    const zone = newZone(this.e.store, this.newId('colliders'), this.object.id, kind);
    let [tag] = this.e.store.ids('tags');
    if (tag === undefined) {
      tag = this.newId('tags');
      this.e.add('tags', { id: tag, name: 'noticed' });
    }
    giveZone(this.e, this.object.id, { ...zone, tags: [tag] });
    return zone.id;
  }

  hint(words: string): void {
    this.e.update('objects', this.object.id, (o) =>
      o.hint === '' ? { ...o, hint: words.slice(0, 200) } : o,
    );
  }

  /** A lane of the object's machine, which is made where there is none. Returns its id. */
  lane(
    name: string,
    states: readonly (readonly [name: string, play: State['play'], more?: Partial<State>])[],
    ways: readonly (readonly [from: string, to: string, why: Partial<Transition>])[],
  ): string {
    const machine = this.e.store.all('machines').find((m) => m.object === this.object.id);
    const ids = new Map(states.map(([n]) => [n, this.newId('states')]));
    const idOf = (n: string) => (n === '*' ? '*' : (ids.get(n) as string));
    const lane: Lane = {
      id: this.newId('lanes'),
      name: uniqueName(name, new Set(machine?.lanes.map((l) => l.name))),
      initial: idOf(states[0]?.[0] as string),
      ...{ unkeyed: 'base', amount: 1, blend: 'replace' },
      states: states.map(([n, play, more]) => ({ id: idOf(n), name: n, play, ...more })),
      transitions: ways.map(([from, to, why]) => ({
        ...{
          id: this.newId('transitions'),
          from: idOf(from),
          to: idOf(to),
          on: null,
          when: [],
          notBefore: null,
        },
        ...{
          crossfade: { seconds: 0 },
          odds: null,
          enabled: true,
          set: true,
          reenter: false,
          mayRepeat: true,
        },
        ...why,
      })),
    };
    if (machine) this.e.update('machines', machine.id, (m) => ({ ...m, lanes: [...m.lanes, lane] }));
    else {
      const { id: object, name: own } = this.object;
      this.e.add('machines', { id: this.newId('machines'), name: own, object, lanes: [lane] });
    }
    return lane.id;
  }
}
