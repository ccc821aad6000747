/** The visitor: walked by keyboard keys and by the pointer, seen from anywhere, noticed by zones. */
import { describe, expect, it } from 'vitest';
import { checkIntegrity, readInput, readPiece } from '../src/check/index.ts';
import {
  emptyPiece,
  History,
  type Piece,
  PieceStore,
  removeWithReferences,
  type Visitor,
  writePiece,
} from '../src/model/index.ts';
import { compile, editRun, loadRun, propertyValue, Run, saveRun } from '../src/runtime/index.ts';
import { seeded } from '../testing/random.ts';
import { objectOf } from './box-piece.ts';
import { Case } from './case.ts';

const KEYS = { left: ['ArrowLeft', 'a'], right: ['ArrowRight'], up: ['ArrowUp'], down: ['ArrowDown'] };

function pieceOf(more: Partial<Visitor> = {}, view = { azimuth: 0, elevation: 0 }): Piece {
  const p = emptyPiece('p', 'Visitor');
  p.view = view;
  p.objects['ob_v'] = objectOf('ob_v', { kind: 'ball', size: [40, 40, 40] });
  p.visitor = {
    ...{ object: 'ob_v', speed: 120, plane: 'xz', keys: KEYS, drag: true, facing: 'none' },
    ...more,
  };
  return p;
}
class Walk extends Case {
  get at(): number[] {
    const object = this.run.program.objectIndex.get('ob_v') as number;
    return 'xyz'
      .split('')
      .map((a) => propertyValue(this.run.state.values, object, `position.${a}`) as number);
  }
  value(property: string): number {
    return propertyValue(this.run.state.values, 0, property) as number;
  }
}
const close = (got: readonly number[], want: readonly number[]) => {
  for (const [i, n] of want.entries()) expect(got[i]).toBeCloseTo(n, 6);
};

