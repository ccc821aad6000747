/** The painting order of a running piece. Ratios within this one run; nothing here is an absolute time. */
import { readFileSync } from 'node:fs';
import { readPiece } from '@apple-tick/core/check';
import type { Piece } from '@apple-tick/core/model';
import { compile, FaceBuilder, Run } from '@apple-tick/core/run';
import { PaintOrder } from '@apple-tick/core/world';

const read = (text: string): Piece => {
  const r = readPiece(text);
  if (!r.ok) throw new Error('the demo cannot be read');
  return r.value;
};
const text = readFileSync(new URL('../demo/windfall-mill.tick.json', import.meta.url), 'utf8');
const mill = read(text);
/** The Mill, and beside it another with ids of its own. */
function twoMills(): Piece {
  const other = read(
    text.replace(/"([a-z]{2}_[A-Za-z0-9_-]+)"/g, '"$1-2"').replace(/"starter-mill"/, '"second"'),
  );
  for (const o of Object.values(other.objects)) {
    if (o.parent !== null) continue;
    const [x, y, z] = o.base.position;
    other.objects[o.id] = { ...o, base: { ...o.base, position: [x + 1200, y, z] } } as typeof o;
  }
  const both = { ...mill } as Record<string, unknown>;
  for (const [name, table] of Object.entries(other))
    if (typeof table === 'object' && !['frame', 'view', 'light'].includes(name))
      both[name] = Array.isArray(table)
        ? [...(both[name] as unknown[]), ...table]
        : { ...(both[name] as object), ...table };
  return both as unknown as Piece;
}

const ANGLE = { azimuth: 35, elevation: 29 };
/** Frames of a run; what comes back sorts the faces of the next one, kept and anew, and says how long both took. */
function frames(piece: Piece): () => { kept: number; anew: number } {
  const run = new Run(compile(piece), { trace: false });
  const builder = new FaceBuilder();
  const sorter = new PaintOrder();
  const timed = (sort: () => void) => {
    const start = performance.now();
    sort();
    return performance.now() - start;
  };
  return () => {
    run.step();
    // A list that was sorted must be left as it was until the next one is, so the one sorted anew is another.
    const faces = builder.place(run.program, run.state.values, ANGLE);
    const copy = new FaceBuilder().place(run.program, run.state.values, ANGLE);
    return { kept: timed(() => sorter.sort(faces)), anew: timed(() => new PaintOrder().sort(copy)) };
  };
}

const [one, two] = [frames(mill), frames(twoMills())];
const median = (list: number[]) => list.sort((a, b) => a - b)[list.length >> 1] as number;
const kept: number[] = [];
const growth: number[] = [];
const growthAnew: number[] = [];
for (let i = 0; i < 400; i++) {
  const [a, b] = [one(), two()];
  if (i < 40) continue;
  kept.push(a.kept / a.anew);
  growth.push(b.kept / a.kept);
  growthAnew.push(b.anew / a.anew);
}
const say = (what: string, value: number, goal: number) =>
  console.log(`${what}: ${value.toFixed(2)} (goal ≤ ${goal})`);
say('running Mill in three-quarter, painting order kept ÷ anew', median(kept), 0.3);
say('the same of two Mills ÷ one', median(growth), 2.3);
say('two Mills ÷ one, anew', median(growthAnew), 2.3);
