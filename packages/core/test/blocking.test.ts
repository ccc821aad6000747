/** What stops the visitor and what is dragged: hulls and slides against naive ones, then walks and drags in a run. */
import { describe, expect, it } from 'vitest';
import { checkIntegrity } from '../src/check/index.ts';
import { type Collider, emptyPiece, type Piece, VISITOR_KEYS, type Visitor } from '../src/model/index.ts';
import { editRun, loadRun, propertyValue, saveRun } from '../src/runtime/index.ts';
import { convexHull, distanceTo, grownBy, slide } from '../src/world/index.ts';
import { seeded } from '../testing/random.ts';
import { objectOf } from './box-piece.ts';
import { Case } from './case.ts';

type Points = [number, number][];
const cloud = (random: () => number, n: number, far: number, at: [number, number] = [0, 0]): Points =>
  Array.from({ length: n }, () => [at[0] + (random() - 0.5) * far, at[1] + (random() - 0.5) * far]);

describe('hulls', () => {
  it('hold every point, with corners of the points alone, turning left, from the greatest x on', () => {
    const random = seeded(3);
    for (let n = 0; n < 300; n++) {
      const points = cloud(random, 3 + Math.floor(random() * 20), 100);
      const hull = convexHull(points);
      expect(hull.length).toBeGreaterThanOrEqual(6);
      for (const [x, y] of points) expect(distanceTo(hull, x, y)).toBeLessThan(1e-9);
      expect(hull[0]).toBe(Math.max(...points.map((p) => p[0])));
      for (let i = 0; i < hull.length; i += 2) {
        expect(points).toContainEqual([hull[i], hull[i + 1]]);
        const at = (k: number) =>
          [hull[(i + k) % hull.length], hull[(i + k + 1) % hull.length]] as [number, number];
        const [a, b, c] = [at(0), at(2), at(4)];
        expect((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])).toBeGreaterThan(0);
      }
    }
    expect([...convexHull([[1, 2]])]).toEqual([1, 2]);
    // Corners that only rounding keeps apart are one.
    const square: Points = [0, 1, 2, 3].map((k) => [k === 1 || k === 2 ? 10 : 0, k > 1 ? 10 : 0]);
    const twice = square.flatMap(
      ([x, y]): Points => [
        [x, y],
        [x + 1e-13, y - 2e-13],
      ],
    );
    expect(convexHull(twice).length).toBe(8);
  });

  it('is as far away as its nearest point, at its corners too', () => {
    const random = seeded(15);
    for (let n = 0; n < 200; n++) {
      const hull = convexHull(cloud(random, 6, 80));
      const [x, y] = [(random() - 0.5) * 200, (random() - 0.5) * 200];
      const far = distanceTo(hull, x, y);
      if (far < 0) continue;
      let least = Number.POSITIVE_INFINITY;
      for (let i = 0; i < hull.length; i += 2)
        for (let k = 0; k <= 2000; k++) {
          const at = (c: 0 | 1) =>
            (hull[i + c] as number) * (1 - k / 2000) +
            (hull[(i + 2 + c) % hull.length] as number) * (k / 2000);
          least = Math.min(least, Math.hypot(x - at(0), y - at(1)));
        }
      expect(far).toBeCloseTo(least, 1);
    }
  });

  it('grown by a body: the point of a body is in it exactly where the two overlap', () => {
    const random = seeded(9);
    for (let n = 0; n < 200; n++) {
      const hull = convexHull(cloud(random, 6, 80));
      const body = convexHull(cloud(random, 5, 40));
      const grown = grownBy(hull, body);
      const at: [number, number] = [(random() - 0.5) * 160, (random() - 0.5) * 160];
      const far = distanceTo(grown, ...at);
      if (Math.abs(far) < 0.5) continue;
      // Two hulls overlap unless one of their edges has all of the other beyond it.
      const corners = (h: Float64Array, by: [number, number]): Points =>
        Array.from({ length: h.length / 2 }, (_, i) => [
          (h[2 * i] as number) + by[0],
          (h[2 * i + 1] as number) + by[1],
        ]);
      const [a, b] = [corners(hull, [0, 0]), corners(body, at)];
      const apart = (p: Points, q: Points) =>
        p.some(([x0, y0], i) => {
          const [x1, y1] = p[(i + 1) % p.length] as [number, number];
          return q.every(([x, y]) => (x1 - x0) * (y - y0) - (y1 - y0) * (x - x0) < 0);
        });
      expect(far < 0).toBe(!(apart(a, b) || apart(b, a)));
    }
  });
});