describe('walking by keys', () => {
  it('keys held before a tick walk it by speed ÷ 60, until they come up; others do nothing', () => {
    const c = new Walk(pieceOf());
    c.key('ArrowRight');
    close(c.at, [0, 0, 0]);
    c.ticks(10);
    close(c.at, [20, 0, 0]);
    c.key('x').ticks(4);
    close(c.at, [30, 0, 0]);
    // The tick in which it comes up is walked still.
    c.step({ key: 'ArrowRight', down: false }).ticks(10);
    close(c.at, [32, 0, 0]);
    expect(c.records.some((r) => r.kind === 'action')).toBe(false);
  });

  it('slanting ways are as fast, opposite keys cancel each other, and two keys of one way are one', () => {
    const c = new Walk(pieceOf());
    c.key('ArrowRight', 'ArrowUp').ticks(60);
    close(c.at, [120 / Math.SQRT2, 0, -120 / Math.SQRT2]);
    const still = new Walk(pieceOf());
    still.key('ArrowLeft', 'ArrowRight').ticks(30);
    close(still.at, [0, 0, 0]);
    const one = new Walk(pieceOf());
    one.key('ArrowLeft', 'A').ticks(30);
    close(one.at, [-60, 0, 0]);
    one.step({ key: 'a', down: false }).ticks(29);
    close(one.at, [-120, 0, 0]);
  });

  it('right is right on the screen and up is away, from any angle', () => {
    const random = seeded(5);
    for (let n = 0; n < 50; n++) {
      const view = { azimuth: random() * 360 - 180, elevation: 5 + random() * 80 };
      for (const [key, toward] of [
        ['ArrowRight', [1, 0]],
        ['ArrowUp', [0, 1]],
      ] as const) {
        const c = new Walk(pieceOf({}, view));
        const before = new Float64Array(3);
        const after = new Float64Array(3);
        c.run.scene.pivot(0, true, before);
        c.key(key).ticks(30);
        c.run.scene.pivot(0, true, after);
        const [dx, dy] = [0, 1].map((k) => (after[k] as number) - (before[k] as number)) as [number, number];
        expect(dx * toward[1] - dy * toward[0]).toBeCloseTo(0, 6);
        expect(dx * toward[0] + dy * toward[1]).toBeGreaterThan(1);
        expect(Math.hypot(...c.at)).toBeCloseTo(60, 6);
        expect(c.at[1]).toBeCloseTo(0, 9);
      }
    }
  });

  it('along a line it knows left and right only, on a wall up is up; its speed may be a signal', () => {
    const line = new Walk(pieceOf({ plane: 'x' }));
    line.key('ArrowLeft', 'ArrowUp').ticks(60);
    close(line.at, [-120, 0, 0]);
    const wall = new Walk(pieceOf({ plane: 'xy' }));
    wall.key('ArrowUp').ticks(60);
    close(wall.at, [0, 120, 0]);
    const p = pieceOf({ speed: { signal: 'si_s' } });
    p.signals['si_s'] = {
      ...{ id: 'si_s', name: 's', type: 'number', initial: 60, shared: false, note: '' },
    } as Piece['signals'][string];
    const c = new Walk(p);
    c.key('ArrowRight')
      .ticks(30)
      .step({ set: { s: 0 } })
      .ticks(30);
    close(c.at, [30, 0, 0]);
  });

  it('below a turned parent it still walks along the screen', () => {
    const p = pieceOf({}, { azimuth: 30, elevation: 40 });
    p.objects['ob_g'] = objectOf('ob_g', { kind: 'group' }, { rotation: [0, 70, 0] }, { order: 'A' });
    p.objects['ob_v'] = { ...(p.objects['ob_v'] as Piece['objects'][string]), parent: 'ob_g' };
    const c = new Walk(p);
    const [before, after] = [new Float64Array(3), new Float64Array(3)];
    const i = c.run.program.objectIndex.get('ob_v') as number;
    c.run.scene.pivot(i, true, before);
    c.key('ArrowRight').ticks(30);
    c.run.scene.pivot(i, true, after);
    expect((after[0] as number) - (before[0] as number)).toBeCloseTo(60, 6);
    expect(after[1]).toBeCloseTo(before[1] as number, 6);
  });

  it('below what turns it walks the same, whether or not something else has asked for places in this tick', () => {
    const walked = (asked: boolean) => {
      const p = pieceOf();
      p.objects['ob_g'] = objectOf('ob_g', { kind: 'group' });
      p.objects['ob_v'] = { ...p.objects['ob_v'], parent: 'ob_g' } as Piece['objects'][string];
      p.objects['ob_x'] = objectOf('ob_x', { kind: 'ball', size: [10, 10, 10] });
      p.reactions['re_t'] = {
        ...{ id: 're_t', object: 'ob_g', on: { event: 'piece.start' }, when: [], after: 0, cooldown: 0 },
        ...{ limit: 'always', stop: false },
        actions: [{ do: 'motor', object: 'ob_g', property: 'rotation.y', rate: 200 }],
      };
      if (asked)
        p.follows['fo_a'] = {
          ...{
            id: 'fo_a',
            source: { distance: ['ob_g', 'ob_v'] },
            target: { object: 'ob_x', property: 'opacity' },
          },
          ...{ from: [0, 100], to: [0, 1], clamp: true, smooth: 0 },
        } as Piece['follows'][string];
      const c = new Walk(p);
      c.key('ArrowRight').ticks(40);
      return c.at;
    };
    expect(walked(true)).toEqual(walked(false));
  });

  it('faces where it goes: mirrored by the way on the screen, or turned', () => {
    const mirrored = new Walk(pieceOf({ facing: 'mirror' }));
    mirrored.key('ArrowLeft').ticks(2);
    expect(mirrored.value('scale.x')).toBe(-1);
    mirrored.step({ key: 'ArrowLeft', down: false }).ticks(2).key('ArrowUp').ticks(5);
    expect(mirrored.value('scale.x')).toBe(-1);
    mirrored.key('ArrowRight').ticks(2);
    expect(mirrored.value('scale.x')).toBe(1);
    const turned = new Walk(pieceOf({ facing: 'turn' }));
    turned.key('ArrowRight').ticks(2);
    expect(turned.value('rotation.y')).toBeCloseTo(90, 6);
    turned.step({ key: 'ArrowRight', down: false }).key('ArrowDown').ticks(2);
    expect(turned.value('rotation.y')).toBeCloseTo(0, 6);
  });
});

