/**
 * Zones and near: what comes in and leaves, swept at exact instants; the facts that ask; what is dropped into one. It is long
 * since shapes, noticing, candidates and what goes by them are told with the same few pieces.
 */
import { describe, expect, it } from 'vitest';
import { invert, transformPoint } from '../src/base/index.ts';
import { checkIntegrity, readPieceJson } from '../src/check/index.ts';
import {
  type Action,
  type Collider,
  emptyPiece,
  excerpt,
  History,
  insertExcerpt,
  type Key,
  type Near,
  type Piece,
  PieceStore,
  type Reaction,
  removeWithReferences,
  type SceneObject,
  type Zone,
} from '../src/model/index.ts';
import {
  compile,
  editRun,
  explain,
  type Input,
  loadRun,
  propertyValue,
  Run,
  saveRun,
  type TraceRecord,
} from '../src/runtime/index.ts';
import { isInZone, nearStretch, Stretches, stretchesIn, zoneShape } from '../src/world/zone-shape.ts';
import { seeded } from '../testing/random.ts';
import { objectOf } from './box-piece.ts';

const common = { name: 'Mouth', tags: ['ta_fruit'], visitor: true, on: true };
const box = (more: Partial<Zone> = {}): Zone => ({
  ...common,
  ...{ id: 'co_a', role: 'zone', shape: 'box', at: [0, 0, 0], size: [100, 100, 100], through: false },
  ...more,
});
const near = (enter: number, leave: number): Near => ({ ...common, id: 'co_a', role: 'near', enter, leave });

/** A basket with a zone, and an apple that goes along x through these keys in a loop or once. */
function piece(
  zone: Collider,
  keys: readonly Key[],
  loop: 'once' | 'loop' = 'once',
  more: Partial<SceneObject> = {},
): Piece {
  const p = emptyPiece('p', 'Zones');
  p.tags['ta_fruit'] = { id: 'ta_fruit', name: 'fruit' };
  p.colliders[zone.id] = zone;
  p.objects['ob_basket'] = objectOf('ob_basket', { kind: 'group' }, {}, { colliders: [zone.id] });
  p.objects['ob_apple'] = objectOf(
    'ob_apple',
    { kind: 'ellipse', size: [20, 20] },
    { position: [Number(keys[0]?.value ?? 0), 0, 0] },
    { tags: ['ta_fruit'], ...more },
  );
  p.clips['cl_go'] = {
    ...{ id: 'cl_go', name: 'go', root: 'ob_apple', duration: keys.at(-1)?.t ?? 0, loop, cues: [] },
    tracks: [{ object: 'ob_apple', property: 'position.x', mode: 'absolute', keys: [...keys] }],
  };
  p.machines['ma_a'] = {
    ...{ id: 'ma_a', name: 'A', object: 'ob_apple' },
    lanes: [
      {
        ...{
          id: 'la_a',
          name: 'L',
          initial: 'st_go',
          unkeyed: 'base',
          amount: 1,
          blend: 'replace',
          transitions: [],
        },
        states: [{ id: 'st_go', name: 'go', play: { clip: 'cl_go', speed: 1, from: 'start' } }],
      },
    ],
  };
  return p;
}
const key = (t: number, value: number, easing: Key['easing'] = 'linear'): Key => ({ t, value, easing });

const meets = (r: TraceRecord) => /^(zone|near)\./.test(r.event ?? '');
/** Events with their exact instants, of so many ticks. */
function met(run: Run, ticks: number, inputs: (tick: number) => Input[] = () => []): [string, number][] {
  const out: [string, number][] = [];
  for (let i = 0; i < ticks; i++) {
    run.step(inputs(run.tick + 1));
    for (const r of run.takeTrace().filter(meets)) out.push([r.event as string, r.at as number]);
  }
  return out;
}
function started(p: Piece): Run {
  expect(checkIntegrity(p)).toEqual([]);
  return new Run(compile(p));
}
const put = (object: string, property: string, value: number | boolean): Input => ({
  at: 0,
  put: { object, property, value },
});

