/** Double and long clicks, dragging, what the pointer is over, turning toward a thing, and following all of it. */
import { describe, expect, it } from 'vitest';
import { atan2Deg } from '../src/base/index.ts';
import { checkIntegrity, readPieceJson } from '../src/check/index.ts';
import {
  emptyPiece,
  excerpt,
  type Follow,
  History,
  insertExcerpt,
  type Piece,
  PieceStore,
  type Reaction,
  removeWithReferences,
  type SceneObject,
  writePiece,
} from '../src/model/index.ts';
import {
  compile,
  editRun,
  type Input,
  loadRun,
  propertyValue,
  Run,
  saveRun,
  type TraceRecord,
} from '../src/runtime/index.ts';
import { seeded } from '../testing/random.ts';
import { objectOf } from './box-piece.ts';

const square = { kind: 'rect', size: [100, 100], radius: 0 };
/** A square at the middle of the frame, another 200 px to its right. */
function two(more: Partial<SceneObject> = {}, view = { azimuth: 0, elevation: 0 }): Piece {
  const p = emptyPiece('p', 'Two');
  p.view = view;
  p.objects['ob_a'] = objectOf('ob_a', square, {}, more);
  p.objects['ob_b'] = objectOf('ob_b', square, { position: [200, 0, 0] });
  return p;
}
/** Frame px from the left top corner, for a place from the middle, y up. */
const at = (x: number, y: number, down: boolean): Input => ({
  at: 0,
  pointer: { x: 480 + x, y: 270 - y, down },
});
const events = (trace: TraceRecord[]) =>
  trace.flatMap((r) => (/^(drag|pointer\.(click|double|long|release))/.test(r.event ?? '') ? [r.event] : []));
const value = (run: Run, id: string, property: string) =>
  propertyValue(run.state.values, run.program.objectIndex.get(id) as number, property) as number;
const started = (p: Piece) => {
  expect(checkIntegrity(p)).toEqual([]);
  const run = new Run(compile(p));
  run.step([]);
  run.takeTrace();
  return run;
};
const follow = (source: Follow['source'], more: Partial<Follow> = {}): Follow => ({
  ...{ id: 'fo_a', target: { object: 'ob_b', property: 'rotation.z' }, source, clamp: true, smooth: 0 },
  ...more,
});

describe('clicks', () => {
  const click = (run: Run) => {
    run.step([at(0, 0, true)]);
    run.step([at(0, 0, false)]);
  };

  it('two within 0.4 s are a double click, after both; a third begins anew', () => {
    const run = started(two());
    for (let i = 0; i < 3; i++) click(run);
    const said = ['pointer.release', 'pointer.click'];
    expect(events(run.takeTrace())).toEqual([...said, ...said, 'pointer.double', ...said]);
    click(run);
    expect(events(run.takeTrace())).toEqual([...said, 'pointer.double']);
  });

  it('one that comes 0.4 s later is still the second, a tick later it is not', () => {
    for (const [wait, many] of [
      [22, 1],
      [23, 0],
    ] as const) {
      const run = started(two());
      click(run);
      for (let i = 0; i < wait; i++) run.step([]);
      click(run);
      expect(events(run.takeTrace()).filter((e) => e === 'pointer.double')).toHaveLength(many);
    }
  });

  it('held for 0.5 s it is a long one, dated so; let go before, dragged, or pressed anew it is none', () => {
    const run = started(two({ drag: { along: 'x', moves: true, back: null } }));
    run.step([at(0, 0, true)]);
    const from = run.time;
    for (let i = 0; i < 31; i++) run.step([]);
    const [long] = run.takeTrace().filter((r) => r.event === 'pointer.long');
    expect([long?.object, long?.t]).toEqual(['ob_a', from + 0.5]);
    run.step([at(0, 0, false)]);
    run.step([at(0, 0, true)]);
    for (let i = 0; i < 20; i++) run.step([]);
    run.step([at(0, 0, false)]);
    run.step([at(0, 0, true)]);
    for (let i = 0; i < 20; i++) run.step([]);
    run.step([at(9, 0, true)]);
    for (let i = 0; i < 60; i++) run.step([]);
    expect(run.takeTrace().some((r) => r.event === 'pointer.long')).toBe(false);
  });
});

