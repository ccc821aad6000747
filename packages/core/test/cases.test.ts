/** Small semantic cases, each by itself and from snapshots; `e2e/determinism.spec.ts` runs them in the browser. */
import { describe, expect, it } from 'vitest';
import { checkIntegrity } from '../src/check/index.ts';
import { ALL_CASES, allFailures } from './cases/all.ts';
import { pieceOf } from './cases/made.ts';

describe.each(Object.entries(ALL_CASES))('%s', (_, cases) => {
  it.each(cases.map((c) => [c.says, c] as const))('%s', (_, c) => {
    expect(checkIntegrity(pieceOf(c))).toEqual([]);
    expect(allFailures(c)).toEqual([]);
  });
});