describe('the stretches of a way in a shape', () => {
  it('are as many points along it say, for random boxes, balls and outlines', () => {
    const random = seeded(11);
    const within = (n: number) => (random() * 2 - 1) * n;
    for (let n = 0; n < 600; n++) {
      const through = n % 4 === 0;
      const at: [number, number, number] = [within(20), within(20), within(20)];
      const points = Array.from({ length: 3 + (n % 5) }, (): [number, number] => [within(60), within(60)]);
      const shapes: Partial<Zone>[] = [
        { shape: 'box', size: [random() * 80, random() * 80, random() * 80] },
        { shape: 'ball', radius: random() * 60 },
        { shape: 'outline', points, depth: random() * 80 },
      ];
      const { size: _, ...bare } = box({ at, through });
      const shape = zoneShape({ ...bare, ...shapes[n % 3] } as Zone);
      if (shape.is === 'near') throw new Error();
      const [from, to] = [0, 1].map(() => Float64Array.from([within(100), within(100), within(100)])) as [
        Float64Array,
        Float64Array,
      ];
      const found = new Stretches();
      stretchesIn(shape, from, to, found);
      for (let k = 0; k <= 400; k++) {
        const s = k / 400;
        const p = from.map((x, r) => x + ((to[r] as number) - x) * s);
        let near = false;
        let inside = false;
        for (let i = 0; i < found.count; i++) {
          const [a, b] = [found.at[2 * i] as number, found.at[2 * i + 1] as number];
          if (s >= a && s <= b) inside = true;
          if (Math.abs(s - a) < 1e-6 || Math.abs(s - b) < 1e-6) near = true;
        }
        if (!near) expect(isInZone(shape, p), `case ${n} at ${s}`).toBe(inside);
      }
    }
  });
});