describe('walking to the pointer', () => {
  it.each([
    ['from the front', { azimuth: 0, elevation: 0 }],
    ['in three quarters', { azimuth: 35, elevation: 29 }],
    ['from above', { azimuth: 0, elevation: 90 }],
  ])(
    'seen %s, it goes after the pointer that is pressed on it, at most at its speed, and stays where it is let go',
    (_, view) => {
      const c = new Walk(pieceOf({}, view));
      const pointer = (x: number, y: number, down: boolean) => ({
        pointer: { x: 480 + x, y: 270 - y, down },
      });
      c.step(pointer(5, 5, true)).step(pointer(45, 5, true));
      const on = new Float64Array(3);
      let before = [...c.at];
      for (let n = 0; n < 19; n++) {
        c.step();
        expect(Math.hypot(...c.at.map((v, k) => v - (before[k] as number)))).toBeLessThanOrEqual(2 + 1e-9);
        before = [...c.at];
      }
      c.ticks(20);
      c.run.scene.pivot(0, true, on);
      // 40 px to the right of where it was taken hold of, and not up or down.
      expect(on[0]).toBeCloseTo(40, 4);
      expect(on[1]).toBeCloseTo(0, 4);
      const there = [...c.at];
      c.step(pointer(45, 5, false))
        .step(pointer(-200, 5, false))
        .ticks(10);
      close(c.at, there);
    },
  );

  it('a press beside it, or without `drag`, leads nowhere', () => {
    const pointer = (x: number, down: boolean) => ({ pointer: { x: 480 + x, y: 270, down } });
    const c = new Walk(pieceOf());
    c.step(pointer(100, true)).step(pointer(200, true)).ticks(10);
    close(c.at, [0, 0, 0]);
    const not = new Walk(pieceOf({ drag: false }));
    not.step(pointer(0, true)).step(pointer(200, true)).ticks(10);
    close(not.at, [0, 0, 0]);
  });
});

describe('the visitor in the world', () => {
  it('zones notice it without a tag, unless they say not; near and distances know it; conditions ask its speed', () => {
    const p = pieceOf({ speed: 600 });
    p.objects['ob_z'] = objectOf(
      'ob_z',
      { kind: 'group' },
      { position: [100, 0, 0] },
      { colliders: ['co_a', 'co_b'] },
    );
    const zone = {
      name: 'z',
      role: 'zone',
      shape: 'box',
      at: [0, 0, 0],
      size: [40, 40, 40],
      through: true,
      tags: [],
      on: true,
    };
    p.colliders = {
      co_a: { ...zone, id: 'co_a', visitor: true } as unknown as Piece['colliders'][string],
      co_b: { ...zone, id: 'co_b', visitor: false } as unknown as Piece['colliders'][string],
    };
    p.follows['fo_d'] = {
      ...{ id: 'fo_d', target: { object: 'ob_z', property: 'opacity' } },
      ...{ source: { distance: ['visitor', 'ob_z'] }, from: [0, 100], to: [1, 0], clamp: true, smooth: 0 },
    };
    p.machines['ma_z'] = {
      ...{ id: 'ma_z', name: 'm', object: 'ob_z' },
      lanes: [
        {
          ...{ id: 'la_z', name: 'l', initial: 'st_a', unkeyed: 'base', amount: 1, blend: 'replace' },
          states: ['st_a', 'st_b'].map((id) => ({ id, name: id, play: 'rest' as const })),
          transitions: [
            {
              ...{ id: 'tr_a', from: 'st_a', to: 'st_b', on: null, when: [{ fact: 'speed', above: 100 }] },
              ...{ notBefore: null, crossfade: { seconds: 0 }, odds: null, enabled: true, set: true },
              ...{ reenter: false, mayRepeat: true },
            },
          ],
        },
      ],
    } as Piece['machines'][string];
    const c = new Walk(p);
    c.key('ArrowRight').ticks(30);
    const noticed = c.records.filter((r) => r.collider);
    expect(noticed.map((r) => [r.event, r.collider, r.other])).toEqual([
      ['zone.enter', 'co_a', 'ob_v'],
      ['zone.leave', 'co_a', 'ob_v'],
    ]);
    // At 600 px a second it comes to the zone's edge 80 px on after 80/600 s of walking, which began with the tick after the key.
    expect((noticed[0]?.at as number) - 1 / 60).toBeCloseTo(80 / 600, 6);
    expect(c.records.some((r) => r.transition === 'tr_a')).toBe(true);
    const opacity = new Walk(p);
    opacity.key('ArrowRight').ticks(6);
    const i = opacity.run.program.objectIndex.get('ob_z') as number;
    expect(propertyValue(opacity.run.state.values, i, 'opacity')).toBeCloseTo(0.5, 6);
  });

  it('is put by an input, goes on from a snapshot and through an edit, and lets go of keys when it is another', () => {
    const p = pieceOf();
    const [plain, saved, edited, other] = [new Walk(p), new Walk(p), new Walk(p), new Walk(p)];
    for (const c of [plain, saved, edited, other])
      c.step({ visitor: { x: 10, y: 0, z: -20 } })
        .key('ArrowRight')
        .ticks(10);
    saved.run = loadRun(new Run(compile(p)), saveRun(saved.run));
    editRun(edited.run, {
      ...p,
      objects: { ob_0: objectOf('ob_0', { kind: 'group' }, {}, { order: 'A' }), ...p.objects },
    });
    editRun(other.run, { ...p, visitor: { ...(p.visitor as Visitor), speed: 60 } });
    for (const c of [plain, saved, edited, other]) c.ticks(10);
    close(plain.at, [50, 0, -20]);
    close(saved.at, plain.at);
    close(edited.at, plain.at);
    close(other.at, [30, 0, -20]);
    expect(readInput({ at: 0, visitor: { x: 1, y: 2, z: 3 } })).not.toBeNull();
  });

  it('is written and read, checked, and gone with its object', () => {
    const p = pieceOf();
    const read = readPiece(writePiece(p));
    expect(read.ok && read.value.visitor).toEqual(p.visitor);
    const wrong = (visitor: Partial<Visitor>, overlay = false) => {
      const q = pieceOf(visitor);
      if (overlay)
        q.objects['ob_v'] = {
          ...(q.objects['ob_v'] as Piece['objects'][string]),
          overlay: { anchor: 'top', offset: [0, 0], ofOwn: [0, 0] },
        };
      return checkIntegrity(q).map((x) => `${x.path}: ${x.message}`);
    };
    expect(wrong({ object: 'ob_x' })).toEqual(['visitor.object: There is no object with the id "ob_x".']);
    expect(wrong({ speed: { signal: 'si_x' } })[0]).toContain('visitor.speed: There is no number signal');
    expect(wrong({}, true)[0]).toContain('cannot be on top of the frame');
    const store = new PieceStore(p);
    const history = new History(store);
    history.edit('Deleted', (e) => removeWithReferences(e, ['ob_v']));
    expect(store.toPiece().visitor).toBeNull();
    history.undo();
    expect(store.toPiece()).toEqual(p);
  });
});

