import { describe, expect, it } from 'vitest';

import type { Piece } from '../src/model/index.ts';
import { compile, editRun, loadRun, poseReader, Run, saveRun } from '../src/runtime/index.ts';
import { objectOf } from './box-piece.ts';
import { Case } from './case.ts';
import { instance, lamp, reaction, read, shown, signal, withLamp } from './template-piece.ts';

describe('spawning', () => {
  /** A piece whose keys spawn lamps: s at the mark, r removes the one that was clicked. */
  function spawner(action: object = {}, more: Partial<Parameters<typeof lamp>[0]> = {}): Piece {
    const p = withLamp(lamp(more));
    p.objects['ob_mark'] = objectOf(
      'ob_mark',
      { kind: 'group' },
      { position: [30, 40, 0], pivot: [5, 0, 0] },
    );
    p.reactions['re_s'] = reaction('re_s', 'ob_mark', { event: 'key.down', key: 's' }, [
      { do: 'spawn', template: 'te_lamp', object: 'ob_mark', offset: [0, 10, 0], ...action },
    ]);
    return p;
  }
  const events = (c: Case) =>
    c.records.flatMap((r) => (r.kind === 'spawn' ? [`${r.event} ${r.object} ${r.why ?? ''}`.trim()] : []));

  it('one comes where an object is, does what the template does, and goes exactly after its time', () => {
    const c = new Case(spawner({ seconds: 0.25 }));
    expect(shown(c.run, 'te_lamp#0')).toBe(false);
    const fast = poseReader(c.run, 'te_lamp#1.signal.si_fast');
    c.key('s').ticks(1);
    expect(fast?.()).toBe(null);
    expect(poseReader(c.run, 'te_lamp#0.signal.si_fast')?.()).toBe(1);
    expect(poseReader(c.run, 'te_lamp#0.signal.si_gone')).toBe(null);
    expect(poseReader(c.run, 'te_lamp#0.position.x')?.()).toBe(35);
    expect(shown(c.run, 'te_lamp#0')).toBe(true);
    expect(['x', 'y', 'z'].map((a) => read(c.run, 'te_lamp#0', `position.${a}`))).toEqual([35, 50, 0]);
    c.step({ click: 'te_lamp#0/ob_body' });
    expect(c.run.signalValue('te_lamp#0/si_on')).toBe(true);
    const start = c.records.find((r) => r.event === 'spawn.start');
    expect(start).toMatchObject({ template: 'te_lamp', object: 'te_lamp#0' });
    c.ticks(20);
    const end = c.records.find((r) => r.event === 'spawn.end');
    expect(end).toMatchObject({ why: 'time', object: 'te_lamp#0' });
    expect((end?.t as number) - (start?.t as number)).toBeCloseTo(0.25, 9);
    expect(shown(c.run, 'te_lamp#0')).toBe(false);
    // The next one begins as the first did, and has its own number.
    c.key('s').ticks(1);
    expect(c.run.signalValue('te_lamp#1/si_on')).toBe(false);
    expect(events(c)).toEqual(['spawn.start te_lamp#0', 'spawn.end te_lamp#0 time', 'spawn.start te_lamp#1']);
  });

  it('the oldest goes for one too many, and numbers are never used again', () => {
    const c = new Case(spawner());
    for (let k = 0; k < 5; k++) c.key('s').step({ key: 's', down: false });
    expect(events(c)).toEqual([
      ...['spawn.start te_lamp#0', 'spawn.start te_lamp#1', 'spawn.start te_lamp#2'],
      ...['spawn.end te_lamp#0 limit', 'spawn.start te_lamp#3'],
      ...['spawn.end te_lamp#1 limit', 'spawn.start te_lamp#4'],
    ]);
    expect([0, 1, 2].every((k) => shown(c.run, `te_lamp#${k}`))).toBe(true);
  });

  it('any part of it serves to remove it; what was not spawned stays', () => {
    const p = spawner({}, {});
    p.objects['ob_a'] = instance('ob_a', -200);
    const remove = reaction('re_x', 'ob_bulb', { event: 'pointer.double' }, [
      { do: 'remove', object: 'ob_bulb' },
      { do: 'toggle', signal: 'si_on' },
    ]);
    (p.templates['te_lamp'] as ReturnType<typeof lamp>).reactions['re_x'] = remove;
    const c = new Case(p).key('s').ticks(1);
    c.step({ click: 'te_lamp#0/ob_bulb' }).step({ click: 'te_lamp#0/ob_bulb' });
    expect(events(c)).toEqual(['spawn.start te_lamp#0', 'spawn.end te_lamp#0 asked']);
    // What comes after it in the same list is not done any more.
    expect(c.last.filter((r) => r.kind === 'signal')).toHaveLength(1);
    c.step({ click: 'ob_a/ob_bulb' }).step({ click: 'ob_a/ob_bulb' });
    expect(shown(c.run, 'ob_a')).toBe(true);
    expect(events(c)).toHaveLength(2);
  });

  it('has timers and signals of its own, from its beginning on, and its start is what its start reactions hear', () => {
    const p = spawner({ signals: { si_fast: { signal: 'si_n' } }, seconds: 1 });
    p.signals['si_n'] = signal('si_n', 'number', 4);
    const { reactions } = p.templates['te_lamp'] as ReturnType<typeof lamp>;
    reactions['re_t'] = reaction('re_t', 'ob_body', { event: 'timer', every: 0.3 }, [
      { do: 'toggle', signal: 'si_on' },
    ]);
    reactions['re_start'] = reaction('re_start', 'ob_body', { event: 'piece.start' }, [
      { do: 'put', object: 'ob_bulb', property: 'opacity', to: 0.5 },
    ]);
    p.reactions['re_told'] = reaction('re_told', 'ob_mark', { event: 'spawn.end', template: 'te_lamp' }, [
      { do: 'add', signal: 'si_n', by: 1 },
    ]);
    const c = new Case(p).to(10).key('s');
    const began = c.run.time;
    c.ticks(1);
    expect(c.run.signalValue('te_lamp#0/si_fast')).toBe(4);
    expect(read(c.run, 'te_lamp#0/ob_bulb', 'opacity')).toBe(0.5);
    c.ticks(80);
    const fired = c.records.filter((r) => r.event === 'timer').map((r) => r.t - began);
    expect(fired).toHaveLength(3);
    fired.forEach((t, k) => {
      expect(t).toBeCloseTo(0.3 * (k + 1), 9);
    });
    expect(c.run.signalValue('si_n')).toBe(5);
    // Nothing of it is left to the next.
    c.key('s').ticks(1);
    expect(c.run.signalValue('te_lamp#1/si_fast')).toBe(5);
  });

  it('is noticed by zones, which are left when it goes, and by what is told before it goes', () => {
    const p = spawner({ seconds: 0.2 });
    p.tags['ta_l'] = { id: 'ta_l', name: 'lamp' };
    const { objects } = p.templates['te_lamp'] as ReturnType<typeof lamp>;
    objects['ob_body'] = { ...(objects['ob_body'] as Piece['objects'][string]), tags: ['ta_l'] };
    p.objects['ob_mark'] = { ...(p.objects['ob_mark'] as Piece['objects'][string]), colliders: ['co_z'] };
    p.colliders['co_z'] = {
      ...{ id: 'co_z', name: 'z', role: 'zone', shape: 'box', at: [0, 0, 0], size: [200, 200, 10] },
      ...{ through: true, tags: ['ta_l'], visitor: true, on: true },
    } as Piece['colliders'][string];
    const c = new Case(p).key('s').ticks(20);
    const told = c.records.flatMap((r) =>
      r.kind === 'event' && r.collider ? [`${r.event} ${r.other}`] : [],
    );
    expect(told).toEqual(['zone.enter te_lamp#0/ob_body', 'zone.leave te_lamp#0/ob_body']);
    const order = c.records.map((r) => r.event);
    expect(order.indexOf('zone.leave')).toBeLessThan(order.indexOf('spawn.end'));
  });

  it('goes with its parent, and what it spawned goes too', () => {
    const p = spawner({ template: 'te_row' });
    p.templates['te_row'] = {
      ...lamp({ id: 'te_row', name: 'Row', max: 2 }),
      objects: { ob_row: objectOf('ob_row', { kind: 'group' }) },
      ...{ clips: {}, machines: {}, signals: {} },
      reactions: {
        re_row: reaction('re_row', 'ob_row', { event: 'piece.start' }, [
          { do: 'spawn', template: 'te_lamp', parent: 'ob_row', offset: [0, 7, 0] },
        ]),
        re_end: reaction('re_end', 'ob_row', { event: 'key.down', key: 'x' }, [
          { do: 'remove', object: 'ob_row' },
        ]),
      },
    };
    const c = new Case(p).key('s').ticks(1);
    expect(events(c)).toEqual(['spawn.start te_row#0', 'spawn.start te_lamp#0']);
    c.key('x').ticks(1);
    expect(events(c).slice(2)).toEqual(['spawn.end te_lamp#0 parent', 'spawn.end te_row#0 asked']);
  });

  it('a run goes on from a snapshot at any tick as it would have gone on', () => {
    const p = spawner({ seconds: 0.3 });
    const inputs = (k: number) => (k % 7 === 0 ? [{ key: 's', down: true } as const] : []);
    const whole = new Case(p);
    for (let at = 3; at < 60; at += 8) {
      whole.run = new Run(compile(p));
      for (let k = 0; k < at; k++) whole.step(...inputs(k));
      const saved = saveRun(whole.run);
      whole.run.takeTrace();
      const other = loadRun(new Run(compile(p)), saved);
      for (let k = at; k < at + 40; k++) {
        const list = inputs(k).map((i) => ({ ...i, at: 0 }));
        whole.run.step(list);
        other.step(list);
        expect(other.takeTrace()).toEqual(whole.run.takeTrace());
        expect(other.state.values).toEqual(whole.run.state.values);
      }
    }
  });

  it('an edit in a run keeps what is spawned, and a change of the template reaches it', () => {
    const p = spawner({ seconds: 1 });
    const c = new Case(p).key('s').ticks(5).step({ click: 'te_lamp#0/ob_body' }).ticks(2);
    const t = p.templates['te_lamp'] as ReturnType<typeof lamp>;
    const body = t.objects['ob_body'] as Piece['objects'][string];
    const changed = { ...body, base: { ...body.base, opacity: 0.4 } };
    const edited = {
      ...p,
      templates: { te_lamp: { ...t, objects: { ...t.objects, ob_body: changed } } },
    };
    editRun(c.run, edited);
    c.ticks(1);
    expect(shown(c.run, 'te_lamp#0')).toBe(true);
    expect(read(c.run, 'te_lamp#0', 'position.x')).toBe(35);
    expect(read(c.run, 'te_lamp#0/ob_body', 'opacity')).toBe(0.4);
    expect(c.run.signalValue('te_lamp#0/si_on')).toBe(true);
    c.ticks(60);
    expect(events(c)).toEqual(['spawn.start te_lamp#0', 'spawn.end te_lamp#0 time']);
  });

  it('2,000 come and go and the state is as large as before', () => {
    const p = spawner({ seconds: 0.05 });
    const c = new Case(p);
    const size = () => saveRun(c.run).bytes.byteLength;
    c.key('s').ticks(20);
    const before = size();
    for (let k = 0; k < 2000; k++) c.key('s').step({ key: 's', down: false });
    c.ticks(20);
    expect(size()).toBe(before);
    expect(c.run.state.spawnCounts[0]).toBe(2001);
    expect(c.run.state.scheduledCount).toBe(0);
  });
});