describe('noticing', () => {
  it('is swept at exact dates, also through a zone thinner than a tick is long', () => {
    // 1000 px a second from −100: it crosses −5 and 5 within one tick, at 0.095 and 0.105 s.
    const run = started(piece(box({ size: [10, 100, 100] }), [key(0, -100), key(1, 900)]));
    const events = met(run, 30);
    expect(events.map(([e]) => e)).toEqual(['zone.enter', 'zone.leave']);
    expect(events[0]?.[1]).toBeCloseTo(0.095, 9);
    expect(events[1]?.[1]).toBeCloseTo(0.105, 9);
  });

  it('comes in the tick after the pose that shows it, with its collider, owner and thing', () => {
    const run = started(piece(box(), [key(0, -110), key(1, 890)]));
    const all: TraceRecord[] = [];
    for (let i = 0; i < 12; i++) {
      run.step([]);
      all.push(...run.takeTrace().filter(meets));
    }
    // Inside from 0.06 s: the pose of tick 4 is the first that shows it.
    const [first] = all;
    expect(first).toMatchObject({ collider: 'co_a', object: 'ob_basket', other: 'ob_apple', kind: 'event' });
    expect(first?.at).toBeCloseTo(0.06, 9);
    expect(first?.t).toBe((first?.tick as number) / 60);
    expect(first?.tick).toBe(5);
  });

  it('a thing inside at the start enters at tick 0', () => {
    const run = started(piece(box(), [key(0, 0), key(1, 0)]));
    run.step([]);
    expect(run.takeTrace().filter(meets)).toMatchObject([{ event: 'zone.enter', at: 0, tick: 0 }]);
    expect(met(run, 60)).toEqual([]);
  });

  it('what is hidden, or lies below what is hidden, leaves; shown again it enters', () => {
    for (const hidden of ['ob_apple', 'ob_basket', 'ob_over']) {
      const p = piece(box(), [key(0, 0), key(1, 0)], 'once', { parent: 'ob_over' });
      p.objects['ob_over'] = objectOf('ob_over', { kind: 'group' });
      const run = started(p);
      run.step([]);
      run.takeTrace();
      const events = met(run, 12, (tick) =>
        tick === 3 ? [put(hidden, 'shown', false)] : tick === 7 ? [put(hidden, 'shown', true)] : [],
      );
      expect(events, hidden).toEqual([
        ['zone.leave', 3 / 60],
        ['zone.enter', 7 / 60],
      ]);
    }
  });

  it('what jumps is only looked at where it arrives: a put, a cut, a hold key, the turn of a loop', () => {
    // Across the zone at one instant, from one side to the other: nothing is met.
    const over = started(piece(box(), [key(0, -200), key(1, -200)]));
    expect(met(over, 20, (t) => (t === 5 ? [put('ob_apple', 'position.x', 200)] : []))).toEqual([]);
    const into = started(piece(box(), [key(0, -200), key(1, -200)]));
    expect(met(into, 20, (t) => (t === 5 ? [put('ob_apple', 'position.x', 0)] : []))).toEqual([
      ['zone.enter', 5 / 60],
    ]);
    const holds = started(piece(box(), [key(0, -200, 'hold'), key(0.5, 200), key(1, 200)]));
    expect(met(holds, 60)).toEqual([]);
    const steps = started(
      piece(box(), [key(0, -200, { steps: 2, position: 'jump-end' }), key(0.5, 200), key(1, 200)]),
    );
    // In two steps it stands at −200, then 0, then 200.
    expect(met(steps, 60).map(([e]) => e)).toEqual(['zone.enter', 'zone.leave']);
    // From 60 to 200 beyond it, and back to 60 at once: it never comes in.
    const p = piece(box(), [key(0, -200), key(0.4, -60)], 'loop');
    const far = { ...(p.clips['cl_go'] as Piece['clips'][string]) };
    far.tracks = [{ ...(far.tracks[0] as (typeof far.tracks)[number]), keys: [key(0, 60), key(0.4, 200)] }];
    p.clips['cl_go'] = { ...far, duration: 0.4 };
    const loops = started(p);
    expect(met(loops, 120)).toEqual([]);
    // Without a jump the same way is a sweep: there and back, in and out each time.
    const swept = started(piece(box(), [key(0, 60), key(0.1, -60), key(0.2, 60)], 'loop'));
    expect(met(swept, 61).length).toBeGreaterThan(16);
  });

  it('a cut into a state that stands elsewhere is a jump, a crossfade is not', () => {
    const cut = (crossfade: object) => {
      const p = piece(box(), [key(0, -200), key(1, -200)]);
      p.clips['cl_there'] = {
        ...(p.clips['cl_go'] as Piece['clips'][string]),
        ...{ id: 'cl_there', name: 'there' },
        tracks: [{ object: 'ob_apple', property: 'position.x', mode: 'absolute', keys: [key(0, 200)] }],
      };
      const lane = p.machines['ma_a']?.lanes[0];
      lane?.states.push({
        id: 'st_there',
        name: 'there',
        play: { clip: 'cl_there', speed: 1, from: 'start' },
      });
      lane?.transitions.push({
        ...{ id: 'tr_a', from: 'st_go', to: 'st_there', on: null, when: [], notBefore: { seconds: 0.2 } },
        ...{ crossfade, odds: null, enabled: true, set: true, reenter: false, mayRepeat: true },
      } as never);
      return met(started(p), 60).map(([e]) => e);
    };
    expect(cut({ seconds: 0 })).toEqual([]);
    expect(cut({ seconds: 0.2 })).toEqual(['zone.enter', 'zone.leave']);
  });

  it('lies in its owner’s space, turned and scaled with it; endless in depth when it is so', () => {
    const p = piece(box({ at: [50, 0, 0], size: [20, 20, 20] }), [key(0, 0), key(1, 0)]);
    const at = (x: number, y: number, z: number, through = false) => {
      const q = structuredClone(p);
      (q.colliders['co_a'] as Zone).through = through;
      (q.objects['ob_basket'] as SceneObject).base.rotation = [0, 0, 90];
      (q.objects['ob_basket'] as SceneObject).base.scale = [2, 1, 1];
      (q.objects['ob_apple'] as SceneObject).base.position = [x, y, z];
      q.machines = {};
      return met(new Run(compile(q)), 1).length;
    };
    // Its middle is 100 px up, 40 high and 20 wide.
    expect([at(0, 100, 0), at(0, 119, 9), at(0, 121, 0), at(11, 100, 0), at(0, 100, 11)]).toEqual([
      1, 1, 0, 0, 0,
    ]);
    expect(at(0, 100, 5000, true)).toBe(1);
  });

  it('never notices its owner, nor what has none of its tags, nor what is on top unless it is too', () => {
    const p = piece(box(), [key(0, 0), key(1, 0)]);
    (p.objects['ob_basket'] as SceneObject).tags = ['ta_fruit'];
    const on = (q: Piece) => met(new Run(compile(q)), 3).length;
    expect(on(p)).toBe(1);
    const other = structuredClone(p);
    (other.objects['ob_apple'] as SceneObject).tags = [];
    expect(on(other)).toBe(0);
    const top = structuredClone(p);
    const overlay = { anchor: 'middle', offset: [0, 0], ofOwn: [0, 0] } as const;
    Object.assign(top.objects['ob_apple'] as SceneObject, { overlay });
    expect(on(top)).toBe(0);
    const both = structuredClone(top);
    Object.assign(both.objects['ob_basket'] as SceneObject, { overlay });
    expect(on(both)).toBe(1);
    const off = structuredClone(p);
    (off.colliders['co_a'] as Zone).on = false;
    expect(on(off)).toBe(0);
  });

  it('near is entered at its nearer distance and left at its farther one', () => {
    const run = started(piece(near(50, 80), [key(0, 200), key(1, 0), key(2, 200)]));
    const events = met(run, 130);
    expect(events.map(([e]) => e)).toEqual(['near.enter', 'near.leave']);
    expect(events[0]?.[1]).toBeCloseTo(0.75, 9);
    expect(events[1]?.[1]).toBeCloseTo(1.4, 9);
  });

  it('enter and leave of a pair alternate, whatever moves, hides, cuts and turns; a snapshot goes on alike', () => {
    let count = 0;
    let motions = 0;
    for (let seed = 1; seed <= 60; seed++) {
      const random = seeded(seed);
      const within = (n: number) => (random() * 2 - 1) * n;
      const p = emptyPiece('p', 'Many');
      p.tags['ta_fruit'] = { id: 'ta_fruit', name: 'fruit' };
      const zones = 4;
      const things = 8;
      for (let z = 0; z < zones; z++) {
        const id = `co_${z}`;
        const { size: _, ...bare } = box({ id, through: random() < 0.3 });
        const shape = [
          { shape: 'box', size: [100, 60, 80] },
          { shape: 'ball', radius: 60 },
          {
            shape: 'outline',
            points: [
              [-50, -50],
              [50, -40],
              [0, 10],
              [40, 60],
            ],
            depth: 100,
          },
        ][z] as object | undefined;
        p.colliders[id] = shape ? ({ ...bare, ...shape } as Zone) : { ...near(40, 70), id };
        p.objects[`ob_z${z}`] = objectOf(
          `ob_z${z}`,
          { kind: 'group' },
          { position: [within(200), within(80), 0], rotation: [0, within(60), within(60)] },
          { colliders: [id] },
        );
      }
      for (let i = 0; i < things; i++)
        p.objects[`ob_t${i}`] = objectOf(
          `ob_t${i}`,
          { kind: 'rect', size: [9, 9], radius: 0 },
          { position: [within(250), within(100), within(40)] },
          { tags: ['ta_fruit'], parent: i % 3 === 2 ? `ob_t${i - 1}` : null },
        );
      const ids = Object.keys(p.objects);
      const tween = (object: string): Action => ({
        ...{ do: 'tween', object, property: random() < 0.5 ? 'position.x' : 'position.y', by: within(300) },
        ...{ seconds: random() * 0.4, easing: 'linear' },
      });
      for (let k = 0; k < 12; k++) {
        const object = ids[Math.floor(random() * ids.length)] as string;
        const actions: Action[] = [tween(object)];
        if (random() < 0.3) actions.push({ do: 'put', object, property: 'position.x', to: within(200) });
        if (random() < 0.3) actions.push({ do: random() < 0.5 ? 'hide' : 'show', object });
        if (random() < 0.3) actions.push({ do: 'motor', object, property: 'rotation.z', rate: within(720) });
        p.reactions[`re_${k}`] = {
          ...{ id: `re_${k}`, object, on: { event: 'timer', every: 0.05 + random() * 0.3 } },
          ...{ when: [], after: 0, cooldown: 0, limit: 'always', actions },
        };
      }
      const run = started(p);
      const inside = new Map<string, boolean>();
      const all: object[] = [];
      let half = saveRun(run);
      let n = 0;
      for (let tick = 0; tick < 150; tick++) {
        if (tick === 75) {
          half = saveRun(run);
          n = all.length;
        }
        run.step([]);
        const trace = run.takeTrace();
        motions += trace.filter((r) => r.kind === 'action').length;
        for (const r of trace.filter(meets)) {
          const pair = `${r.collider}/${r.other}`;
          expect(inside.get(pair) ?? false, `seed ${seed}, ${pair}`).toBe(r.event?.endsWith('leave'));
          inside.set(pair, !(inside.get(pair) ?? false));
          all.push([r.event, r.collider, r.other, r.at, r.tick]);
        }
      }
      const again = loadRun(new Run(run.program), half);
      const rest: object[] = [];
      for (let tick = 75; tick < 150; tick++) {
        again.step([]);
        for (const r of again.takeTrace().filter(meets))
          rest.push([r.event, r.collider, r.other, r.at, r.tick]);
      }
      expect(rest, `seed ${seed}`).toEqual(all.slice(n));
      count += all.length;
    }
    expect(motions).toBeGreaterThan(10_000);
    expect(count).toBeGreaterThan(300);
  });
});

