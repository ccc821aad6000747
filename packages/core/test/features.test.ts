/** Each feature taken out of the build: what needs it is refused with a sentence, all else runs as it did. */
import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { RunHash } from '../src/base/index.ts';
import { readPiece } from '../src/check/index.ts';
import type { Piece } from '../src/model/index.ts';
import { NotInThisBuild } from '../src/run/claims.ts';
import { ALL, compile, compilePiece, type Program, Run, withFeatures } from '../src/runtime/index.ts';

const ROOT = new URL('../../../', import.meta.url);
const pieces = ['demo', 'starters'].flatMap((folder) =>
  readdirSync(new URL(`${folder}/`, ROOT))
    .filter((f) => f.endsWith('.tick.json'))
    .map((f): Piece => {
      const read = readPiece(readFileSync(new URL(`${folder}/${f}`, ROOT), 'utf8'));
      if (!read.ok) throw new Error(JSON.stringify(read.problems));
      return read.value;
    }),
);

/** Two seconds of a run in which the middle of the frame is pressed and let go. */
function hashOf(program: Program): string {
  const { width, height } = program.piece.frame;
  const run = new Run(program);
  const hash = new RunHash();
  for (let tick = 0; tick < 120; tick++) {
    const at = { x: width / 2, y: height / 2, down: tick % 40 > 20 };
    run.step(tick % 10 === 0 ? [{ at: 0, pointer: at }] : []);
    hash.numbers(run.state.values);
    for (const record of run.takeTrace()) hash.text(JSON.stringify(record));
  }
  return hash.digest();
}

const whole = new Map(pieces.map((p) => [p, hashOf(compile(p))]));

/** Why a build refuses a piece; null where it runs it, and then as the whole build does. */
function refusal(piece: Piece, without: string): string | null {
  const build = withFeatures(ALL.filter((f) => f.name !== without));
  let program: Program;
  try {
    program = compilePiece(piece, build);
  } catch (e) {
    if (e instanceof NotInThisBuild) return e.message;
    throw e;
  }
  expect(hashOf(program), piece.name).toBe(whole.get(piece));
  return null;
}

describe.each(ALL.map((f) => f.name))('without %s', (name) => {
  it('what needs it is refused with its place, and all else runs as it did', () => {
    const refusals = pieces.map((p) => refusal(p, name));
    const sentences = refusals.filter((x) => x !== null);
    expect(sentences.length).toBeGreaterThan(0);
    expect(sentences.length).toBeLessThan(pieces.length);
    for (const s of sentences) expect(s).toMatch(/^This build cannot run .+, which \S+|the piece has\.$/);
  });
});

it('the spine alone runs a piece of states, signals and clicks', () => {
  const alone = pieces.filter((p) => {
    try {
      return hashOf(compilePiece(p, withFeatures([]))) === whole.get(p);
    } catch (e) {
      if (e instanceof NotInThisBuild) return false;
      throw e;
    }
  });
  expect(alone.length).toBeGreaterThan(2);
});

it('no two features claim one kind of action, fact, input or due', () => {
  for (const of of ['actions', 'facts', 'inputs', 'scheduled'] as const) {
    const names = withFeatures(ALL).list.flatMap((f) => Object.keys(f[of] ?? {}));
    expect(new Set(names).size, of).toBe(names.length);
  }
});