describe('dragging', () => {
  it('begins 4 px off, moves once a tick, drops in the tick after; such a release is no click', () => {
    const run = started(two({ drag: { along: 'xy', moves: true, back: null } }));
    run.step([at(10, 5, true)]);
    run.step([at(12, 7, true)]);
    expect(events(run.takeTrace())).toEqual([]);
    expect(value(run, 'ob_a', 'position.x')).toBe(0);
    run.step([at(20, 8, true), at(40, 25, true), at(41, 26, true)]);
    expect(events(run.takeTrace())).toEqual(['drag.start']);
    expect([value(run, 'ob_a', 'position.x'), value(run, 'ob_a', 'position.y')]).toEqual([31, 21]);
    run.step([at(50, 30, true), at(60, 30, true)]);
    run.step([at(60, 30, false)]);
    expect(events(run.takeTrace())).toEqual(['drag.move', 'pointer.release']);
    run.step([]);
    expect(events(run.takeTrace())).toEqual(['drag.drop']);
    expect(value(run, 'ob_a', 'position.x')).toBe(50);
  });

  it('is as under the pointer, whatever the view, the parent and the scale', () => {
    const random = seeded(5);
    for (let n = 0; n < 40; n++) {
      const along = (['x', 'y', 'z', 'xy', 'xz', 'yz'] as const)[n % 6] as 'x';
      const p = two({}, { azimuth: 20 + 40 * random(), elevation: 20 + 30 * random() });
      p.objects['ob_a'] = objectOf(
        'ob_a',
        { kind: 'box', size: [60, 60, 60] },
        {},
        {
          drag: { along, moves: true, back: null },
          parent: 'ob_g',
        },
      );
      p.objects['ob_g'] = objectOf(
        'ob_g',
        { kind: 'group' },
        {
          rotation: [20 * random(), 40 * random(), 30 * random()],
          scale: [0.5 + random(), 0.5 + random(), 1],
        },
      );
      const run = started(p);
      const [dx, dy] = [30 * random() + 5, 30 * random() - 10];
      run.step([at(0, 0, true)]);
      run.step([at(dx, dy, true)]);
      run.step([at(dx, dy, true)]);
      const out = new Float64Array(3);
      run.scene.pivot(run.program.objectIndex.get('ob_a') as number, true, out);
      if (along.length === 2) {
        expect(out[0]).toBeCloseTo(dx, 6);
        expect(out[1]).toBeCloseTo(dy, 6);
      } else {
        // As near as it can come: the rest of the way stands square on its axis.
        const [x, y] = [out[0] as number, out[1] as number];
        expect((dx - x) * x + (dy - y) * y).toBeCloseTo(0, 5);
      }
    }
  });

  it('stays within its limits, counts without moving, and goes back', () => {
    const drag = { along: 'x', limits: { x: [-10, 40] }, moves: true, back: null } as const;
    const pull = (d: object) => {
      const p = two({ drag: { ...drag, ...d } as SceneObject['drag'] });
      p.follows['fo_a'] = follow({ drag: 'ob_a', axis: 'x' });
      const run = started(p);
      run.step([at(0, 0, true)]);
      run.step([at(90, 0, true)]);
      run.step([at(90, 0, true)]);
      return run;
    };
    const moves = pull({});
    expect([value(moves, 'ob_a', 'position.x'), value(moves, 'ob_b', 'rotation.z')]).toEqual([40, 40]);
    const counts = pull({ moves: false });
    expect([value(counts, 'ob_a', 'position.x'), value(counts, 'ob_b', 'rotation.z')]).toEqual([0, 40]);
    for (const moving of [true, false]) {
      const run = pull({ moves: moving, back: { seconds: 0.5, easing: 'linear' } });
      run.step([at(90, 0, false)]);
      run.step([]);
      for (let i = 0; i < 15; i++) run.step([]);
      run.step([]);
      expect(value(run, 'ob_b', 'rotation.z')).toBeCloseTo(40 - (40 * 16) / 30, 6);
      for (let i = 0; i < 20; i++) run.step([]);
      expect([value(run, 'ob_a', 'position.x'), value(run, 'ob_b', 'rotation.z')]).toEqual([0, 0]);
      // Taken hold of anew it goes on from where it stands.
      run.step([at(0, 0, true)]);
      run.step([at(12, 0, true)]);
      run.step([at(12, 0, true)]);
      expect(value(run, 'ob_b', 'rotation.z')).toBe(12);
    }
  });

  it('goes on through an edit and a snapshot; what is hidden is dropped', () => {
    const p = two({ drag: { along: 'x', moves: true, back: null } });
    let run = started(p);
    run.step([at(0, 0, true)]);
    run.step([at(30, 0, true)]);
    run = loadRun(new Run(run.program), saveRun(run));
    const first = { ob_0: objectOf('ob_0', { kind: 'group' }, {}, { order: 'A' }) };
    editRun(run, { ...p, objects: { ...first, ...p.objects } });
    run.step([at(50, 0, true)]);
    expect(value(run, 'ob_a', 'position.x')).toBe(50);
    run.takeTrace();
    run.step([{ at: 0, put: { object: 'ob_a', property: 'shown', value: false } }]);
    run.step([]);
    run.step([at(70, 0, true)]);
    expect(events(run.takeTrace())).toEqual(['drag.drop']);
    expect(value(run, 'ob_a', 'position.x')).toBe(50);
  });
});

