/** Effects and captions: what is set off, how it looks at any instant, who waits, and what is told. */
import { describe, expect, it } from 'vitest';
import { checkIntegrity, readInput, readPiece } from '../src/check/index.ts';
import { type Action, type Effect, emptyPiece, type On, type Piece, writePiece } from '../src/model/index.ts';
import {
  compile,
  editRun,
  loadRun,
  poseReader,
  Run,
  saveRun,
  type TraceRecord,
} from '../src/runtime/index.ts';
import { seeded } from '../testing/random.ts';
import { objectOf } from './box-piece.ts';
import { Case } from './case.ts';

const burst = (more: Partial<Extract<Effect, { kind: 'burst' }>> = {}): Effect => ({
  ...{ id: 'ef_b', name: 'Sparks', kind: 'burst', count: 12, seconds: [0.6, 1.2], direction: 90, spread: 60 },
  ...{ speed: [60, 120], gravity: [0, -200, 0], drag: 0, depth: 0, size: [4, 8], spin: [0, 0] },
  ...{ fills: ['#b23529'], drawing: 'dot', fade: 0.5 },
  ...more,
});
const flash: Effect = {
  ...{
    id: 'ef_f',
    name: 'Flash',
    kind: 'flash',
    fill: '#ffffff',
    opacity: 0.8,
    seconds: 0.3,
    easing: 'linear',
  },
};
const shake: Effect = {
  ...{ id: 'ef_s', name: 'Shake', kind: 'shake', amount: [6, 4], turn: 2, seconds: 0.4, frequency: 12 },
};

/** Two boxes, one in a group; each list of actions acts on a keyboard key of its own, `a`, `b`, … */
function pieceOf(...lists: Action[][]): Piece {
  const p = emptyPiece('p', 'Effects');
  p.objects['ob_g'] = objectOf('ob_g', { kind: 'group' }, { position: [10, 0, 0], rotation: [0, 0, 90] });
  p.objects['ob_a'] = objectOf(
    'ob_a',
    { kind: 'rect', size: [20, 20] },
    { position: [30, 0, 0] },
    { parent: 'ob_g', name: 'Bell' },
  );
  p.objects['ob_b'] = objectOf('ob_b', { kind: 'rect', size: [20, 20] }, { position: [-50, 0, 0] });
  for (const e of [burst(), flash, shake]) p.effects[e.id] = e;
  lists.forEach((actions, i) => {
    react(p, `re_${i}`, { event: 'key.down', key: 'abcdefgh'[i] as string }, actions);
  });
  return p;
}
function react(p: Piece, id: string, on: On, actions: Action[], object = 'ob_b'): void {
  p.reactions[id] = { id, object, on, when: [], after: 0, cooldown: 0, limit: 'always', actions };
}

class Shows extends Case {
  read(text: string): number | string | null {
    const reader = poseReader(this.run, text);
    if (!reader) throw new Error(text);
    return reader() as number | string | null;
  }
  /** What happened to captions, in short. */
  get captions(): string[] {
    return this.records.flatMap((r) => {
      const at = Math.round(r.t * 60);
      if (r.kind === 'caption') return [`${at} ${r.object} says ${r.text}`];
      if (r.event === 'caption.gone') return [`${at} ${r.object} gone: ${r.why}`];
      return r.event === 'caption.answer' ? [`${at} ${r.object} answered ${r.answer}`] : [];
    });
  }
}

