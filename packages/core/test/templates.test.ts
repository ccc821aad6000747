import { describe, expect, it } from 'vitest';
import { checkIntegrity, readPieceJson } from '../src/check/index.ts';
import {
  excerpt,
  expand,
  History,
  insertExcerpt,
  type Piece,
  PieceStore,
  removeWithReferences,
  writePiece,
} from '../src/model/index.ts';
import { compile, loadRun, poseReader, Run, saveRun } from '../src/runtime/index.ts';
import { seeded } from '../testing/random.ts';
import { objectOf } from './box-piece.ts';
import { Case } from './case.ts';
import { instance, lamp, reaction, read, signal, withLamp } from './template-piece.ts';

describe('instances', () => {
  it('are written out as groups, with ids and names that say where they lie', () => {
    const p = withLamp();
    p.objects['ob_a'] = instance('ob_a', 10, {}, { name: 'First' });
    const { piece } = expand(p);
    expect(Object.keys(piece.objects)).toEqual(['ob_a', 'ob_a/ob_body', 'ob_a/ob_bulb']);
    expect(piece.objects['ob_a']?.kind).toBe('group');
    expect(piece.objects['ob_a/ob_body']?.parent).toBe('ob_a');
    expect(piece.objects['ob_a/ob_bulb']?.parent).toBe('ob_a/ob_body');
    expect(piece.signals['ob_a/si_on']?.name).toBe('First/si_on');
    expect(piece.machines['ob_a/ma_lamp']?.lanes[0]?.id).toBe('ob_a/la_lamp');
    // What it is made of is as it was.
    expect(p.objects['ob_a']?.kind).toBe('instance');
  });

  it('run each by itself, with values of their own', () => {
    const p = withLamp();
    p.objects['ob_a'] = instance('ob_a', -100);
    p.objects['ob_b'] = instance('ob_b', 100, { si_fast: 2 });
    const c = new Case(p).step({ click: 'ob_a' }).step({ click: 'ob_b/ob_bulb' });
    expect(c.run.signalValue('ob_a/si_on')).toBe(true);
    c.ticks(15);
    const turned = ['ob_a', 'ob_b'].map((id) => read(c.run, `${id}/ob_bulb`, 'rotation.z') as number);
    // One tick more for the first, at half the speed.
    expect(turned[0]).toBeCloseTo((16 / 60) * 360, 6);
    expect(turned[1]).toBeCloseTo((15 / 60) * 720, 6);
    expect(c.records.filter((r) => r.kind === 'transition').map((r) => r.lane)).toEqual([
      'ob_a/la_lamp',
      'ob_b/la_lamp',
    ]);
  });

  it('run as the same written out by hand does: 40 random lists of clicks', () => {
    const p = withLamp();
    for (const [id, x] of [
      ['ob_a', -200],
      ['ob_b', 0],
      ['ob_c', 200],
    ] as const)
      p.objects[id] = instance(id, x);
    const { piece } = expand(p);
    // Ids as a hand would give them.
    const byHand = JSON.parse(
      JSON.stringify({ ...piece, templates: {} }).replaceAll(/"(ob_[abc])\/([a-z]{2})_/g, '"$2_$1'),
    ) as Piece;
    expect(checkIntegrity(byHand)).toEqual([]);
    const random = seeded(5);
    for (let round = 0; round < 40; round++) {
      const [one, other] = [new Case(p), new Case(byHand)];
      for (let k = 0; k < 30; k++) {
        const which = 'abc'[Math.floor(random() * 3)];
        const clicks = random() < 0.3;
        one.step(...(clicks ? [{ click: `ob_${which}/ob_bulb` }] : []));
        other.step(...(clicks ? [{ click: `ob_ob_${which}bulb` }] : []));
        expect(one.last.map((r) => [r.kind, r.event])).toEqual(other.last.map((r) => [r.kind, r.event]));
      }
      expect(one.run.state.values).toEqual(other.run.state.values);
    }
  });

  it('have signals that others give, mapped, at the start and whenever these change, told as caused by them', () => {
    const p = withLamp();
    p.signals['si_pace'] = signal('si_pace', 'number', 5);
    p.objects['ob_a'] = instance('ob_a', 0, { si_fast: { signal: 'si_pace', from: [0, 10], to: [0, 1] } });
    const c = new Case(p);
    expect(c.run.signalValue('ob_a/si_fast')).toBe(0.5);
    c.step({ set: { si_pace: 8 } });
    expect(c.run.signalValue('ob_a/si_fast')).toBe(0.8);
    const [outer, inner] = c.last.filter((r) => r.kind === 'signal');
    expect([outer?.signal, inner?.signal, inner?.cause]).toEqual(['si_pace', 'ob_a/si_fast', outer?.id]);
  });

  it('give a value that does not fit, or whose signal is gone, to nothing, and keep it', () => {
    const p = withLamp();
    p.objects['ob_a'] = instance('ob_a', 0, { si_fast: 'quick', si_gone: 3 });
    expect(new Case(p).run.signalValue('ob_a/si_fast')).toBe(1);
    const back = readPieceJson(JSON.parse(writePiece(p)));
    expect(back.ok && back.value).toEqual(p);
  });

  it('lie in one another, each named by the way to it', () => {
    const p = withLamp();
    p.templates['te_row'] = {
      ...lamp({ id: 'te_row', name: 'Row' }),
      objects: {
        ob_row: objectOf('ob_row', { kind: 'group' }),
        ob_left: instance('ob_left', -50, { si_fast: { signal: 'si_all' } }, { parent: 'ob_row' }),
        ob_right: instance('ob_right', 50, {}, { parent: 'ob_row' }),
      },
      ...{ clips: {}, machines: {}, reactions: {}, signals: { si_all: signal('si_all', 'number', 3) } },
    };
    p.objects['ob_a'] = objectOf('ob_a', { kind: 'instance', template: 'te_row', signals: { si_all: 4 } });
    p.reactions['re_in'] = reaction(
      're_in',
      'ob_a',
      { event: 'pointer.click', object: 'ob_a/ob_right/ob_body' },
      [{ do: 'set', signal: 'ob_a/si_all', to: 7 }],
    );
    const c = new Case(p);
    expect(c.run.signalValue('ob_a/ob_left/si_fast')).toBe(4);
    c.step({ click: 'ob_a/ob_right/ob_body' });
    expect(c.run.signalValue('ob_a/ob_left/si_fast')).toBe(7);
    expect(c.run.signalValue('ob_a/ob_right/si_on')).toBe(true);
  });

  it('have signals that clips and actions write like any property, and that stay as they are otherwise', () => {
    const p = withLamp();
    p.objects['ob_a'] = instance('ob_a', 0);
    p.objects['ob_k'] = objectOf(
      'ob_k',
      { kind: 'rect', size: [10, 10], radius: 0 },
      { position: [200, 0, 0] },
    );
    p.clips['cl_k'] = {
      ...{ id: 'cl_k', name: 'k', root: 'ob_k', duration: 1, loop: 'once', cues: [] },
      tracks: [
        {
          ...{ object: 'ob_a', property: 'signal.si_fast', mode: 'absolute' },
          keys: [
            { t: 0, value: 0, easing: 'linear' },
            { t: 1, value: 10, easing: 'linear' },
          ],
        },
        {
          ...{ object: 'ob_a', property: 'signal.si_on', mode: 'absolute' },
          keys: [
            { t: 0, value: false, easing: 'hold' },
            { t: 0.5, value: true, easing: 'hold' },
          ],
        },
      ],
    } as Piece['clips'][string];
    p.reactions['re_k'] = reaction('re_k', 'ob_k', { event: 'pointer.click' }, [
      { do: 'play', clip: 'cl_k', object: 'ob_k' },
    ]);
    p.reactions['re_put'] = reaction('re_put', 'ob_k', { event: 'key.down', key: 'p' }, [
      { do: 'put', object: 'ob_a', property: 'signal.si_fast', to: 6 },
    ]);
    const c = new Case(p).step({ set: { 'ob_a/si_fast': 2 } });
    expect(c.run.signalValue('ob_a/si_fast')).toBe(2);
    c.step({ click: 'ob_k' }).ticks(15);
    expect(c.run.signalValue('ob_a/si_fast')).toBeCloseTo(2.5, 1);
    expect(c.run.signalValue('ob_a/si_on')).toBe(false);
    c.ticks(20);
    expect(c.run.signalValue('ob_a/si_on')).toBe(true);
    // It is over: what it came to stays, until something else is set.
    c.ticks(40);
    const end = c.run.signalValue('ob_a/si_fast') as number;
    expect(end).toBeGreaterThan(9);
    c.ticks(5);
    expect(c.run.signalValue('ob_a/si_fast')).toBe(end);
    c.key('p').ticks(1);
    expect(c.run.signalValue('ob_a/si_fast')).toBe(6);
    c.step({ set: { 'ob_a/si_fast': 1 } }).ticks(2);
    expect(c.run.signalValue('ob_a/si_fast')).toBe(6);
  });
});

describe('the switch of a zone', () => {
  it('is a property of its owner: off, all leave; on, what is there enters; a blocker lets through', () => {
    const p = withLamp();
    p.tags['ta_x'] = { id: 'ta_x', name: 'x' };
    const zone = (id: string, more: object) =>
      ({
        ...{ id, name: id, role: 'zone', shape: 'box', at: [0, 0, 0], size: [80, 80, 80] },
        ...{ through: false, tags: ['ta_x'], visitor: true, on: true, ...more },
      }) as Piece['colliders'][string];
    p.colliders = {
      co_z: zone('co_z', {}),
      co_b: zone('co_b', { role: 'blocker', tags: [], size: [20, 200, 200] }),
    };
    p.objects['ob_o'] = objectOf('ob_o', { kind: 'group' }, {}, { colliders: ['co_z'] });
    p.objects['ob_w'] = objectOf(
      'ob_w',
      { kind: 'group' },
      { position: [150, 0, 0] },
      { colliders: ['co_b'] },
    );
    p.objects['ob_t'] = objectOf('ob_t', { kind: 'rect', size: [9, 9], radius: 0 }, {}, { tags: ['ta_x'] });
    p.objects['ob_v'] = objectOf('ob_v', { kind: 'group' }, { position: [100, 0, 0] });
    p.visitor = {
      ...{ object: 'ob_v', speed: 600, plane: 'x', drag: false, facing: 'none' },
      keys: { left: ['a'], right: ['d'], up: [], down: [] },
    };
    const put = (object: string, property: string, to: unknown) => ({ do: 'put', object, property, to });
    for (const [key, to] of [
      ['f', false],
      ['n', true],
    ] as const) {
      p.reactions[`re_${key}`] = reaction(`re_${key}`, 'ob_o', { event: 'key.down', key }, [
        put('ob_o', 'collider.co_z', to),
        put('ob_w', 'collider.co_b', to),
      ]);
    }
    const c = new Case(p);
    const told = () => c.records.flatMap((r) => (r.collider === 'co_z' ? [`${r.event} ${r.other}`] : []));
    expect(told()).toEqual(['zone.enter ob_t']);
    const off = poseReader(c.run, 'ob_o.collider.co_z');
    expect(off?.()).toBe(true);
    c.key('f').ticks(2);
    expect([off?.(), ...told()]).toEqual([false, 'zone.enter ob_t', 'zone.leave ob_t']);
    // Loaded in the middle, it goes on as it would have.
    const saved = saveRun(c.run);
    const other = loadRun(new Run(compile(p)), saved);
    c.key('n').ticks(2);
    other.step([{ at: 0, key: 'n', down: true }]);
    other.step([]);
    other.step([]);
    expect(told().slice(2)).toEqual(['zone.enter ob_t']);
    expect(other.takeTrace().map((r) => r.event)).toContain('zone.enter');
    // The blocker stops the visitor while it is on, and lets it through while it is off.
    c.key('d').ticks(30);
    expect(read(c.run, 'ob_v', 'position.x')).toBeCloseTo(140, 0);
    c.key('f').ticks(30);
    expect(read(c.run, 'ob_v', 'position.x')).toBeGreaterThan(200);
  });
});

describe('what is worked in', () => {
  it('keeps its ids, and what names it from outside finds it', () => {
    const p = withLamp();
    p.objects['ob_a'] = instance('ob_a', 0);
    p.objects['ob_b'] = instance('ob_b', 50);
    p.reactions['re_in'] = reaction('re_in', 'ob_a', { event: 'pointer.click', object: 'ob_a/ob_body' }, [
      { do: 'hide', object: 'ob_b/ob_body' },
    ]);
    const { piece } = expand(p, 'ob_a');
    expect(Object.keys(piece.objects)).toEqual([
      'ob_a',
      'ob_b',
      'ob_body',
      'ob_bulb',
      'ob_b/ob_body',
      'ob_b/ob_bulb',
    ]);
    expect(piece.objects['ob_body']?.parent).toBe('ob_a');
    expect(piece.reactions['re_in']?.on).toEqual({ event: 'pointer.click', object: 'ob_body' });
    expect(piece.reactions['re_in']?.actions).toEqual([{ do: 'hide', object: 'ob_b/ob_body' }]);
    // Without an instance it stands by itself.
    expect(Object.keys(expand(p, 'te_lamp').piece.objects)).toContain('ob_bulb');
  });
});

describe('a template', () => {
  const store = () => {
    const p = withLamp();
    p.objects['ob_a'] = instance('ob_a', 0);
    p.signals['si_pace'] = signal('si_pace', 'number', 1);
    p.reactions['re_in'] = reaction('re_in', 'ob_a', { event: 'pointer.click', object: 'ob_a/ob_bulb' }, [
      { do: 'toggle', signal: 'ob_a/si_on' },
    ]);
    return new PieceStore(p);
  };

  it('is worked in by entering it: what is read and added is its own, and undo brings all back from anywhere', () => {
    const s = store();
    const history = new History(s);
    const before = JSON.stringify(s.toPiece());
    s.enter('te_lamp');
    expect(s.ids('objects')).toEqual(['ob_body', 'ob_bulb']);
    expect(s.ids('signals')).toEqual(['si_on', 'si_fast', 'si_pace']);
    history.edit('Added', (e) => e.add('signals', signal('si_new', 'switch', false)));
    history.edit('Renamed', (e) => e.update('objects', 'ob_bulb', (o) => ({ ...o, name: 'Bulb' })));
    expect(s.toPiece().templates['te_lamp']?.signals['si_new']).toBeDefined();
    expect(s.toPiece().templates['te_lamp']?.objects['ob_bulb']?.name).toBe('Bulb');
    s.enter(null);
    expect(s.ids('objects')).toEqual(['ob_a']);
    history.undo();
    history.undo();
    expect(JSON.stringify(s.toPiece())).toBe(before);
    history.redo();
    expect(s.toPiece().templates['te_lamp']?.signals['si_new']).toBeDefined();
  });

  it('goes with its instances and what names them; a part that goes takes what names it from outside', () => {
    const s = store();
    const history = new History(s);
    const before = JSON.stringify(s.toPiece());
    history.edit('Deleted', (e) => removeWithReferences(e, ['ob_bulb']));
    expect(s.toPiece().reactions['re_in']).toBeUndefined();
    expect(s.toPiece().templates['te_lamp']?.clips['cl_turn']?.tracks).toEqual([]);
    expect(checkIntegrity(s.toPiece())).toEqual([]);
    history.undo();
    s.enter('te_lamp');
    history.edit('Deleted', (e) => removeWithReferences(e, ['te_lamp']));
    expect(s.scope).toBe(null);
    const left = s.toPiece();
    expect([left.templates, left.objects, left.reactions]).toEqual([{}, {}, {}]);
    history.undo();
    expect(s.scope).toBe('te_lamp');
    expect(JSON.stringify(s.toPiece())).toBe(before);
  });

  it('comes along with its instances into another piece', () => {
    const from = store();
    const x = excerpt(from, ['ob_a'], true);
    const p = withLamp(lamp({ id: 'te_other', name: 'Lamp' }));
    const to = new PieceStore(p);
    let n = 0;
    new History(to).edit('Pasted', (e) =>
      insertExcerpt(e, x, null, (kind) => `${kind.slice(0, 2)}_new${n++}`),
    );
    const all = to.toPiece();
    expect(checkIntegrity(all)).toEqual([]);
    expect(Object.values(all.templates).map((t) => t.name)).toEqual(['Lamp', 'Lamp 2']);
    const copied = Object.values(all.objects)[0];
    expect(copied?.kind === 'instance' && all.templates[copied.template]?.name).toBe('Lamp 2');
  });

  it('templates that hold many of each other are measured once each, and refused', () => {
    const p = withLamp(lamp());
    p.templates = {};
    p.objects = {};
    const names = [0, 1, 2, 3, 4, 5, 6];
    for (const k of names) {
      const group = objectOf(`ob_g${k}`, { kind: 'group' });
      const inner = Array.from({ length: k < 6 ? 30 : 0 }, (_, i) =>
        objectOf(
          `ob_${k}_${i}`,
          { kind: 'instance', template: `te_${k + 1}`, signals: {} },
          {},
          { parent: group.id },
        ),
      );
      p.templates[`te_${k}`] = {
        ...lamp({ id: `te_${k}`, name: `T${k}` }),
        objects: Object.fromEntries([group, ...inner].map((o) => [o.id, o])),
        ...{ clips: {}, signals: {}, machines: {}, reactions: {}, follows: {} },
      };
    }
    p.objects['ob_x'] = objectOf('ob_x', { kind: 'instance', template: 'te_0', signals: {} });
    // 30 to the sixth: whoever writes each of them out is not done before the test's time is over.
    expect(checkIntegrity(p)).toMatchObject([{ code: 'size', path: 'templates' }]);
    const eight = structuredClone(p);
    for (const k of [7, 8]) {
      const up = `te_${k === 7 ? 0 : 7}`;
      const group = objectOf(`ob_g${k}`, { kind: 'group' });
      const inner = objectOf(
        `ob_i${k}`,
        { kind: 'instance', template: up, signals: {} },
        {},
        { parent: group.id },
      );
      eight.templates[`te_${k}`] = {
        ...lamp({ id: `te_${k}`, name: `T${k}` }),
        objects: { [group.id]: group, [inner.id]: inner },
        ...{ clips: {}, signals: {}, machines: {}, reactions: {}, follows: {} },
      };
    }
    expect(
      checkIntegrity(eight).some((x) => x.message === 'Templates lie in one another at most 8 deep.'),
    ).toBe(true);
  });

  it.each<[string, (p: Piece) => void, string]>([
    [
      'holds itself',
      (p) => {
        (p.templates['te_lamp'] as ReturnType<typeof lamp>).objects['ob_me'] = instance(
          'ob_me',
          0,
          {},
          { parent: 'ob_body' },
        );
      },
      'The template "Lamp" holds itself.',
    ],
    [
      'has two topmost objects',
      (p) => {
        (p.templates['te_lamp'] as ReturnType<typeof lamp>).objects['ob_two'] = objectOf('ob_two', {
          kind: 'group',
        });
      },
      'A template holds exactly one object that lies in no other.',
    ],
    [
      'has an id that the piece has',
      (p) => {
        p.objects['ob_body'] = objectOf('ob_body', { kind: 'group' });
      },
      'The id "ob_body" is used twice.',
    ],
    [
      'is asked for an object of another scope',
      (p) => {
        p.reactions['re_out'] = reaction('re_out', 'ob_a', { event: 'pointer.click', object: 'ob_bulb' }, [
          { do: 'toggle', signal: 'ob_a/si_on' },
        ]);
      },
      'There is no object with the id "ob_bulb".',
    ],
    [
      'is asked for a signal that it has not',
      (p) => {
        p.reactions['re_out'] = reaction('re_out', 'ob_a', { event: 'pointer.click' }, [
          { do: 'put', object: 'ob_a', property: 'signal.si_none', to: 1 },
        ]);
      },
      'There is no property called "signal.si_none".',
    ],
    [
      'has an instance that holds more',
      (p) => {
        p.objects['ob_more'] = objectOf('ob_more', { kind: 'group' }, {}, { parent: 'ob_a' });
      },
      'An instance holds what its template does, and nothing else.',
    ],
    [
      'makes too many objects',
      (p) => {
        for (let k = 0; k < 7000; k++) p.objects[`ob_i${k}`] = instance(`ob_i${k}`, k);
      },
      'at most 20000 can be shown.',
    ],
  ])('is refused with one sentence when it %s', (_, change, says) => {
    const p = store().toPiece();
    const copy = JSON.parse(JSON.stringify(p)) as Piece;
    change(copy);
    const found = checkIntegrity(copy).map((x) => x.message);
    expect(
      found.some((m) => m.includes(says)),
      found.join('\n'),
    ).toBe(true);
  });
});