describe('following', () => {
  it('goes after the pointer, over the frame or from an object, and keeps the last when it is away', () => {
    const p = two();
    p.follows['fo_a'] = follow({ pointer: 'x' }, { from: [-480, 480], to: [-30, 30] });
    p.follows['fo_b'] = follow(
      { pointer: 'y', object: 'ob_b' },
      { id: 'fo_b', target: { object: 'ob_a', property: 'position.y' }, clamp: false },
    );
    const run = started(p);
    expect(value(run, 'ob_b', 'rotation.z')).toBe(0);
    run.step([at(240, 80, false)]);
    expect([value(run, 'ob_b', 'rotation.z'), value(run, 'ob_a', 'position.y')]).toEqual([15, 80]);
    run.step([at(900, 0, false)]);
    run.step([{ at: 0, pointer: null }]);
    expect(value(run, 'ob_b', 'rotation.z')).toBe(30);
  });

  it('measures distances between pivots, and from the pointer on the screen', () => {
    const p = two({}, { azimuth: 60, elevation: 0 });
    p.follows['fo_a'] = follow({ distance: ['ob_a', 'ob_b'] });
    p.follows['fo_b'] = follow(
      { distance: ['pointer', 'ob_b'] },
      { id: 'fo_b', target: { object: 'ob_a', property: 'rotation.x' } },
    );
    const run = started(p);
    expect(value(run, 'ob_b', 'rotation.z')).toBeCloseTo(200, 9);
    run.step([at(0, 30, false)]);
    expect(value(run, 'ob_a', 'rotation.x')).toBeCloseTo(Math.hypot(100, 30), 6);
  });

  it('says a number in words, and any signal as it is', () => {
    const p = two();
    p.objects['ob_t'] = objectOf('ob_t', {
      ...{ kind: 'text', text: 'none', font: 'sans', size: 32, weight: 400, align: 'left' },
    });
    const common = { shared: false, note: '' };
    p.signals['si_n'] = { id: 'si_n', name: 'n', type: 'number', initial: 2, ...common };
    p.follows['fo_a'] = follow({ signal: 'si_n' }, { target: { object: 'ob_t', property: 'text' } });
    const run = started(p);
    const words = () =>
      propertyValue(run.state.values, run.program.objectIndex.get('ob_t') as number, 'text');
    expect(words()).toBe('2');
    run.step([{ at: 0, set: { n: 7.5 } }]);
    expect(words()).toBe('7.5');
  });

  it('stands in the file, goes with its object, with its source, and into a copy', () => {
    const p = two();
    p.follows['fo_a'] = follow({ distance: ['pointer', 'ob_a'] }, { from: [0, 9], to: [9, 0] });
    const read = readPieceJson(JSON.parse(writePiece(p)));
    expect(read.ok && read.value.follows).toEqual(p.follows);
    for (const id of ['ob_a', 'ob_b']) {
      const store = new PieceStore(p);
      new History(store).edit('Deleted', (e) => removeWithReferences(e, [id]));
      expect(store.ids('follows')).toEqual([]);
    }
    const store = new PieceStore(p);
    const x = excerpt(store, ['ob_b'], true);
    let n = 0;
    new History(store).edit(
      'Pasted',
      (e) => void insertExcerpt(e, x, null, (kind) => `${kind.slice(0, 2)}_new${n++}`),
    );
    const copy = store.all('follows').find((f) => f.id !== 'fo_a') as Follow;
    expect(copy.source).toEqual({ distance: ['pointer', 'ob_a'] });
    expect(store.has('objects', (copy.target as { object: string }).object)).toBe(true);
    const broken = { ...p, follows: { fo_a: { ...p.follows['fo_a'], to: undefined } } };
    const refused = readPieceJson(JSON.parse(JSON.stringify(broken)));
    expect(!refused.ok && refused.problems.map((x) => x.path)).toEqual(['follows.fo_a']);
  });

  it('of what cannot be followed is refused by its place', () => {
    const p = two();
    p.follows['fo_a'] = follow({ pointer: 'x' }, { target: { object: 'ob_b', property: 'fill' } });
    expect(checkIntegrity(p).map((x) => x.path)).toEqual(['follows.fo_a.target.property']);
  });
});