describe('bursts', () => {
  it('particles go their way from where the pivot was, by the formula and the stream of the burst', () => {
    const c = new Shows(pieceOf([{ do: 'burst', effect: 'ef_b', object: 'ob_a' }]));
    const told = c.key('a').last.find((r) => r.kind === 'burst');
    expect(told).toMatchObject({ effect: 'ef_b', object: 'ob_a', burst: 0 });
    // The group is turned by 90°: 30 px to its right are 30 px up.
    for (const [axis, at] of [
      ['x', 10],
      ['y', 30],
      ['z', 0],
    ] as const)
      expect(c.read(`Sparks#0/3.${axis}`)).toBeCloseTo(at, 9);
    const sizes = Array.from({ length: 12 }, (_, i) => c.read(`Sparks#0/${i}.size`) as number);
    expect(new Set(sizes).size).toBe(12);
    expect(sizes.every((s) => s >= 4 && s <= 8)).toBe(true);
    c.to(c.run.tick + 30);
    // Half a second later each has flown 30 to 60 px its own way, less the 25 px that it has fallen.
    for (let i = 0; i < 12; i++) {
      const [x, y] = [c.read(`Sparks#0/${i}.x`) as number, c.read(`Sparks#0/${i}.y`) as number];
      const far = Math.hypot(x - 10, y - 30 + 25);
      expect(far).toBeGreaterThanOrEqual(30 - 1e-9);
      expect(far).toBeLessThanOrEqual(60 + 1e-9);
      const direction = (Math.atan2(y - 30 + 25, x - 10) * 180) / Math.PI;
      expect(Math.abs(direction - 90)).toBeLessThanOrEqual(30 + 1e-9);
    }
    c.to(c.run.tick + 45);
    expect(Array.from({ length: 12 }, (_, i) => c.read(`Sparks#0/${i}.x`))).toEqual(Array(12).fill(null));
    expect(c.run.state.parts.effects?.active.count).toBe(0);
  });

  it('with drag they come to rest as their equation of motion says, stepped finely', () => {
    const random = seeded(7);
    for (let n = 0; n < 20; n++) {
      const k = 0.1 + random() * 6;
      const p = pieceOf([{ do: 'burst', effect: 'ef_b', object: 'ob_b' }]);
      p.effects['ef_b'] = burst({
        drag: k,
        depth: 1,
        gravity: [30 * random(), -200 * random(), 10],
        seconds: [2, 2],
      });
      const c = new Shows(p);
      c.key('a');
      c.to(c.run.tick + 2);
      const read = () => 'xyz'.split('').map((f) => c.read(`Sparks#0/4.${f}`) as number);
      // Its place at two ticks gives its speed, about; from there on small steps tell where it comes to.
      const e = p.effects['ef_b'] as Extract<Effect, { kind: 'burst' }>;
      const start = read();
      const speedAt = (from: number[], to: number[]) => from.map((f, i) => ((to[i] as number) - f) * 60);
      c.step();
      let place = read();
      let v = speedAt(start, place).map((s, i) => s + ((e.gravity[i] as number) - k * s) / 120);
      const STEPS = 20000;
      for (let s = 0; s < STEPS; s++) {
        v = v.map((x, i) => x + ((e.gravity[i] as number) - k * x) / STEPS);
        place = place.map((x, i) => x + (v[i] as number) / STEPS);
      }
      c.to(c.run.tick + 60);
      read().forEach((x, i) => {
        expect(Math.abs(x - (place[i] as number))).toBeLessThan(0.2);
      });
    }
  });

  it('each burst has its own stream; the first is the same whatever comes after, and from a snapshot on', () => {
    const p = pieceOf([{ do: 'burst', effect: 'ef_b', object: 'ob_b' }]);
    const [one, two] = [new Shows(p), new Shows(p)];
    one.key('a');
    two.key('a');
    two.key('a');
    one.step();
    expect(two.read('Sparks#0/5.x')).toBe(one.read('Sparks#0/5.x'));
    expect(two.read('Sparks#1/5.size')).not.toBe(two.read('Sparks#0/5.size'));
    const later = loadRun(new Run(compile(p)), saveRun(two.run));
    const from = poseReader(later, 'Sparks#1/5.y');
    two.to(20);
    while (later.tick < 20) later.step();
    expect(from?.()).toBe(two.read('Sparks#1/5.y'));
    expect(from?.()).not.toBeNull();
  });

  it('it begins where the pivot is at the exact date, though the thing moves', () => {
    const p = pieceOf([
      { do: 'tween', object: 'ob_b', property: 'position.x', to: 50, seconds: 1, easing: 'linear' },
      { do: 'burst', effect: 'ef_b', object: 'ob_b', after: 0.333 },
    ]);
    const c = new Shows(p);
    c.key('a');
    const began = c.run.time;
    c.to(40);
    const told = c.records.find((r) => r.kind === 'burst') as TraceRecord;
    expect(told.t).toBeCloseTo(began + 0.333, 9);
    const show = c.run.state.parts.effects?.active.data.subarray(4, 7) ?? [];
    expect(show[0]).toBeCloseTo(-50 + 100 * 0.333, 9);
  });
});