describe('candidates', () => {
  it('found along x are all that asking every pair finds, with the same dates', () => {
    let count = 0;
    for (let seed = 1; seed <= 25; seed++) {
      const random = seeded(seed);
      const within = (n: number) => (random() * 2 - 1) * n;
      const p = emptyPiece('p', 'Pairs');
      p.tags['ta_fruit'] = { id: 'ta_fruit', name: 'fruit' };
      const motor = (object: string, property: string, rate: number): Action => ({
        ...{ do: 'motor', object, property, rate },
      });
      const starts = (object: string, actions: Action[]) => {
        p.reactions[`re_${object.slice(3)}`] = {
          ...{ id: `re_${object.slice(3)}`, object, on: { event: 'piece.start' }, when: [], after: 0 },
          ...{ cooldown: 0, limit: 'always', actions },
        };
      };
      for (let z = 0; z < 12; z++) {
        const id = `co_${z}`;
        const { size: _, ...ball } = box({ id, shape: 'ball', radius: 30, through: z % 5 === 0 });
        p.colliders[id] =
          z % 3 === 0 ? box({ id, size: [40, 30, 30] }) : z % 3 === 1 ? ball : { ...near(25, 40), id };
        const base = { position: [within(300), within(80), 0] as [number, number, number] };
        p.objects[`ob_z${z}`] = objectOf(`ob_z${z}`, { kind: 'group' }, base, { colliders: [id] });
        if (z % 2)
          starts(`ob_z${z}`, [
            motor(`ob_z${z}`, 'rotation.y', within(300)),
            motor(`ob_z${z}`, 'position.x', within(150)),
          ]);
      }
      for (let i = 0; i < 30; i++) {
        const id = `ob_t${i}`;
        const base = { position: [within(300), within(80), within(20)] as [number, number, number] };
        p.objects[id] = objectOf(id, { kind: 'ellipse', size: [9, 9] }, base, { tags: ['ta_fruit'] });
        if (i % 4) starts(id, [motor(id, 'position.x', within(2000)), motor(id, 'position.y', within(300))]);
      }
      const run = started(p);
      const n = (id: string) => run.program.objectIndex.get(id) as number;
      const place = (id: string) => {
        const out = new Float64Array(3);
        run.scene.pivot(n(id), false, out);
        return out;
      };
      const ids = Object.keys(p.objects);
      type Pose = { world: Map<string, Float64Array>; at: Map<string, Float64Array> };
      const pose = (): Pose => ({
        world: new Map(ids.map((id) => [id, run.scene.matrix(n(id)).slice()])),
        at: new Map(ids.map((id) => [id, place(id)])),
      });
      const inside = new Set<string>();
      let [a, b]: (Pose | null)[] = [null, null];
      for (let tick = 0; tick < 90; tick++) {
        const expected: [string, string, number][] = [];
        if (a && b)
          for (const c of Object.values(p.colliders)) {
            const owner = `ob_z${c.id.slice(3)}`;
            for (let i = 0; i < 30; i++) {
              const id = `ob_t${i}`;
              const found = sweepOne(c, [a, b], owner, id, inside.has(`${c.id}/${id}`));
              for (const part of found) {
                const key = `${c.id}/${id}`;
                const enters = !inside.delete(key);
                if (enters) inside.add(key);
                expected.push([`${c.role}.${enters ? 'enter' : 'leave'}`, key, (tick - 2 + part) / 60]);
              }
            }
          }
        run.step([]);
        const events = run.takeTrace().filter(meets);
        if (tick < 2) for (const r of events) inside.add(`${r.collider}/${r.other}`);
        else {
          const sort = (list: [string, string, number][]) =>
            list.sort((x, y) => x[2] - y[2] || (x[1] < y[1] ? -1 : 1));
          const got = sort(
            events.map((r) => [r.event as string, `${r.collider}/${r.other}`, r.at as number]),
          );
          const wanted = sort(expected);
          expect(
            got.map((x) => x.slice(0, 2)),
            `seed ${seed}, tick ${tick}`,
          ).toEqual(wanted.map((x) => x.slice(0, 2)));
          got.forEach((x, i) => {
            expect(x[2]).toBeCloseTo(wanted[i]?.[2] as number, 9);
          });
          count += got.length;
        }
        a = b;
        b = pose();
      }
    }
    expect(count).toBeGreaterThan(500);
  });
});