it('a lane asks what the pointer is over and holds when that changes, with what lies below', () => {
  const p = two({ parent: 'ob_g' });
  p.objects['ob_g'] = objectOf('ob_g', { kind: 'group' });
  const way = (from: string, to: string, when: object) => ({
    ...{ id: `tr_${from}`, from: `st_${from}`, to: `st_${to}`, on: null, when: [when], notBefore: null },
    ...{ crossfade: { seconds: 0 }, odds: null, enabled: true, set: true, reenter: false, mayRepeat: true },
  });
  const states = ['out', 'over', 'held'].map((n) => ({ id: `st_${n}`, name: n, play: 'rest' as const }));
  p.machines['ma_a'] = {
    ...{ id: 'ma_a', name: 'm', object: 'ob_g' },
    lanes: [
      {
        ...{ id: 'la_a', name: 'l', initial: 'st_out', unkeyed: 'base', amount: 1, blend: 'replace', states },
        transitions: [
          way('out', 'over', { fact: 'over', object: 'ob_g' }),
          way('over', 'held', { fact: 'pressed', object: 'ob_g' }),
          way('held', 'out', { fact: 'pressed', is: false }),
        ] as never,
      },
    ],
  };
  const run = started(p);
  const state = () => states[run.state.active[0] as number]?.name;
  run.step([at(200, 0, true)]);
  run.step([at(200, 0, false)]);
  expect(state()).toBe('out');
  run.step([at(0, 0, false)]);
  expect(state()).toBe('over');
  run.step([at(0, 0, true)]);
  expect(state()).toBe('held');
  run.step([at(300, 200, false)]);
  expect(state()).toBe('out');
});

it('faces: turns the shortest way until its front points there, seen from its parent', () => {
  const random = seeded(9);
  for (let n = 0; n < 60; n++) {
    const axis = (['x', 'y', 'z'] as const)[n % 3] as 'x';
    const p = two({ parent: 'ob_g' });
    const around = () => [400 * random() - 200, 400 * random() - 200, 400 * random() - 200] as const;
    p.objects['ob_g'] = objectOf(
      'ob_g',
      { kind: 'group' },
      { rotation: [...around()], position: [...around()] },
    );
    p.objects['ob_b'] = objectOf('ob_b', square, { position: [...around()] });
    const start = 720 * random() - 360;
    const base = p.objects['ob_a']?.base as SceneObject['base'];
    base.rotation = [0, 0, 0];
    base.rotation['xyz'.indexOf(axis)] = start;
    p.reactions['re_a'] = {
      ...{ id: 're_a', object: 'ob_a', on: { event: 'key.down' }, when: [], after: 0, cooldown: 0 },
      ...{ limit: 'always' as const },
      actions: [{ do: 'face', object: 'ob_a', toward: 'ob_b', axis, seconds: 0.1, easing: 'linear' }],
    } as Reaction;
    const run = started(p);
    run.step([{ at: 0, key: 'a', down: true }]);
    for (let i = 0; i < 8; i++) run.step([]);
    const turned = value(run, 'ob_a', `rotation.${axis}`);
    expect(Math.abs(turned - start)).toBeLessThanOrEqual(180 + 1e-9);
    // In its own space the way there has no part across the plane that the turn can reach.
    const [from, to] = [new Float64Array(3), new Float64Array(3)];
    const object = (id: string) => run.program.objectIndex.get(id) as number;
    run.scene.pivot(object('ob_a'), false, from);
    run.scene.pivot(object('ob_b'), false, to);
    const seen = run.scene.seenFromParent(
      object('ob_a'),
      [0, 1, 2].map((r) => (to[r] as number) - (from[r] as number)),
    ) as [number, number, number];
    const [x, y, z] = seen;
    const want = axis === 'x' ? Math.atan2(-y, z) : axis === 'y' ? Math.atan2(x, z) : Math.atan2(y, x);
    const off = (((turned - (want * 180) / Math.PI) % 360) + 540) % 360;
    expect(off).toBeCloseTo(180, 6);
  }
});

it('the angle of a point is that of Math.atan2, whatever the quadrant', () => {
  const random = seeded(3);
  for (let n = 0; n < 2000; n++) {
    const [y, x] = [(random() - 0.5) * 10 ** (8 * random() - 4), (random() - 0.5) * 10 ** (8 * random() - 4)];
    expect(Math.abs(atan2Deg(y, x) - (Math.atan2(y, x) * 180) / Math.PI)).toBeLessThan(1e-12);
  }
  expect([atan2Deg(0, 1), atan2Deg(1, 0), atan2Deg(0, -1), atan2Deg(-1, 0), atan2Deg(0, 0)]).toEqual([
    0, 90, 180, -90, 0,
  ]);
});
