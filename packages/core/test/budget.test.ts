/** Pieces made to be endless: each tick ends after a bounded number of acts and records, and says once who asked for them. */
import { describe, expect, it } from 'vitest';
import type { Piece } from '../src/model/index.ts';
import { compile, Run, type TraceRecord } from '../src/runtime/index.ts';
import { seeded } from '../testing/random.ts';
import { Made } from './cases/made.ts';

/** More than any tick may write: four for each act that it serves, and what one act may bring besides. */
const RECORDS = 4 * (65536 + 16 * 64) + 20_000;

const made = (make: (m: Made) => unknown): Piece => {
  const m = new Made();
  make(m);
  return m.piece;
};
/** The trace, tick by tick. */
function ticks(piece: Piece, n: number): TraceRecord[][] {
  const run = new Run(compile(piece));
  return Array.from({ length: n }, () => {
    run.step([]);
    return run.takeTrace();
  });
}
const storms = (trace: readonly TraceRecord[]) => trace.filter((r) => r.kind === 'storm');
const spawn = (id: string) => ({ do: 'spawn', template: id });
/** Adds a template of one box with a reaction. */
function template(m: Made, id: string, on: object, actions: readonly object[], max = 1000): void {
  m.piece.templates[id] = {
    ...{
      id,
      name: id,
      max,
      objects: { [`ob_${id}`]: { ...m.piece.objects['ob_a'], id: `ob_${id}`, name: id } },
    },
    ...{ clips: {}, signals: {}, machines: {}, follows: {}, cueSheets: {}, colliders: {} },
    reactions: {
      [`re_${id}`]: {
        ...{ id: `re_${id}`, object: `ob_${id}`, on, when: [], after: 0, cooldown: 0, limit: 'always' },
        actions,
      },
    },
  } as unknown as Piece['templates'][string];
}
const flash = { kind: 'flash', fill: '#ffffff', opacity: 0.8, seconds: 60, easing: 'linear' };
const shake = { kind: 'shake', amount: [6, 4], turn: 0, seconds: 60, frequency: 12 };

/** By name, a piece without end and why its ticks are cut short. */
const ENDLESS: Readonly<Record<string, readonly [why: string, make: (m: Made) => unknown]>> = {
  'a template that spawns itself': [
    'spawns',
    (m) => {
      m.box('a').on('a', 'piece.start', [spawn('te_a')]);
      template(m, 'te_a', { event: 'spawn.start' }, [spawn('te_a'), spawn('te_a')]);
    },
  ],
  'each spawn spawns one of another': [
    'ring',
    (m) => {
      m.box('a').on('a', 'piece.start', [spawn('te_a')]);
      template(m, 'te_a', { event: 'spawn.start' }, [spawn('te_b')]);
      template(m, 'te_b', { event: 'spawn.start' }, [spawn('te_a')]);
    },
  ],
  '100,000 spawns a second': [
    'spawns',
    (m) => {
      m.box('a');
      for (let k = 0; k < 100; k++) m.on('a', { event: 'timer', every: 0.001 }, [spawn('te_a')]);
      template(m, 'te_a', { event: 'piece.start' }, []);
    },
  ],
  'a storm of flashes and shakes': [
    'acts',
    (m) => {
      m.box('a').message('m');
      m.piece.effects['ef_f'] = { id: 'ef_f', name: 'f', ...flash } as never;
      m.piece.effects['ef_s'] = { id: 'ef_s', name: 's', ...shake } as never;
      const many = Array.from({ length: 100 }, (_, k) =>
        k % 2 ? { do: 'flash', effect: 'ef_f' } : { do: 'shake', effect: 'ef_s' },
      );
      for (let k = 0; k < 100; k++) m.on('a', { event: 'timer', every: 0.001 }, many);
    },
  ],
  '1,000 cues in a loop of 1 ms at 1,000 times its speed': [
    'dates',
    (m) => {
      m.box('a').number('n');
      const cues = Array.from(
        { length: 1000 },
        (_, k) => [k / 1e6, [{ do: 'add', signal: 'si_n', by: 1 }]] as const,
      );
      m.clip('c', 'a', 0.001, 'loop', { 'position.x': [[0, 0]] }, { cues });
      m.lane('a', [['go', { clip: 'cl_c', speed: 1000, from: 'start' }]]);
    },
  ],
  'reactions that double': [
    'ring',
    (m) => {
      m.box('a').number('n').message('m');
      for (let k = 0; k < 200; k++)
        m.on(
          'a',
          { event: 'timer', every: 0.002 },
          Array.from({ length: 90 }, () => ({ do: 'toggle', signal: 'si_t' })),
        );
      m.toggle('t');
    },
  ],
};