/** The parts of the way from one pose to the next at which a thing crosses the boundary of one zone. */
function sweepOne(
  c: Collider,
  poses: readonly { world: Map<string, Float64Array>; at: Map<string, Float64Array> }[],
  owner: string,
  thing: string,
  wasIn: boolean,
): number[] {
  const shape = zoneShape(c);
  const found = new Stretches();
  const [from, to] = poses.map(({ world, at }) => {
    const p = at.get(thing) as Float64Array;
    const own = at.get(owner) as Float64Array;
    if (shape.is === 'near') return p.map((x, k) => x - (own[k] as number));
    const inverse = new Float64Array(12);
    invert(inverse, 0, world.get(owner) as Float64Array, 0);
    const out = new Float64Array(3);
    transformPoint(out, 0, inverse, 0, p[0] as number, p[1] as number, p[2] as number);
    return out;
  }) as [Float64Array, Float64Array];
  if (shape.is === 'near') nearStretch(shape, wasIn, from, to, found);
  else stretchesIn(shape, from, to, found);
  const out: number[] = [];
  let inside = wasIn;
  for (let n = 0; n < found.count; n++) {
    const [a, b] = [found.at[2 * n] as number, found.at[2 * n + 1] as number];
    if (inside && (n > 0 || a > 1e-9)) out.push(0);
    if (!(inside && n === 0 && a <= 1e-9)) out.push(a);
    inside = b >= 1;
    if (b < 1) out.push(b);
  }
  if (found.count === 0 && wasIn) out.push(0);
  return out;
}

