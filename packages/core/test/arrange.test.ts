import { describe, expect, it } from 'vitest';
import { checkIntegrity, readPieceJson } from '../src/check/index.ts';
import {
  ANCHORS,
  drawn,
  editDrawing,
  emptyPiece,
  History,
  type Piece,
  PieceStore,
  removeWithReferences,
  type SceneObject,
  type Vec3,
} from '../src/model/index.ts';
import { compile, FaceBuilder, propertyValue, Run } from '../src/runtime/index.ts';
import { FILL_HIT, fitFrame, hitTop } from '../src/world/index.ts';
import { seeded } from '../testing/random.ts';
import { objectOf as object } from './box-piece.ts';

const rect = (w: number, h = w) => ({ kind: 'rect', size: [w, h], radius: 0 });
const ellipse = (w: number, h = w) => ({ kind: 'ellipse', size: [w, h] });
const pieceWith = (...objects: SceneObject[]): Piece => ({
  ...emptyPiece('p', 'Test'),
  objects: Object.fromEntries(objects.map((o) => [o.id, o])),
});
const FRONT = { azimuth: 0, elevation: 0 };
const top = (p: Piece, x: number, y: number, view = FRONT, frame = p.frame, values?: Float64Array) => {
  const program = compile(p);
  const faces = new FaceBuilder().build(program, values ?? program.base, view, null, frame);
  return program.objects[hitTop(faces, x, y)]?.id ?? null;
};

describe('masks', () => {
  const window = object('ob_w', ellipse(60), { shown: false, position: [20, 0, 0] });
  const masked = (side: 'inside' | 'outside') =>
    object('ob_z', rect(200), {}, { mask: { by: 'ob_w', side } });

  it('what is masked away is not hit; the window works unshown, inside or outside', () => {
    for (const side of ['inside', 'outside'] as const) {
      const p = pieceWith(window, masked(side));
      expect(top(p, 20, 0)).toBe(side === 'inside' ? 'ob_z' : null);
      expect(top(p, 49, 0)).toBe(side === 'inside' ? 'ob_z' : null);
      expect(top(p, 51, 0)).toBe(side === 'inside' ? null : 'ob_z');
    }
  });

  it('it holds for all that is below, and masks within masks both count', () => {
    const group = object('ob_g', { kind: 'group' }, {}, { mask: { by: 'ob_w', side: 'inside' } });
    const child = object('ob_z', rect(200), {}, { parent: 'ob_g', mask: { by: 'ob_v', side: 'outside' } });
    const inner = object('ob_v', rect(20), { shown: false, position: [20, 0, 0] });
    const p = pieceWith(window, group, child, inner);
    expect(top(p, 20, 0)).toBeNull();
    expect(top(p, 40, 0)).toBe('ob_z');
    expect(top(p, -40, 0)).toBeNull();
  });

  it('a moving window moves what is seen', () => {
    const p = pieceWith(window, masked('inside'));
    const values = compile(p).base.slice();
    values[0] = -70;
    expect(top(p, -70, 0, FRONT, p.frame, values)).toBe('ob_z');
    expect(top(p, 20, 0, FRONT, p.frame, values)).toBeNull();
  });

  it('of a turned shape or a solid it is the projected outline, at any angle', () => {
    const random = seeded(99);
    const solids = [
      { kind: 'box', size: [80, 60, 40] },
      { kind: 'cylinder', size: [60, 80, 60] },
      { kind: 'ball', size: [90, 60, 50] },
      rect(90, 50),
    ];
    for (const view of [FRONT, { azimuth: 35, elevation: 29 }, { azimuth: 10, elevation: 80 }])
      for (const solid of solids) {
        const rotation: Vec3 = [40, 360 * random(), 25];
        const by = object('ob_w', solid, { rotation });
        // The cover lies far behind, so that it is the only other thing and does not cut the solid.
        const p = pieceWith(
          { ...by, base: { ...by.base, shown: false } },
          object(
            'ob_z',
            { kind: 'ball', size: [600, 600, 600] },
            {},
            { mask: { by: 'ob_w', side: 'inside' } },
          ),
        );
        const alone = pieceWith(by);
        for (let n = 0; n < 60; n++) {
          const [x, y] = [140 * (random() - 0.5), 140 * (random() - 0.5)];
          expect(top(p, x, y, view) === 'ob_z').toBe(top(alone, x, y, view) === 'ob_w');
        }
      }
  });

  it('a window that goes takes the mask off', () => {
    const store = new PieceStore(pieceWith(window, masked('inside')));
    new History(store).edit('Deleted', (e) => removeWithReferences(e, ['ob_w']));
    expect(store.get('objects', 'ob_z')?.mask).toBeNull();
    expect(checkIntegrity(store.toPiece())).toEqual([]);
  });
});

