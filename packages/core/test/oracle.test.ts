/** The engine held against the plain interpreter in `oracle.ts`, over random pieces of what is built. */
import { expect, it } from 'vitest';
import { checkIntegrity } from '../src/check/index.ts';
import { type Lane, lookNumber, type Piece, type Reaction } from '../src/model/index.ts';
import { placeName } from '../src/run/presence.ts';
import {
  compile,
  editRun,
  type Input,
  loadRun,
  propertyValue,
  Run,
  saveRun,
  type TraceRecord,
} from '../src/runtime/index.ts';
import { seeded } from '../testing/random.ts';
import { objectOf } from './box-piece.ts';
import { Oracle } from './oracle.ts';
import { Maker, type Part, PROPERTIES, TICKS } from './random-piece.ts';

const PIECES = Number(process.env['PIECES'] ?? 1000);
/** Seeds that once differed. */
const FOUND = [34, 170, 235, 246, 419, 644, 836, 1002, 1159, 1544];
/** Seeds of pieces with zones that once differed. */
const FOUND_ZONES = [48, 214, 230, 286, 297, 343, 450, 451, 960];

/** Seeds of pieces with captions and cue sheets that once differed. */
const FOUND_SHOWS = [92, 190];

/** A record without what only the engine numbers. */
function plain(r: TraceRecord): object {
  const { id: _, tick: _t, cause: _c, ...rest } = r;
  return rest;
}

/** A number of a record; 0 where it has none. */
const numberOf = (r: object | undefined, key: string) =>
  Number((r as Record<string, unknown> | undefined)?.[key] ?? 0);

/** Half of all pieces have offsets, tweens and motors. */
const everySecond = (seed: number): readonly Part[] => (seed % 2 === 0 ? ['offsets'] : []);

/** What differs first, or null; 'storm' when either has one. */
function compare(seed: number, ...parts: readonly Part[]): string | null {
  const maker = new Maker(seed, ...parts);
  const { piece } = maker;
  const wrong = checkIntegrity(piece);
  if (wrong.length > 0) return `a broken piece: ${wrong[0]?.path} ${wrong[0]?.message}`;
  const inputs = maker.inputs();
  const run = new Run(compile(piece));
  const oracle = new Oracle(piece);
  let read = 0;
  for (let tick = 0; tick < TICKS; tick++) {
    const now = inputs.get(tick) ?? [];
    run.step(now.map((i) => ({ ...i, at: 0 }) as Input));
    const got = run.takeTrace();
    if (got.some((r) => r.kind === 'storm')) return 'storm';
    try {
      oracle.step(now);
    } catch (e) {
      if ((e as Error).message === 'storm' || e instanceof RangeError) return 'storm';
      throw e;
    }
    const want = oracle.lines.slice(read);
    read = oracle.lines.length;
    for (let i = 0; i < Math.max(got.length, want.length); i++) {
      const [a, b] = [got[i] && plain(got[i] as TraceRecord), want[i]];
      const [x, y] = [a && { ...a, t: 0, at: 0 }, b && { ...b, t: 0, at: 0 }];
      const apart = (k: 't' | 'at') => Math.abs(numberOf(a, k) - numberOf(b, k));
      const sameT = apart('t') < 1e-9 && apart('at') < 1e-7;
      const text = (o: object | undefined) => JSON.stringify(o && Object.entries(o).sort());
      if (!sameT || text(x) !== text(y))
        return `tick ${tick}, line ${i}\n  engine ${JSON.stringify(a)}\n  oracle ${JSON.stringify(b)}`;
    }
    for (const id of Object.keys(oracle.piece.objects))
      for (const property of parts.includes('acts') ? [...PROPERTIES, 'shown', 'look'] : PROPERTIES) {
        // Where what is spawned itself stands is told by the cases.
        if (id.includes('#') && !id.includes('/')) continue;
        const o = run.program.objectIndex.get(placeName(run.program, run.state, id)) as number;
        const now = propertyValue(run.state.values, o, property) ?? 0;
        const a = property === 'look' ? lookNumber(String(now)) : Number(now);
        const b = oracle.number(`${id}/${property}`);
        if (!(Math.abs(a - b) < 1e-6)) return `tick ${tick}, ${id} ${property}: engine ${a}, oracle ${b}`;
      }
  }
  return null;
}

it.each(FOUND)('seed %i, which once differed, is the same', (seed) => {
  expect(compare(seed)).toBeNull();
  // With offsets, tweens and motors it is another piece, which may set itself off in a circle.
  expect([null, 'storm']).toContain(compare(seed, 'offsets'));
});

it.each(FOUND_ZONES)('seed %i with zones, which once differed, is the same', (seed) => {
  expect([null, 'storm']).toContain(compare(seed, ...everySecond(seed), 'zones'));
});

it.each(FOUND_SHOWS)('seed %i with captions and sheets, which once differed, is the same', (seed) => {
  expect(compare(seed, ...everySecond(seed), 'shows')).toBeNull();
});