describe('flashes and shakes', () => {
  it('a flash is strongest as it begins and goes by its easing; the strongest counts', () => {
    const p = pieceOf([{ do: 'flash', effect: 'ef_f' }], [{ do: 'flash', effect: 'ef_f', object: 'ob_a' }]);
    const c = new Shows(p);
    c.key('a');
    expect(c.read('frame.flash')).toBeCloseTo(0.8, 9);
    c.to(c.run.tick + 9);
    expect(c.read('frame.flash')).toBeCloseTo(0.4, 9);
    c.key('b');
    expect(c.read('Bell.flash')).toBeCloseTo(0.8, 9);
    expect(c.read('ob_b.flash')).toBe(0);
    c.to(c.run.tick + 18);
    expect(c.read('frame.flash')).toBe(0);
  });

  it('of those that begin within a second only three are shown; a second later one is again', () => {
    const p = pieceOf([{ do: 'flash', effect: 'ef_f' }]);
    const c = new Shows(p);
    const shown = () => c.key('a').last.find((r) => r.action === 'flash')?.shown ?? true;
    expect([shown(), shown(), shown(), shown(), shown()]).toEqual([true, true, true, false, false]);
    c.to(60);
    // The first began with tick 1: at tick 61 it is a second ago.
    expect([shown(), shown(), shown(), shown()]).toEqual([true, true, true, false]);
  });

  it('shakes add up, of the frame and of a thing apart, and are over at their end', () => {
    const p = pieceOf([{ do: 'shake', effect: 'ef_s' }], [{ do: 'shake', effect: 'ef_s', object: 'ob_b' }]);
    const c = new Shows(p);
    c.key('a');
    c.to(c.run.tick + 5);
    const x = 6 * (1 - 5 / 24) ** 2 * Math.sin(2 * Math.PI * 12 * (5 / 60));
    const turn = 2 * (1 - 5 / 24) ** 2 * Math.sin(2 * Math.PI * 0.83 * 12 * (5 / 60));
    expect(c.read('frame.shake.x')).toBeCloseTo(x, 9);
    expect(c.read('frame.shake.turn')).toBeCloseTo(turn, 9);
    expect(c.read('ob_b.shake.x')).toBe(0);
    c.key('a');
    const one = 4 * (1 - 6 / 24) ** 2 * Math.sin(2 * Math.PI * 1.37 * 12 * 0.1);
    expect(c.read('frame.shake.y')).toBeCloseTo(one, 9);
    c.to(c.run.tick + 24);
    expect(c.read('frame.shake.x')).toBe(0);
    expect(c.run.state.parts.effects?.active.count).toBe(0);
  });

  it('an effect of another kind is refused with a sentence and its place', () => {
    const p = pieceOf([{ do: 'flash', effect: 'ef_b' }]);
    expect(checkIntegrity(p)).toEqual([
      {
        code: 'effect',
        path: 'reactions.re_0.actions[0].effect',
        message: 'The effect "Sparks" is a burst, not a flash.',
      },
    ]);
  });

  it('what a file leaves out of an effect stands for what it usually is, and it is written whole', () => {
    const p = JSON.parse(writePiece(pieceOf())) as { effects: Record<string, unknown> };
    p.effects = { ef_b: { id: 'ef_b', name: 'Sparks', kind: 'burst' } };
    const read = readPiece(JSON.stringify(p));
    expect(read.ok && read.value.effects['ef_b']).toEqual(burst());
  });
});