describe('looks', () => {
  const face = object(
    'ob_f',
    rect(40),
    { fill: '#112233' },
    {
      looks: [
        { id: 'lo_wide', name: 'wide', size: [120, 20] },
        { id: 'lo_disc', name: 'disc', kind: 'ellipse', size: [80, 80], fill: '#aa0000' },
      ],
    },
  );
  const withLook = (look: string) => pieceWith({ ...face, base: { ...face.base, look } });

  it('each says only what differs, also another kind of shape with a fill of its own', () => {
    expect(top(pieceWith(face), 50, 0)).toBeNull();
    expect(top(withLook('lo_wide'), 50, 0)).toBe('ob_f');
    expect(top(withLook('lo_wide'), 0, 15)).toBeNull();
    // A disc: round, not square.
    expect(top(withLook('lo_disc'), 0, 38)).toBe('ob_f');
    expect(top(withLook('lo_disc'), 35, 35)).toBeNull();
    const program = compile(withLook('lo_disc'));
    expect(new FaceBuilder().build(program, program.base, FRONT).rgb[0]).toBe(0xaa0000);
  });

  it('are put by actions, keyed in clips, and read back by their ids', () => {
    const p = pieceWith(face);
    p.clips['cl_a'] = {
      id: 'cl_a',
      name: 'a',
      root: 'ob_f',
      duration: 1,
      loop: 'once',
      cues: [],
      tracks: [
        {
          object: 'ob_f',
          property: 'look',
          mode: 'absolute',
          keys: [
            { t: 0, value: '', easing: 'linear' },
            { t: 0.5, value: 'lo_wide', easing: 'linear' },
          ],
        },
      ],
    };
    p.machines['ma_a'] = {
      id: 'ma_a',
      name: 'a',
      object: 'ob_f',
      lanes: [
        {
          id: 'la_a',
          name: 'a',
          initial: 'st_a',
          unkeyed: 'base',
          amount: 1,
          blend: 'replace',
          states: [{ id: 'st_a', name: 'a', play: { clip: 'cl_a', speed: 1, from: 'start' } }],
          transitions: [],
        },
      ],
    };
    p.reactions['re_a'] = {
      id: 're_a',
      object: 'ob_f',
      on: { event: 'key.down', key: 'k' },
      when: [],
      after: 0,
      cooldown: 0,
      limit: 'always',
      actions: [{ do: 'look', object: 'ob_f', to: 'lo_disc' }],
    };
    expect(readPieceJson(p)).toMatchObject({ ok: true });
    const run = new Run(compile(p));
    const look = () => propertyValue(run.state.values, 0, 'look');
    for (let i = 0; i < 25; i++) run.step();
    expect(look()).toBe('');
    for (let i = 0; i < 10; i++) run.step();
    expect(look()).toBe('lo_wide');
    run.step([{ at: 0, key: 'k', down: true }]);
    expect(look()).toBe('lo_disc');
  });

  it('one that does not suit its object, or that is asked for and not there, is told', () => {
    const bad = (looks: unknown) => readPieceJson({ ...pieceWith({ ...face, looks } as SceneObject) });
    const problems = (r: ReturnType<typeof bad>) =>
      r.ok ? [] : r.problems.map((p) => `${p.path} ${p.message}`);
    expect(problems(bad([{ id: 'lo_a', name: 'a', kind: 'polygon' }]))[0]).toContain(
      'does not suit its object',
    );
    expect(problems(bad([{ id: 'lo_a', name: 'a', size: [10, 10, 10] }]))[0]).toContain('looks[0]');
    expect(problems(readPieceJson(withLook('lo_gone')))[0]).toContain(
      'There is no look with the id "lo_gone"',
    );
  });
});

describe('on top', () => {
  const badge = (anchor: string, more: object = {}) =>
    object('ob_b', rect(40, 20), {}, { overlay: { anchor, offset: [0, 0], ofOwn: [0, 0], ...more } });
  const FRAMES = [
    { width: 960, height: 540 },
    { width: 400, height: 800 },
    { width: 1200, height: 300 },
  ];

  it('stands at its anchor at any size of frame and any angle', () => {
    for (const frame of FRAMES)
      for (const view of [FRONT, { azimuth: 60, elevation: 45 }])
        ANCHORS.forEach((anchor, i) => {
          const x = ((i % 3) - 1) * (frame.width / 2);
          const y = (1 - Math.floor(i / 3)) * (frame.height / 2);
          const p = { ...pieceWith(badge(anchor)), frame: { ...emptyPiece('p', 'x').frame, ...frame } };
          expect(top(p, x + 19, y + 9, view), anchor).toBe('ob_b');
          expect(top(p, x + 21, y + 9, view), anchor).toBeNull();
        });
  });

  it('waits just outside an edge by per cent of its own size, and its own place is added', () => {
    for (const { width, height } of FRAMES) {
      const p = pieceWith(badge('bottom', { offset: [5, 0], ofOwn: [0, -50] }));
      const frame = { ...p.frame, width, height };
      expect(top(p, 5, -height / 2 - 1, FRONT, frame)).toBe('ob_b');
      expect(top(p, 5, -height / 2 + 1, FRONT, frame)).toBeNull();
      const values = compile(p).base.slice();
      values[1] = 20;
      expect(top(p, 5, -height / 2 + 19, FRONT, frame, values)).toBe('ob_b');
    }
  });

  it('is painted after everything else, whatever its depth, with all that is below it', () => {
    const p = pieceWith(
      badge('middle', {}),
      object('ob_c', rect(10), {}, { parent: 'ob_b' }),
      object('ob_z', rect(200), { position: [0, 0, 500] }),
    );
    expect(top(p, 15, 0)).toBe('ob_b');
    expect(top(p, 0, 0)).toBe('ob_c');
    expect(top(p, 60, 0)).toBe('ob_z');
  });
});