it.each<[string, number, ...Part[]]>([
  ['plain', PIECES],
  ['with zones', PIECES / 2, 'zones'],
  ['with captions and sheets', PIECES / 2, 'shows'],
  ['with looks, sounds, and things shown, hidden and faced', (3 * PIECES) / 10, 'acts'],
  ['with what blocks and pushes', PIECES / 2, 'blockers'],
  ['with what blocks, pushes, comes and goes, among zones', PIECES / 5, 'zones', 'acts', 'blockers'],
  ['with templates', (3 * PIECES) / 10, 'templates'],
  ['with templates, and zones, captions and sheets about them', PIECES / 5, 'zones', 'shows', 'templates'],
])('random pieces, %s, run as the plain interpreter runs them: %i', (_, pieces, ...parts) => {
  let storms = 0;
  for (let seed = 1; seed <= pieces; seed++) {
    const differs = compare(seed, ...everySecond(seed), ...parts);
    if (differs === 'storm') storms++;
    else expect(differs, `seed ${seed}`).toBeNull();
  }
  // Most must tell something.
  expect(storms).toBeLessThan(pieces / 2);
});

/** The piece with other numbers for everything: an object, a signal, a lane and a reaction more, all before the others. */
function renumbered(piece: Piece): Piece {
  const objects = { ob_0: objectOf('ob_0', { kind: 'group' }, {}, { order: 'A' }), ...piece.objects };
  const first: Piece['signals'][string] = {
    ...{ id: 'si_0', name: 'first', type: 'text', initial: 'x', shared: false, note: '' },
  } as Piece['signals'][string];
  const lane: Lane = {
    ...{ id: 'la_first', name: 'first', initial: 'st_first', unkeyed: 'base', amount: 1, blend: 'replace' },
    states: [{ id: 'st_first', name: 'first', play: 'rest' }],
    transitions: [],
  };
  const machine = { id: 'ma_0', name: 'first', object: 'ob_0', lanes: [lane] };
  const reaction: Reaction = {
    ...{ id: 're_first', object: 'ob_0', on: { event: 'pointer.click' }, when: [], after: 0, cooldown: 0 },
    ...{ limit: 'always', actions: [{ do: 'show', object: 'ob_0' }] },
  } as Reaction;
  return {
    ...piece,
    objects,
    signals: { si_0: first, ...piece.signals },
    machines: { ma_0: machine, ...piece.machines },
    reactions: { re_first: reaction, ...piece.reactions },
  };
}

it('edits beside what runs change nothing of it, whatever its new numbers are', () => {
  const told = (r: TraceRecord) => r.kind !== 'edit' && r.lane !== 'la_first';
  let edits = 0;
  for (let seed = 1; seed <= PIECES / 10; seed++) {
    const maker = new Maker(seed, ...everySecond(seed), ...(seed % 3 === 0 ? (['shows'] as const) : []));
    const inputs = maker.inputs();
    const random = seeded(seed + 7);
    const pieces = [maker.piece, renumbered(maker.piece)];
    const [plainRun, edited] = [new Run(compile(maker.piece)), new Run(compile(maker.piece))];
    for (let tick = 0; tick < TICKS; tick++) {
      const now = (inputs.get(tick) ?? []).map((i) => ({ ...i, at: 0 }) as Input);
      plainRun.step(now);
      edited.step(now);
      const [a, b] = [plainRun.takeTrace(), edited.takeTrace()];
      // A storm is counted by tick: an edit ends it sooner.
      if (a.some((r) => r.kind === 'storm')) break;
      expect(b.filter(told).map(plain), `seed ${seed}, tick ${tick}`).toEqual(a.map(plain));
      for (const id of Object.keys(maker.piece.objects))
        for (const property of PROPERTIES) {
          const value = (run: Run) =>
            propertyValue(run.state.values, run.program.objectIndex.get(id) as number, property);
          expect(value(edited), `seed ${seed}, tick ${tick}, ${id} ${property}`).toBe(value(plainRun));
        }
      if (random() < 0.25) {
        editRun(edited, pieces[edits++ % 2] as Piece);
      }
    }
  }
  expect(edits).toBeGreaterThan(PIECES);
});

it('a run gone on from a snapshot goes on as it would have, at any tick of random pieces', () => {
  for (let seed = 1; seed <= PIECES / 40; seed++) {
    const maker = new Maker(seed, ...everySecond(seed), ...(seed % 3 === 0 ? (['shows'] as const) : []));
    const inputs = maker.inputs();
    const program = compile(maker.piece);
    let run = new Run(program);
    const whole = new Run(program);
    const random = seeded(seed);
    for (let tick = 0; tick < TICKS; tick++) {
      const now = (inputs.get(tick) ?? []).map((i) => ({ ...i, at: 0 }) as Input);
      run.step(now);
      whole.step(now);
      expect(run.takeTrace(), `seed ${seed}, tick ${tick}`).toEqual(whole.takeTrace());
      expect(run.state.values).toEqual(whole.state.values);
      if (random() < 0.2) run = loadRun(new Run(program), saveRun(run));
    }
  }
});