describe('sliding', () => {
  /** In very small steps: what of the way left leads into an edge that is met is left away from then on. */
  function slowly(hull: Float64Array, from: [number, number], way: [number, number]): [number, number] {
    const STEPS = 20000;
    let [x, y] = from;
    let [dx, dy] = [way[0] / STEPS, way[1] / STEPS];
    for (let n = 0; n < STEPS; n++) {
      if (distanceTo(hull, x + dx, y + dy) < 0) {
        let best = { d: Number.NEGATIVE_INFINITY, nx: 0, ny: 0 };
        for (let i = 0; i < hull.length; i += 2) {
          const [ax, ay] = [hull[i] as number, hull[i + 1] as number];
          const [bx, by] = [hull[(i + 2) % hull.length] as number, hull[(i + 3) % hull.length] as number];
          const l = Math.hypot(bx - ax, by - ay);
          const [nx, ny] = [(by - ay) / l, (ax - bx) / l];
          const d = (x - ax) * nx + (y - ay) * ny;
          if (d > best.d) best = { d, nx, ny };
        }
        const into = Math.min(0, dx * best.nx + dy * best.ny);
        [dx, dy] = [dx - into * best.nx, dy - into * best.ny];
      }
      [x, y] = [x + dx, y + dy];
    }
    return [x, y];
  }

  it('along one hull it comes to where small steps come, never into it, and no farther than it would have', () => {
    const random = seeded(21);
    let slid = 0;
    for (let n = 0; n < 120; n++) {
      const hull = convexHull(cloud(random, 7, 60));
      const from: [number, number] = [(random() - 0.5) * 160, (random() - 0.5) * 160];
      if (distanceTo(hull, ...from) < 1) continue;
      const way: [number, number] = [(random() - 0.5) * 200 - from[0], (random() - 0.5) * 200 - from[1]];
      const to = slide([hull], from, way, true);
      expect(distanceTo(hull, ...to)).toBeGreaterThan(-1e-6);
      expect(Math.hypot(to[0] - from[0], to[1] - from[1])).toBeLessThanOrEqual(Math.hypot(...way) + 1e-9);
      const naive = slowly(hull, from, way);
      expect(Math.hypot(to[0] - naive[0], to[1] - naive[1])).toBeLessThan(0.5);
      if (Math.hypot(to[0] - from[0] - way[0], to[1] - from[1] - way[1]) > 1) slid++;
    }
    expect(slid).toBeGreaterThan(20);
  });

  it('what stands on an edge, to rounding, goes off it as it likes, however little', () => {
    const random = seeded(71);
    for (let n = 0; n < 200; n++) {
      const hull = convexHull(cloud(random, 7, 60));
      const k = 2 * Math.floor((random() * hull.length) / 2);
      const next = (k + 2) % hull.length;
      const mid = (c: 0 | 1) => ((hull[k + c] as number) + (hull[next + c] as number)) / 2;
      const [ex, ey] = [
        (hull[next] as number) - (hull[k] as number),
        (hull[next + 1] as number) - (hull[k + 1] as number),
      ];
      const l = Math.hypot(ex, ey);
      const [nx, ny] = [ey / l, -ex / l];
      const deep = random() * 1e-9;
      const from: [number, number] = [mid(0) - deep * nx, mid(1) - deep * ny];
      const far = 10 ** (-3 * random());
      const to = slide([hull], from, [far * nx, far * ny], true);
      expect(Math.hypot(to[0] - from[0], to[1] - from[1])).toBeCloseTo(far, 9);
    }
  });

  it('among several it is never in one; in a corner it stands; from within it walks out; on a line it stops', () => {
    const random = seeded(33);
    for (let n = 0; n < 400; n++) {
      const hulls = Array.from({ length: 4 }, () =>
        convexHull(cloud(random, 6, 50, [(random() - 0.5) * 120, (random() - 0.5) * 120])),
      );
      const from: [number, number] = [(random() - 0.5) * 300, (random() - 0.5) * 300];
      const free = hulls.filter((h) => distanceTo(h, ...from) > 0);
      const to = slide(free, from, [(random() - 0.5) * 400, (random() - 0.5) * 400], true);
      for (const h of free) expect(distanceTo(h, ...to)).toBeGreaterThan(-1e-6);
    }
    const box = (x: number, y: number, w: number, h: number) =>
      convexHull([
        [x, y],
        [x + w, y],
        [x + w, y + h],
        [x, y + h],
      ]);
    const corner = [box(10, -100, 50, 200), box(-100, 10, 200, 50)];
    expect(slide(corner, [0, 0], [50, 50], true).map((v) => Math.round(v * 1e6) / 1e6)).toEqual([10, 10]);
    expect(slide([box(-10, -10, 20, 20)], [0, 0], [50, 0], true)).toEqual([50, 0]);
    expect(slide([box(10, -5, 20, 20)], [0, 0], [50, 3], false)[0]).toBeCloseTo(10, 9);
    expect(slide([box(10, -5, 20, 20)], [0, 0], [50, 3], true)[0]).toBeCloseTo(10, 9);
  });
});