describe('hit shapes', () => {
  const small = object('ob_s', rect(20), { opacity: 0 }, { hitShape: { kind: 'ellipse', size: [100, 60] } });

  it('take the place of the drawing for hits, larger or unseen; shown off they are not hit', () => {
    const p = pieceWith(small);
    expect(top(p, 45, 0)).toBe('ob_s');
    expect(top(p, 45, 25)).toBeNull();
    expect(top(pieceWith({ ...small, base: { ...small.base, shown: false } }), 0, 0)).toBeNull();
    const away = {
      ...small,
      base: { ...small.base, opacity: 1 },
      hitShape: { kind: 'rect', size: [10, 10], at: [100, 0] },
    };
    expect(top(pieceWith(away as SceneObject), 100, 0)).toBe('ob_s');
    expect(top(pieceWith(away as SceneObject), 0, 0)).toBeNull();
  });

  it('are never painted, and without one what is wholly transparent is not hit', () => {
    const program = compile(pieceWith(small));
    const faces = new FaceBuilder().build(program, program.base, FRONT);
    expect([...faces.fill.subarray(0, faces.count)]).toEqual([FILL_HIT]);
    const { hitShape: _, ...bare } = small;
    expect(top(pieceWith(bare as SceneObject), 0, 0)).toBeNull();
  });
});

describe('the drawing that is shown', () => {
  const face = object(
    'ob_f',
    rect(40),
    { look: 'lo_a' },
    { looks: [{ id: 'lo_a', name: 'a', size: [10, 10] }] },
  );

  it('is changed in its look: the own drawing stays, what is equal to it is not held', () => {
    const wide = editDrawing(
      face,
      (o) => ({ ...o, size: [40, 40], base: { ...o.base, fill: '#aa0000' } }) as SceneObject,
    );
    expect(wide.looks).toEqual([{ id: 'lo_a', name: 'a', fill: '#aa0000' }]);
    expect(wide.base.fill).toBe(face.base.fill);
    expect(drawn(wide).base.fill).toBe('#aa0000');
    const moved = editDrawing(face, (o) => ({ ...o, base: { ...o.base, position: [1, 2, 3] } }));
    expect(moved.base.position).toEqual([1, 2, 3]);
    expect(moved.looks).toEqual(face.looks);
  });

  it('can be without what the own drawing has', () => {
    const star = object(
      'ob_s',
      { kind: 'polygon', size: [40, 40], sides: 5, star: 0.5 },
      { look: 'lo_a' },
      {
        looks: [{ id: 'lo_a', name: 'a' }],
      },
    );
    const plain = editDrawing(star, (o) => {
      const { star: _, ...rest } = o as SceneObject & { star?: number };
      return rest as SceneObject;
    });
    expect(drawn(plain)).not.toHaveProperty('star');
    expect(drawn({ ...plain, base: { ...plain.base, look: '' } })).toHaveProperty('star', 0.5);
    expect(readPieceJson(pieceWith(plain))).toMatchObject({ ok: true });
  });

  it('without a look it is the object itself', () => {
    const plain = { ...face, base: { ...face.base, look: '' } };
    expect(drawn(plain)).toBe(plain);
    expect(editDrawing(plain, (o) => ({ ...o, name: 'x' })).name).toBe('x');
  });
});

it('a frame fits its space in three ways', () => {
  const frame = { width: 960, height: 540 };
  const space = { width: 480, height: 540 };
  expect(fitFrame({ ...frame, fit: 'contain' }, space)).toEqual({ width: 960, height: 540, scale: 0.5 });
  expect(fitFrame({ ...frame, fit: 'cover' }, space)).toEqual({ width: 480, height: 540, scale: 1 });
  expect(fitFrame({ ...frame, fit: 'widen' }, space)).toEqual({ width: 960, height: 1080, scale: 0.5 });
});

it('guides are seen only while making', () => {
  const p = pieceWith(object('ob_g', rect(50), {}, { guide: true }));
  const program = compile(p);
  expect(new FaceBuilder().build(program, program.base, FRONT).count).toBe(0);
  expect(new FaceBuilder().build(program, program.base, FRONT, null).count).toBe(1);
});