describe('captions', () => {
  const says = (text: string, more: object = {}): Action =>
    ({ do: 'caption', object: 'ob_a', text, seconds: 1, ...more }) as Action;
  const asks = {
    seconds: null,
    answers: [
      { id: 'an_y', text: 'Yes' },
      { id: 'an_n', text: 'No' },
    ],
  };

  it('one goes by itself; another takes its place, waits, or does not come', () => {
    const c = new Shows(
      pieceOf(
        [says('one')],
        [says('two')],
        [says('three', { again: 'queue' })],
        [says('no', { again: 'ignore' })],
      ),
    );
    c.key('a');
    c.key('c');
    c.key('c');
    c.key('d');
    c.key('b');
    c.to(300);
    expect(c.captions).toEqual([
      '1 ob_a says one',
      '5 ob_a gone: replaced',
      '5 ob_a says two',
      '65 ob_a gone: time',
      '65 ob_a says three',
      '125 ob_a gone: time',
      '125 ob_a says three',
      '185 ob_a gone: time',
    ]);
    // Who asked for it is the cause of one that waited, too.
    const third = c.records.filter((r) => r.kind === 'caption')[2];
    expect(c.records.find((r) => r.id === third?.cause)).toMatchObject({
      kind: 'reaction',
      reaction: 're_2',
    });
  });

  it('exact dates: what follows one that ends between ticks begins there', () => {
    const c = new Shows(
      pieceOf([says('one', { seconds: 0.1051 }), says('two', { again: 'queue', seconds: 0.1 })]),
    );
    c.key('a');
    c.to(60);
    const dates = c.records.filter((r) => r.kind === 'caption' || r.event === 'caption.gone').map((r) => r.t);
    const start = 1 / 60;
    [start, start + 0.1051, start + 0.1051, start + 0.2051].forEach((t, i) => {
      expect(dates[i]).toBeCloseTo(t, 9);
    });
  });

  it('one that asks stays until it is answered; the answer is heard by its id, by the object, by default its own', () => {
    const p = pieceOf([says('ready?', asks)], [says('', {})]);
    const count = (id: string, on: On, object?: string) => {
      p.signals[`si_${id}`] = {
        ...{ id: `si_${id}`, name: id, type: 'number', initial: 0, shared: false, note: '' },
      } as Piece['signals'][string];
      react(p, `re_${id}`, on, [{ do: 'add', signal: `si_${id}`, by: 1 }], object);
    };
    count('yes', { event: 'caption.answer', answer: 'an_y' });
    count('no', { event: 'caption.answer', answer: 'an_n' });
    count('any', { event: 'caption.answer', object: 'ob_a' });
    count('own', { event: 'caption.answer' }, 'ob_a');
    count('other', { event: 'caption.answer' }, 'ob_b');
    count('gone', { event: 'caption.gone' }, 'ob_a');
    const c = new Shows(p);
    const counted = () =>
      ['yes', 'no', 'any', 'own', 'other', 'gone'].map((id) => c.run.signalValue(`si_${id}`));
    c.key('a');
    c.to(600);
    expect(counted()).toEqual([0, 0, 0, 0, 0, 0]);
    expect(c.step({ answer: { object: 'Bell', answer: 'Maybe' } }).last[0]).toMatchObject({ missed: true });
    expect(c.step({ answer: { object: 'ob_b', answer: 'an_y' } }).last[0]).toMatchObject({ missed: true });
    c.step({ answer: { object: 'Bell', answer: 'Yes' } });
    expect(counted()).toEqual([1, 0, 1, 1, 0, 1]);
    c.key('a');
    c.step({ answer: { object: 'ob_a', answer: 'an_n' } });
    expect(counted()).toEqual([1, 1, 2, 2, 0, 2]);
    // Words that are none take it away.
    c.key('a');
    c.key('b');
    expect(c.captions.slice(-2)).toEqual(['606 ob_a says ready?', '607 ob_a gone: replaced']);
  });

  it('an answer at the very date of its end counts', () => {
    const c = new Shows(pieceOf([says('quick', { ...asks, seconds: 0.5 })]));
    c.key('a');
    c.to(30);
    c.step({ answer: { object: 'ob_a', answer: 'an_y' } });
    expect(c.captions).toEqual(['1 ob_a says quick', '31 ob_a answered an_y', '31 ob_a gone: answer']);
  });

  it('its words are worked out when it is asked for; it stands above its object, inside the frame', () => {
    const p = pieceOf([says('', { text: { signal: 'si_n' }, object: 'ob_b' })]);
    p.signals['si_n'] = {
      ...{ id: 'si_n', name: 'n', type: 'number', initial: 7, shared: false, note: '' },
    } as Piece['signals'][string];
    const c = new Shows(p);
    c.key('a');
    expect(c.captions).toEqual(['1 ob_b says 7']);
    expect([c.read('ob_b.caption.x'), c.read('ob_b.caption.y')]).toEqual([480 - 50, 270 - 10]);
    expect(c.read('Bell.caption.x')).toBeNull();
    c.step({ put: { object: 'ob_b', property: 'position.x', value: -2000 } });
    c.step({ put: { object: 'ob_b', property: 'position.y', value: 2000 } });
    c.step({ put: { object: 'ob_b', property: 'shown', value: false } });
    expect([c.read('ob_b.caption.x'), c.read('ob_b.caption.y')]).toEqual([8, 8]);
  });

  it('what stands and waits goes on from a snapshot, and through an edit', () => {
    const p = pieceOf(
      [says('one'), says('two', { again: 'queue' })],
      [{ do: 'burst', effect: 'ef_b', object: 'ob_a' }],
    );
    const plain = new Shows(p);
    const saved = new Shows(p);
    const edited = new Shows(p);
    for (const c of [plain, saved, edited]) {
      c.key('a');
      c.key('b');
      c.to(20);
    }
    const run = loadRun(new Run(compile(p)), saveRun(saved.run));
    const told: string[] = [];
    while (run.tick < 200) {
      run.step();
      for (const r of run.takeTrace()) told.push(`${r.id} ${r.kind} ${r.t} ${r.cause}`);
    }
    const before = plain.records.length;
    plain.to(200);
    expect(told).toEqual(plain.records.slice(before).map((r) => `${r.id} ${r.kind} ${r.t} ${r.cause}`));
    // An object before it in the tree: all numbers are others, and what is under way stays.
    const other = structuredClone(p);
    other.objects['ob_0'] = objectOf('ob_0', { kind: 'group' });
    editRun(edited.run, other);
    const there = plain.read('Sparks#0/2.x') === null;
    expect(there).toBe(true);
    expect(edited.read('Sparks#0/2.x')).not.toBeNull();
    edited.to(200);
    expect(edited.captions).toEqual(plain.captions);
    // Without its object it is gone, and nothing is told.
    const last = new Shows(p);
    last.key('a');
    const without = structuredClone(p);
    delete without.objects['ob_a'];
    without.reactions = {};
    editRun(last.run, without);
    last.to(200);
    expect(last.captions).toEqual(['1 ob_a says one']);
  });

  it('a storm of captions ends', () => {
    const p = pieceOf([says('a')]);
    react(p, 're_x', { event: 'caption.gone', object: 'ob_a' }, [says('a', { seconds: 0 })]);
    const c = new Shows(p);
    c.key('a');
    c.to(70);
    expect(c.records.some((r) => r.kind === 'storm')).toBe(true);
  });
});

it('answers are read among inputs', () => {
  expect(readInput({ at: 1, answer: { object: 'Bell', answer: 'Yes' } })).not.toBeNull();
  expect(readInput({ at: 1, answer: { object: 'Bell' } })).toBeNull();
});