describe('what goes by zones', () => {
  const counted = (zone: Collider = box()) => {
    const p = piece(zone, [key(0, -200), key(0.4, 0), key(1, 0), key(1.4, 200)]);
    p.signals['si_n'] = {
      id: 'si_n',
      name: 'n',
      type: 'number',
      initial: 0,
      shared: false,
      note: '',
    } as never;
    p.reactions['re_a'] = {
      ...{ id: 're_a', object: 'ob_basket', on: { event: 'zone.enter' }, when: [], after: 0, cooldown: 0 },
      ...{
        limit: 'always',
        actions: [
          { do: 'add', signal: 'si_n', by: 1 },
          { do: 'hide', object: 'other', after: 0.1 },
        ],
      },
    } as Reaction;
    return p;
  };

  it('a reaction of the owner hears its zone, and acts on the thing that came, also later', () => {
    const run = started(counted());
    for (let i = 0; i < 25; i++) run.step([]);
    expect(run.signalValue('si_n')).toBe(1);
    const shown = () =>
      propertyValue(run.state.values, run.program.objectIndex.get('ob_apple') as number, 'shown');
    expect(shown()).toBe(true);
    for (let i = 0; i < 10; i++) run.step([]);
    expect(shown()).toBe(false);
    // Hidden, it has left.
    expect(run.takeTrace().filter(meets).at(-1)).toMatchObject({ event: 'zone.leave' });
  });

  it('is narrowed by collider, owner, thing and tags', () => {
    const hears = (on: object, of = 'ob_apple') => {
      const p = counted();
      p.tags['ta_nut'] = { id: 'ta_nut', name: 'nut' };
      p.reactions['re_a'] = {
        ...(p.reactions['re_a'] as Reaction),
        ...{ object: of, on: { event: 'zone.enter', ...on } as Reaction['on'] },
      };
      const run = started(p);
      for (let i = 0; i < 40; i++) run.step([]);
      return run.signalValue('si_n');
    };
    expect(hears({})).toBe(0);
    expect(hears({ object: 'ob_basket' })).toBe(1);
    expect(hears({ collider: 'co_a' })).toBe(1);
    expect(hears({ collider: 'co_a', other: 'ob_apple' })).toBe(1);
    expect(hears({ collider: 'co_a', other: 'ob_basket' })).toBe(0);
    expect(hears({ tags: ['ta_fruit'] }, 'ob_basket')).toBe(1);
    expect(hears({ tags: ['ta_nut'] }, 'ob_basket')).toBe(0);
  });

  it('facts ask what is in, how many, and a lane goes by them, caused by what was noticed', () => {
    const asks = (when: object) => {
      const p = counted();
      p.reactions = {};
      p.machines['ma_b'] = {
        ...{ id: 'ma_b', name: 'B', object: 'ob_basket' },
        lanes: [
          {
            ...{ id: 'la_b', name: 'L', initial: 'st_no', unkeyed: 'base', amount: 1, blend: 'replace' },
            states: [
              { id: 'st_no', name: 'no', play: 'rest' },
              { id: 'st_yes', name: 'yes', play: 'rest' },
            ],
            transitions: [
              {
                ...{ id: 'tr_b', from: 'st_no', to: 'st_yes', on: null, when: [when], notBefore: null },
                ...{
                  crossfade: { seconds: 0 },
                  odds: null,
                  enabled: true,
                  set: true,
                  reenter: false,
                  mayRepeat: true,
                },
              },
            ],
          },
        ],
      } as never;
      const run = started(p);
      const trace: TraceRecord[] = [];
      for (let i = 0; i < 60; i++) {
        run.step([]);
        trace.push(...run.takeTrace());
      }
      const gone = trace.find((r) => r.transition === 'tr_b');
      const cause = trace.find((r) => r.id === gone?.cause)?.event;
      return { tick: gone?.tick, cause, parts: explain(run, 'tr_b').filter((x) => x.of === 'condition') };
    };
    const zone = { collider: 'co_a' };
    const inside = asks({ fact: 'inside', ...zone });
    expect(inside).toMatchObject({ cause: 'zone.enter', parts: [{ holds: true }] });
    expect(inside.tick).toBeGreaterThan(10);
    expect(asks({ fact: 'count', ...zone, atLeast: 1 }).tick).toBe(inside.tick);
    expect(asks({ fact: 'count', ...zone, is: 0 }).tick).toBe(0);
    expect(asks({ fact: 'count', ...zone, atLeast: 2 }).tick).toBeUndefined();
    expect(asks({ fact: 'inside', ...zone, other: 'ob_basket' }).tick).toBeUndefined();
    expect(asks({ fact: 'inside', ...zone, tags: ['ta_fruit'], is: false }).tick).toBe(0);
  });

  it('what is dropped tells its zones, is heard by them, and stays where it may', () => {
    const drag: SceneObject['drag'] = {
      along: 'x',
      moves: true,
      back: { seconds: 0.1, easing: 'linear', unless: ['co_a'] },
    };
    const dropAt = (x: number) => {
      const p = piece(box(), [key(0, 0)], 'once', { drag, hitShape: { kind: 'rect', size: [20, 20] } });
      p.machines = {};
      (p.objects['ob_apple'] as SceneObject).base.position = [-200, 0, 0];
      p.signals['si_n'] = {
        id: 'si_n',
        name: 'n',
        type: 'number',
        initial: 0,
        shared: false,
        note: '',
      } as never;
      p.reactions['re_a'] = {
        ...{ id: 're_a', object: 'ob_basket', on: { event: 'drag.drop', collider: 'co_a' }, when: [] },
        ...{ after: 0, cooldown: 0, limit: 'always' },
        actions: [
          { do: 'add', signal: 'si_n', by: 1 },
          { do: 'put', object: 'other', property: 'opacity', to: 0.5 },
        ],
      } as Reaction;
      const run = started(p);
      const pointer = (px: number, down: boolean): Input => ({
        at: 0,
        pointer: { x: 480 + px, y: 270, down },
      });
      run.step([]);
      run.step([pointer(-200, true)]);
      run.step([pointer(-150, true)]);
      run.step([pointer(x, true)]);
      run.step([pointer(x, false)]);
      for (let i = 0; i < 20; i++) run.step([]);
      const number = run.program.objectIndex.get('ob_apple') as number;
      const drop = run.takeTrace().find((r) => r.event === 'drag.drop');
      const value = (property: string) => propertyValue(run.state.values, number, property);
      return [value('position.x'), value('opacity'), run.signalValue('si_n'), drop?.colliders];
    };
    expect(dropAt(10)).toEqual([10, 0.5, 1, ['co_a']]);
    expect(dropAt(90)).toEqual([-200, 1, 0, undefined]);
  });

  it('goes on through an edit: what is in stays in, and leaves once', () => {
    const p = piece(box(), [key(0, -200), key(0.4, 0), key(1, 0), key(1.4, 200)]);
    const run = started(p);
    for (let i = 0; i < 40; i++) run.step([]);
    run.takeTrace();
    const first = { ob_0: objectOf('ob_0', { kind: 'group' }, {}, { order: 'A', tags: ['ta_fruit'] }) };
    editRun(run, { ...p, objects: { ...first, ...p.objects } });
    expect(met(run, 60).filter(([e]) => e === 'zone.leave')).toHaveLength(1);
  });
});

