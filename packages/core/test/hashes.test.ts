/**
 * What runs come to, bit for bit: the trace and all values of the Mill, the starters and random pieces, held against hashes
 * in `data/run-hashes.json`. A change of what pieces do must be meant; then `HASHES=write npx vitest run hashes` writes them
 * anew.
 */
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { RunHash } from '../src/base/index.ts';
import { readPiece } from '../src/check/index.ts';
import type { Piece } from '../src/model/index.ts';
import { compile, editRun, type Input, loadRun, Run, saveRun } from '../src/runtime/index.ts';
import { seeded } from '../testing/random.ts';
import { Maker, type Part, TICKS } from './random-piece.ts';

const FILE = new URL('data/run-hashes.json', import.meta.url);
const ROOT = new URL('../../../', import.meta.url);
const known: Record<string, string> =
  process.env['HASHES'] === 'write' ? {} : JSON.parse(readFileSync(FILE, 'utf8'));
const found: Record<string, string> = {};

/** Half a minute in which somebody moves, presses and types, by chance but always the same. */
function handsOn(piece: Piece): (tick: number) => Input[] {
  const random = seeded(piece.seed);
  const keys = ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown', ' ', 'Enter', 'a', 'e'];
  let down = false;
  return (tick) => {
    const out: Input[] = [];
    const at = tick / 60;
    if (random() < 0.3) {
      if (random() < 0.3) down = !down;
      const [x, y] = [random() * piece.frame.width, random() * piece.frame.height];
      out.push({ at, pointer: { x: Math.round(x), y: Math.round(y), down } });
    }
    if (random() < 0.1) {
      const key = keys[Math.floor(random() * keys.length)] as string;
      out.push({ at, key, down: random() < 0.6 });
    }
    return out;
  };
}

/** The hash of a run; at `edited` it goes on with a changed piece, at `loaded` in a run of its own. */
function hashOf(
  piece: Piece,
  ticks: number,
  inputs: (tick: number) => readonly Input[],
  edited = -1,
  loaded = -1,
): string {
  const hash = new RunHash();
  let run = new Run(compile(piece));
  for (let tick = 0; tick < ticks; tick++) {
    if (tick === edited) editRun(run, { ...piece, seed: piece.seed + 1, name: 'Edited' });
    if (tick === loaded) run = loadRun(new Run(run.program), saveRun(run));
    run.step(inputs(tick));
    hash.numbers(run.state.values);
    for (const record of run.takeTrace()) hash.text(JSON.stringify(record));
  }
  return hash.digest();
}

function holds(name: string, hash: string): void {
  found[name] = hash;
  if (process.env['HASHES'] !== 'write') expect(hash).toBe(known[name]);
}

const files = ['demo', 'starters'].flatMap((folder) =>
  readdirSync(new URL(`${folder}/`, ROOT))
    .filter((f) => f.endsWith('.tick.json'))
    .map((f) => `${folder}/${f}`),
);

it.each(files)('%s runs as it did', (file) => {
  const read = readPiece(readFileSync(new URL(file, ROOT), 'utf8'));
  if (!read.ok) throw new Error(JSON.stringify(read.problems));
  const piece = read.value;
  holds(file, hashOf(piece, 1800, handsOn(piece), 900, 1200));
});

const KINDS: readonly (readonly Part[])[] = [
  [],
  ['offsets'],
  ['zones'],
  ['shows'],
  ['acts'],
  ['blockers'],
  ['templates'],
  ['offsets', 'zones', 'acts', 'blockers'],
  ['offsets', 'zones', 'shows', 'templates'],
];
it.each(KINDS.map((parts) => [parts.join('+') || 'plain', parts] as const))(
  'random pieces, %s, run as they did',
  (name, parts) => {
    const hash = new RunHash();
    for (let seed = 1; seed <= 25; seed++) {
      const maker = new Maker(seed, ...parts);
      const inputs = maker.inputs();
      const hands = (tick: number) => (inputs.get(tick) ?? []).map((i) => ({ ...i, at: 0 }) as Input);
      hash.text(hashOf(maker.piece, TICKS, hands, seed % 3 === 0 ? 40 : -1, seed % 3 === 1 ? 50 : -1));
    }
    holds(`random ${name}`, hash.digest());
  },
);

it('no hash is of a piece that is gone', () => {
  if (process.env['HASHES'] === 'write') writeFileSync(FILE, `${JSON.stringify(found, null, 2)}\n`);
  else expect(Object.keys(found).sort()).toEqual(Object.keys(known).sort());
});