describe('moved by hand', () => {
  it('a thing goes straight and evenly to a place in the time given, over whatever a clip says; without a time at once', () => {
    const p = emptyPiece('p', 'Moved');
    p.objects['ob_a'] = objectOf('ob_a', { kind: 'group' }, { position: [10, 20, 30] });
    const c = new Case(p);
    c.run = new Run(compile(p, ['ob_a']));
    const at = () =>
      ['x', 'y', 'z'].map((a) => propertyValue(c.run.state.values, 0, `position.${a}`) as number);
    c.step({ move: { object: 'ob_a', to: [70, 20, -30], over: 1 } }).ticks(30);
    expect(at()).toEqual([40, 20, 0].map((n) => expect.closeTo(n, 6)));
    c.ticks(40);
    expect(at()).toEqual([70, 20, -30]);
    c.step({ move: { object: 'ob_a', to: [1, 2, 3] } });
    expect(at()).toEqual([1, 2, 3]);
    expect(c.records.filter((r) => r.kind === 'input').map((r) => r.input)).toEqual(['move', 'move']);
    c.step({ move: { object: 'nobody', to: [0, 0, 0] } });
    expect(c.last[0]).toMatchObject({ input: 'move', missed: true });
    expect(readInput({ at: 1, move: { object: 'a', to: [1, 2, 3], over: 0.5 } })).not.toBe(null);
    expect(readInput({ at: 1, move: { object: 'a', to: [1, 2] } })).toBe(null);
    expect(readInput({ at: 1, say: { object: 'a', text: '' } })).not.toBe(null);
    expect(readInput({ at: 1, sound: 'bell' })).not.toBe(null);
    expect(readInput({ at: 1, sound: 3 })).toBe(null);
  });
});