describe('zones in a piece', () => {
  it('are read, refused with their place, belong to one object, go and are copied with it', () => {
    const p = piece(box(), [key(0, 0), key(1, 0)]);
    p.reactions['re_a'] = {
      ...{
        id: 're_a',
        object: 'ob_apple',
        on: { event: 'zone.enter', collider: 'co_a' },
        when: [],
        after: 0,
      },
      ...{ cooldown: 0, limit: 'always', actions: [{ do: 'hide', object: 'other' }] },
    } as Reaction;
    const read = readPieceJson(JSON.parse(JSON.stringify(p)));
    expect(read.ok && read.value.colliders).toEqual(p.colliders);
    const wrong = structuredClone(p) as unknown as { colliders: Record<string, Record<string, unknown>> };
    delete wrong.colliders['co_a']?.['size'];
    expect(readPieceJson(wrong)).toMatchObject({ ok: false, problems: [{ path: 'colliders.co_a' }] });
    wrong.colliders['co_a'] = { ...p.colliders['co_a'], role: 'blocker' };
    const deaf = readPieceJson(wrong);
    expect(!deaf.ok && deaf.problems[0]).toMatchObject({ path: 'reactions.re_a.on.collider', code: 'zone' });
    const shared = structuredClone(p);
    (shared.objects['ob_apple'] as SceneObject).colliders = ['co_a'];
    expect(checkIntegrity(shared)).toMatchObject([{ path: 'objects.ob_apple.colliders[0]' }]);

    const store = new PieceStore(p);
    let n = 0;
    new History(store).edit('copy', (e) => {
      const all = excerpt(store, ['ob_basket'], true);
      insertExcerpt(e, all, null, (kind) => `${kind.slice(0, 2)}_n${n++}`);
      insertExcerpt(e, excerpt(store, ['ob_basket'], false), null, (kind) => `${kind.slice(0, 2)}_n${n++}`);
    });
    expect(store.all('colliders')).toHaveLength(2);
    expect(checkIntegrity(store.toPiece())).toEqual([]);
    new History(store).edit('delete', (e) => removeWithReferences(e, ['ob_basket']));
    expect(store.ids('colliders')).toHaveLength(1);
    expect(store.ids('reactions')).toEqual([]);
    expect(checkIntegrity(store.toPiece())).toEqual([]);
    new History(store).edit('delete', (e) => removeWithReferences(e, ['ta_fruit']));
    expect(store.all('colliders')[0]?.tags).toEqual([]);
  });
});