describe('every tick ends', () => {
  it.each(Object.entries(ENDLESS))('%s: one storm a tick', (_, [why, make]) => {
    const all = ticks(made(make), 6);
    for (const trace of all) {
      expect(trace.length).toBeLessThan(RECORDS);
      expect(storms(trace).length).toBeLessThanOrEqual(1);
    }
    const told = all.flatMap(storms);
    expect(told.length).toBeGreaterThan(0);
    for (const s of told) expect(s.why ?? 'ring').toBe(why);
    // It says who asks, or what sets each other off.
    expect(told.every((s) => s.ring?.length || s.reaction || s.lane || s.cue)).toBe(true);
  });

  it('two not-befores of 1e-9 and 1e-7 s that feed each other end within the budget of a tick', () => {
    const piece = made((m) =>
      m.box('a').lane(
        'a',
        [
          ['a', 'rest'],
          ['b', 'rest'],
        ],
        [
          ['a', 'b', { notBefore: { seconds: 1e-9 } }],
          ['b', 'a', { notBefore: { seconds: 1e-7 } }],
        ],
      ),
    );
    for (const trace of ticks(piece, 5)) {
      expect(storms(trace).length).toBeLessThanOrEqual(1);
      expect(trace.filter((r) => r.kind === 'transition').length).toBeLessThan(2 * 4096 + 4);
    }
  });

  it('a go on entry that is asked for twice does not double its records', () => {
    const go = (state: string) => ({ do: 'go', lane: 'la_a', state: `st_${state}` });
    const piece = made((m) =>
      m.box('a').lane('a', [
        ['a', 'rest', { onEntry: [go('b'), go('b')] }],
        ['b', 'rest', { onEntry: [go('a'), go('a')] }],
      ]),
    );
    const [first = []] = ticks(piece, 1);
    expect(first.length).toBeLessThan(1000);
    expect(storms(first)).toHaveLength(1);
  });

  // `PIECES=100` tries more.
  const count = Number(process.env['PIECES'] ?? 20);
  it(`${count} pieces at random, all of which have no end, end each tick`, () => {
    for (let seed = 1; seed <= count; seed++) {
      const next = seeded(seed);
      const of = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)] as T;
      const piece = made((m) => {
        m.box('a').toggle('t').number('n').message('m').message('k');
        m.piece.effects['ef_s'] = { id: 'ef_s', name: 's', ...shake } as never;
        m.lane('a', [
          ['a', 'rest', { onEntry: [{ do: 'go', lane: 'la_a', state: 'st_b', after: of([0, 1e-9, 1e-6]) }] }],
          ['b', 'rest', { onEntry: [{ do: 'go', lane: 'la_a', state: 'st_a', after: of([0, 1e-9, 1e-6]) }] }],
        ]);
        const acts = () => [
          {
            do: 'send',
            message: of(['me_m', 'me_k']),
            ...(next() < 0.3 ? { after: of([1e-9, 1e-5, 0.001]) } : {}),
          },
          { do: 'toggle', signal: 'si_t' },
          spawn(of(['te_a', 'te_b'])),
          { do: 'shake', effect: 'ef_s' },
          { do: 'caption', object: 'ob_a', text: 'x', again: 'queue' },
          { do: 'go', lane: 'la_a', state: of(['st_a', 'st_b']) },
        ];
        const some = () => Array.from({ length: 1 + Math.floor(next() * 4) }, () => of(acts()));
        for (const on of [
          { event: 'message', message: 'me_m' },
          { event: 'message', message: 'me_k' },
        ])
          m.on('a', on, some());
        m.on('a', 'signal.change', some());
        m.on('a', { event: 'timer', every: of([0.001, 0.01]) }, some());
        m.on('a', 'piece.start', [{ do: 'send', message: 'me_m' }, ...some()]);
        template(m, 'te_a', { event: 'spawn.start' }, some(), of([1, 5, 64]));
        template(m, 'te_b', { event: 'spawn.start' }, some(), of([1, 5, 64]));
      });
      for (const trace of ticks(piece, 4)) expect(trace.length).toBeLessThan(RECORDS);
    }
  });
});