const blocker = (id: string, more: object): Collider =>
  ({
    ...{ id, name: id, role: 'blocker', tags: [], visitor: true, on: true, shape: 'box', at: [0, 0, 0] },
    ...{ size: [40, 40, 40], through: false },
    ...more,
  }) as Collider;

/** A visitor that is a body of 20 px, and a crate 100 px to its right. */
function pieceOf(crate: object = {}, visitor: Partial<Visitor> = {}): Piece {
  const p = emptyPiece('p', 'Blockers');
  p.objects['ob_v'] = objectOf('ob_v', { kind: 'box', size: [20, 20, 20] }, {}, { colliders: ['co_v'] });
  p.objects['ob_c'] = objectOf(
    'ob_c',
    { kind: 'box', size: [40, 40, 40] },
    { position: [100, 0, 0] },
    { colliders: ['co_c'] },
  );
  p.colliders = { co_v: blocker('co_v', { size: [20, 20, 20] }), co_c: blocker('co_c', crate) };
  p.visitor = {
    ...{ object: 'ob_v', speed: 600, plane: 'xz', keys: VISITOR_KEYS, drag: true, facing: 'none' },
    ...visitor,
  };
  return p;
}
class Walk extends Case {
  at(id = 'ob_v'): number[] {
    const i = this.run.program.objectIndex.get(id) as number;
    return 'xyz'.split('').map((a) => propertyValue(this.run.state.values, i, `position.${a}`) as number);
  }
}
const reaction = (on: Piece['reactions'][string]['on']): Piece['reactions'][string] => ({
  ...{ id: 're_a', object: 'ob_c', on, when: [], after: 0, cooldown: 0, limit: 'always' as const },
  actions: [{ do: 'show', object: 'ob_v' }],
});
const close = (got: readonly number[], want: readonly number[]) => {
  for (const [i, n] of want.entries()) expect(got[i]).toBeCloseTo(n, 6);
};

