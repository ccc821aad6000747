import { maybe, number, ref } from '@apple-tick/core/grammar';
import { FACTS, type Fact } from '@apple-tick/core/model';
import { describe, expect, it } from 'vitest';
import { factOf, newFact, subjectIn, subjectOf } from './fact-picks.ts';

describe('facts as they are picked', () => {
  it('each is begun with what it is of, and what else it needs', () => {
    const begun = (Object.keys(FACTS) as Fact[]).map((f) => factOf(f, 'x'));
    expect(begun).toEqual([
      { fact: 'state', state: 'x' },
      { fact: 'clip', clip: 'x', past: 0.5 },
      { fact: 'inside', collider: 'x' },
      { fact: 'count', collider: 'x', atLeast: 1 },
      { fact: 'near', collider: 'x' },
      { fact: 'speed', above: 0 },
      { fact: 'over', object: 'x' },
      { fact: 'pressed', object: 'x' },
    ]);
    for (const c of begun) if ('fact' in c) expect(subjectIn(c), c.fact).toBe(c.fact === 'speed' ? '' : 'x');
    expect(factOf('pressed', '')).toEqual({ fact: 'pressed' });
    expect(factOf('state', 'st_a', { lane: 'la_a' })).toEqual({ fact: 'state', lane: 'la_a', state: 'st_a' });
  });

  it('a planted one is begun by its fields alone', () => {
    const glows = {
      fields: { object: maybe(ref('objects')), lamp: ref('clips'), level: number({ min: 3 }) },
    };
    expect(subjectOf(glows)).toMatchObject({ field: 'lamp', to: 'clips' });
    expect(newFact(glows, 'cl_a')).toEqual({ lamp: 'cl_a', level: 3 });
  });
});
