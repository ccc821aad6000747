import { describe, expect, it } from 'vitest';
import { toZod } from '../src/check/index.ts';
import { visitor } from '../src/features/visitor/index.ts';
import { zones } from '../src/features/zones/index.ts';
import { conditionSchema } from '../src/model/event.ts';
import type { Condition, SignalValue } from '../src/model/index.ts';
import { withFeatures } from '../src/run/compile.ts';
import { allOf, compileTests } from '../src/run/conditions.ts';
import type { Facts } from '../src/run/facts.ts';
import type { Names } from '../src/run/names.ts';

const values: Record<string, SignalValue> = {
  si_on: true,
  si_n: 7,
  si_m: 9,
  si_c: 'red',
  si_nan: Number.NaN,
};
const names = {
  signal: (id: string) => Object.keys(values).indexOf(id),
  lane: (id: string) => ['la_a'].indexOf(id),
  state: (lane: number, id: string) => (lane === 0 ? ['st_a', 'st_b'].indexOf(id) : -1),
  clip: (id: string) => ['cl_a'].indexOf(id),
  object: () => -1,
  parts: { zones: { number: (id: string) => ['co_a'].indexOf(id) } },
  tagged: (tag: string) => (tag === 'ta_fruit' ? [1, 2] : []),
} as unknown as Names;
// One zone has noticed the objects 1 and 5, which are the second and the last of its three pairs.
const facts = {
  signal: (i: number) => Object.values(values)[i] ?? false,
  stateActive: (lane: number, state: number) => lane === 0 && state === 0,
  over: () => false,
  pressed: () => false,
  clipPast: (clip: number, object: number, seconds: number) => clip === 0 && object === -1 && seconds <= 0.5,
  program: {
    parts: {
      tracking: { nodeOf: new Map([2, 1, 5].map((object, node) => [object, node])) },
      zones: { colliders: [{ firstPair: 0, count: 3, rank: Int32Array.of(0, 1, 2) }] },
    },
  },
  state: { parts: { zones: { overlapping: Uint8Array.of(0, 1, 1) } } },
} as unknown as Facts;
const features = withFeatures([zones, visitor]);
const allHold = (list: readonly Condition[], of: Facts) =>
  allOf(compileTests(list, names, features, 're_a'))(of);
const conditionHolds = (c: Condition, of: Facts) => allHold([c], of);

describe('conditions', () => {
  it('compare with values and with other signals', () => {
    const cases: [object, boolean][] = [
      [{ signal: 'si_on', is: true }, true],
      [{ signal: 'si_on', not: true }, false],
      [{ signal: 'si_n', atLeast: 7 }, true],
      [{ signal: 'si_n', above: 7 }, false],
      [{ signal: 'si_n', atMost: 7 }, true],
      [{ signal: 'si_n', below: 7 }, false],
      [{ signal: 'si_n', below: { signal: 'si_m' } }, true],
      [{ signal: 'si_n', is: { signal: 'si_m' } }, false],
      [{ signal: 'si_c', is: 'red' }, true],
      [{ signal: 'si_c', not: 'blue' }, true],
      // Ordering is for numbers only.
      [{ signal: 'si_c', above: 'a' }, false],
      [{ signal: 'si_on', atLeast: 0 }, false],
      [{ signal: 'si_nan', atLeast: 0 }, false],
      [{ signal: 'si_nan', below: 0 }, false],
    ];
    for (const [c, holds] of cases)
      expect(conditionHolds(toZod(conditionSchema).parse(c), facts), JSON.stringify(c)).toBe(holds);
  });

  it('facts can be asked for and against', () => {
    const state = { fact: 'state' as const, lane: 'la_a', state: 'st_a' };
    expect(conditionHolds(state, facts)).toBe(true);
    expect(conditionHolds({ ...state, is: false }, facts)).toBe(false);
    expect(conditionHolds({ ...state, state: 'st_b', is: false }, facts)).toBe(true);
    expect(conditionHolds({ fact: 'clip', clip: 'cl_a', past: 0.5 }, facts)).toBe(true);
    expect(conditionHolds({ fact: 'clip', clip: 'cl_a', past: 0.6 }, facts)).toBe(false);
  });

  it('a zone is asked what it has noticed: a thing, things with tags, how many', () => {
    const zone = { collider: 'co_a' };
    const cases: [object, boolean][] = [
      [{ fact: 'inside', ...zone }, true],
      [{ fact: 'inside', ...zone, is: false }, false],
      // Of what has the tag, 1 is in it and 2 is not.
      [{ fact: 'near', ...zone, tags: ['ta_fruit'] }, true],
      [{ fact: 'inside', ...zone, tags: ['ta_none'] }, false],
      [{ fact: 'count', ...zone, is: 2 }, true],
      [{ fact: 'count', ...zone, tags: ['ta_fruit'], atLeast: 2 }, false],
      [{ fact: 'count', ...zone, tags: ['ta_fruit'], below: 2 }, true],
      [{ fact: 'inside', collider: 'co_gone', is: false }, true],
    ];
    for (const [c, holds] of cases)
      expect(conditionHolds(toZod(conditionSchema).parse(c), facts), JSON.stringify(c)).toBe(holds);
    expect(toZod(conditionSchema).safeParse({ fact: 'count', ...zone }).success).toBe(false);
    expect(toZod(conditionSchema).safeParse({ fact: 'count', ...zone, is: 1, above: 0 }).success).toBe(false);
  });

  it('all must hold; none asked hold', () => {
    expect(allHold([], facts)).toBe(true);
    expect(
      allHold(
        [
          { signal: 'si_on', is: true },
          { signal: 'si_n', is: 8 },
        ],
        facts,
      ),
    ).toBe(false);
  });

  it('a condition that compares in two ways, or in none, is refused', () => {
    expect(toZod(conditionSchema).safeParse({ signal: 'si_n', above: 1, below: 5 }).success).toBe(false);
    expect(toZod(conditionSchema).safeParse({ signal: 'si_n' }).success).toBe(false);
  });
});