describe('in a run', () => {
  it('the visitor stops at a crate, body against body, slides along it, and its speed is what it really walked', () => {
    const c = new Walk(pieceOf());
    c.key('ArrowRight').ticks(30);
    close(c.at(), [70, 0, 0]);
    c.key('ArrowUp').ticks(3);
    expect(c.at()[0]).toBeCloseTo(70, 6);
    expect(c.at()[2]).toBeCloseTo((-3 * 10) / Math.SQRT2, 6);
    c.ticks(10);
    // Past the corner of the crate it goes on to the right.
    expect(c.at()[0]).toBeGreaterThan(75);
  });

  it('what is lower or higher does not stop it on the ground, on a wall it does, whatever its depth', () => {
    const low = pieceOf();
    low.objects['ob_c'] = { ...(low.objects['ob_c'] as Piece['objects'][string]) };
    low.objects['ob_c'].base = { ...low.objects['ob_c'].base, position: [100, 60, 0] };
    const ground = new Walk(low);
    ground.key('ArrowRight').ticks(30);
    close(ground.at(), [300, 0, 0]);
    const deep = pieceOf({}, { plane: 'xy' });
    deep.objects['ob_c'] = { ...(deep.objects['ob_c'] as Piece['objects'][string]) };
    deep.objects['ob_c'].base = { ...deep.objects['ob_c'].base, position: [100, 0, 500] };
    const wall = new Walk(deep);
    wall.key('ArrowRight').ticks(30);
    close(wall.at(), [70, 0, 0]);
  });

  it.each([
    ['one that is off', { on: false }],
    ['one that lets the visitor through', { visitor: false }],
  ])('%s does not stop it', (_, more) => {
    const c = new Walk(pieceOf(more));
    c.key('ArrowRight').ticks(30);
    close(c.at(), [300, 0, 0]);
  });

  it('nor one that is hidden; one that turns stops it where its corner is; a ball and an outline by their shape', () => {
    const hidden = new Walk(pieceOf());
    hidden
      .step({ put: { object: 'ob_c', property: 'shown', value: false } })
      .key('ArrowRight')
      .ticks(30);
    close(hidden.at(), [300, 0, 0]);
    const turned = new Walk(pieceOf());
    turned
      .step({ put: { object: 'ob_c', property: 'rotation.y', value: 45 } })
      .key('ArrowRight')
      .ticks(7);
    expect(turned.at()[0]).toBeCloseTo(100 - 20 * Math.SQRT2 - 10, 4);
    const ball = new Walk(pieceOf({ shape: 'ball', size: undefined, radius: 30 }));
    ball.key('ArrowRight').ticks(30);
    close(ball.at(), [60, 0, 0]);
    const outline = new Walk(
      pieceOf({
        shape: 'outline',
        size: undefined,
        depth: 10,
        points: [
          [-5, -20],
          [5, -20],
          [5, 20],
          [-5, 20],
        ],
      }),
    );
    outline.key('ArrowRight').ticks(30);
    close(outline.at(), [85, 0, 0]);
  });

  it('without blockers of its own its pivot is stopped; put into one it is pushed out over the nearest edge', () => {
    const p = pieceOf();
    p.objects['ob_v'] = { ...(p.objects['ob_v'] as Piece['objects'][string]), colliders: [] };
    delete p.colliders['co_v'];
    const c = new Walk(p);
    c.key('ArrowRight').ticks(30);
    close(c.at(), [80, 0, 0]);
    c.step({ key: 'ArrowRight', down: false });
    for (const [x, z, outX, outZ] of [
      [113, 4, 120, 4],
      [84, -3, 80, -3],
      [101, 18, 101, 20],
    ] as const) {
      c.step({ visitor: { x, y: 0, z } }).ticks(2);
      close(c.at(), [outX, 0, outZ]);
    }
  });

  it('dragged things are stopped by what has no tag, or one of theirs; they slide, and follow the pointer past it', () => {
    const dragged = (tags: string[], of: string[], along = 'xy') => {
      const p = pieceOf({ tags, through: true });
      p.visitor = null;
      p.tags = Object.fromEntries(['ta_a', 'ta_b'].map((id) => [id, { id, name: id }]));
      p.objects['ob_v'] = {
        ...(p.objects['ob_v'] as Piece['objects'][string]),
        ...{ tags: of, drag: { along, moves: true } as Piece['objects'][string]['drag'] },
      };
      const c = new Walk(p);
      const pointer = (x: number, y: number, down = true) => ({ pointer: { x: 480 + x, y: 270 - y, down } });
      c.step(pointer(0, 0)).step(pointer(30, 0)).step(pointer(95, 0)).ticks(2);
      const stopped = [...c.at()];
      c.step(pointer(95, 60)).ticks(2);
      return [stopped, c.at()];
    };
    close(dragged([], [])[0] as number[], [70, 0, 0]);
    // Past its corner it goes where the pointer is.
    close(dragged([], [])[1] as number[], [95, 60, 0]);
    close(dragged(['ta_a'], ['ta_b'])[0] as number[], [95, 0, 0]);
    close(dragged(['ta_a'], ['ta_a'])[0] as number[], [70, 0, 0]);
    const [line] = dragged([], [], 'x');
    close(line as number[], [70, 0, 0]);
  });

  it('touching a blocker is told once, and its end; a wall walked along is touched all the while', () => {
    const p = pieceOf();
    p.reactions['re_a'] = reaction({ event: 'touch.begin', collider: 'co_c' });
    const c = new Walk(p);
    c.key('ArrowRight').ticks(30);
    const touches = () =>
      c.records.flatMap((r) =>
        r.event?.startsWith('touch.') ? [[r.event, r.tick, r.object, r.other, r.at]] : [],
      );
    // It is there after seven steps of 10 px; the tick after notices it.
    const begun = touches()[0] as [string, number];
    expect(touches()).toEqual([['touch.begin', begun[1], 'ob_c', 'ob_v', (begun[1] - 1) / 60]]);
    expect(c.at()[0]).toBeCloseTo(70, 6);
    expect(c.records.filter((r) => r.kind === 'reaction').length).toBe(1);
    c.step({ key: 'ArrowRight', down: false }).key('ArrowUp').ticks(2);
    expect(touches().length).toBe(1);
    c.step({ key: 'ArrowUp', down: false }).key('ArrowLeft').ticks(3);
    expect(touches().map((t) => t[0])).toEqual(['touch.begin', 'touch.end']);
  });

  it('what lets it through is not touched; one that is hidden is touched no more, one that is shown again is', () => {
    const through = new Walk(pieceOf({ visitor: false }));
    through.key('ArrowRight').ticks(30);
    expect(through.records.some((r) => r.event === 'touch.begin')).toBe(false);
    const c = new Walk(pieceOf());
    c.key('ArrowRight').ticks(12).step({ key: 'ArrowRight', down: false });
    const put = (value: boolean) => c.step({ put: { object: 'ob_c', property: 'shown', value } }).ticks(2);
    put(false);
    put(true);
    const told = c.records.flatMap((r) => (r.event?.startsWith('touch.') ? [r.event] : []));
    expect(told).toEqual(['touch.begin', 'touch.end', 'touch.begin']);
  });

  it('a visitor that is hidden touches nothing, and what it touched it lets go', () => {
    const c = new Walk(pieceOf());
    c.key('ArrowRight').ticks(12).step({ key: 'ArrowRight', down: false });
    c.step({ put: { object: 'ob_v', property: 'shown', value: false } }).ticks(2);
    const told = c.records.flatMap((r) => (r.event?.startsWith('touch.') ? [r.event] : []));
    expect(told).toEqual(['touch.begin', 'touch.end']);
  });

  it('what is dragged touches while it is dragged; heard by the object, narrowed by tags and by the thing', () => {
    const p = pieceOf({ through: true });
    p.visitor = null;
    p.tags = Object.fromEntries(['ta_a', 'ta_b'].map((id) => [id, { id, name: id }]));
    p.objects['ob_v'] = {
      ...(p.objects['ob_v'] as Piece['objects'][string]),
      ...{ tags: ['ta_a'], drag: { along: 'xy', moves: true } as Piece['objects'][string]['drag'] },
    };
    p.reactions['re_a'] = reaction({ event: 'touch.begin', tags: ['ta_b'] });
    p.reactions['re_b'] = { ...reaction({ event: 'touch.begin', tags: ['ta_a'] }), id: 're_b' };
    p.reactions['re_c'] = { ...reaction({ event: 'touch.end', other: 'ob_v' }), id: 're_c' };
    const c = new Walk(p);
    const pointer = (x: number, down = true) => ({ pointer: { x: 480 + x, y: 270, down } });
    c.step(pointer(0)).step(pointer(30)).step(pointer(95)).ticks(3);
    const heard = () => c.records.flatMap((r) => (r.kind === 'reaction' ? [r.reaction] : []));
    expect(heard()).toEqual(['re_b']);
    c.step(pointer(95, false)).ticks(2);
    expect(heard()).toEqual(['re_b', 're_c']);
  });

  it('a run that is loaded while it touches, or edited, tells of it no second time', () => {
    const p = pieceOf();
    const c = new Walk(p);
    c.key('ArrowRight').ticks(12);
    expect(c.records.filter((r) => r.event === 'touch.begin').length).toBe(1);
    const other = new Walk(p);
    loadRun(other.run, saveRun(c.run));
    other.records.length = 0;
    other
      .ticks(3)
      .step({ visitor: { x: 0, y: 0, z: 0 } })
      .ticks(2);
    expect(other.records.flatMap((r) => (r.event?.startsWith('touch.') ? [r.event] : []))).toEqual([
      'touch.end',
    ]);
    const { co_v, co_c } = p.colliders as Record<string, Collider>;
    editRun(c.run, { ...p, colliders: { co_c: co_c as Collider, co_v: co_v as Collider } });
    c.records.length = 0;
    c.ticks(5);
    expect(c.records.some((r) => r.event?.startsWith('touch.'))).toBe(false);
  });

  it('a blocker is no zone, and a zone no blocker: who listens to it so is refused', () => {
    const p = pieceOf();
    p.reactions['re_a'] = reaction({ event: 'zone.enter', collider: 'co_c' });
    const said = (message: string) => [{ code: 'zone', path: 'reactions.re_a.on.collider', message }];
    expect(checkIntegrity(p)).toEqual(said('"co_c" is a blocker: it stops things, and notices none.'));
    p.colliders['co_c'] = { ...(p.colliders['co_c'] as Collider), role: 'zone' } as Collider;
    p.reactions['re_a'] = reaction({ event: 'touch.begin', collider: 'co_c' });
    expect(checkIntegrity(p)).toEqual(said('"co_c" stops nothing, so nothing touches it.'));
  });
});
