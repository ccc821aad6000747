import { readFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { RunHash } from '../src/base/index.ts';
import { readPiece } from '../src/check/index.ts';
import type { Piece } from '../src/model/index.ts';
import {
  compile,
  editRun,
  type Input,
  loadRun,
  placeIn,
  propertyValue,
  Run,
  saveRun,
} from '../src/runtime/index.ts';

const text = readFileSync(
  path.join(import.meta.dirname, '../../../starters/hinge-that-turns-back.tick.json'),
  'utf8',
);
function chute(change: (json: never) => void = () => {}): Piece {
  const json = JSON.parse(text);
  change(json as never);
  const r = readPiece(JSON.stringify(json));
  if (!r.ok) throw new Error(r.problems.map((p) => `${p.path} ${p.message}`).join('\n'));
  return r.value;
}

function play(run: Run, ticks: number, clicks: readonly number[] = []): void {
  for (let i = 0; i < ticks; i++) {
    const input: Input[] = clicks.includes(run.tick + 1) ? [{ at: 0, click: 'Flap' }] : [];
    run.step(input);
  }
}
const turn = (run: Run) =>
  propertyValue(run.state.values, run.program.objectIndex.get('ob_flap') as number, 'rotation.x') as number;
const active = (run: Run) => run.program.lanes[0]?.states[placeIn(run, 0).state]?.state.name;

describe('the chute', () => {
  it('opens on a click and stays open', () => {
    const run = new Run(compile(chute()));
    play(run, 400, [60]);
    expect(active(run)).toBe('open');
    expect(turn(run)).toBe(-68);
  });

  it('clicked half-way it turns back from where it is, without a jump, and opens again from there', () => {
    const run = new Run(compile(chute()));
    let last = 0;
    let biggest = 0;
    for (let i = 0; i < 300; i++) {
      play(run, 1, [60, 80, 92]);
      biggest = Math.max(biggest, Math.abs(turn(run) - last));
      last = turn(run);
    }
    expect(active(run)).toBe('open');
    // The fastest the curve itself moves in one tick; a jump would be tens of degrees.
    expect(biggest).toBeLessThan(9);
    const ways = run.takeTrace().filter((r) => r.kind === 'transition');
    expect(ways.map((r) => r.to)).toEqual(['st_tip', 'st_back', 'st_tip', 'st_open']);
  });

  it('ends are dated exactly, not by the tick', () => {
    const piece = chute((j) => {
      (j as { clips: { cl_tip: { duration: number } } }).clips.cl_tip.duration = 0.7345;
    });
    const run = new Run(compile(piece));
    play(run, 200, [60]);
    const done = run.takeTrace().find((r) => r.event === 'clip.done');
    expect(done?.t).toBeCloseTo(1.7345, 12);
  });

  it('every record leads back to an input or the start', () => {
    const run = new Run(compile(chute()));
    play(run, 200, [60, 80]);
    const all = new Map(run.takeTrace().map((r) => [r.id, r]));
    for (const r of all.values()) {
      let at = r;
      while (at.cause !== null) at = all.get(at.cause) as typeof at;
      expect(['input', 'start', 'event']).toContain(at.kind);
    }
  });

  it('goes on from a snapshot bit for bit', () => {
    const program = compile(chute());
    const run = new Run(program);
    play(run, 75, [60]);
    const other = loadRun(new Run(program), JSON.parse('null') ?? saveRun(run));
    const hash = (r: Run) => {
      const h = new RunHash();
      r.takeTrace();
      for (let i = 0; i < 600; i++) {
        play(r, 1, [80, 300]);
        h.numbers(r.state.values);
        for (const rec of r.takeTrace()) h.text(JSON.stringify(rec));
      }
      return h.digest();
    };
    expect(hash(other)).toBe(hash(run));
  });

  it('an edit while running keeps the state and takes effect', () => {
    const run = new Run(compile(chute()));
    play(run, 80, [60]);
    const before = turn(run);
    editRun(
      run,
      chute((j) => {
        (j as { objects: { ob_lid: { base: { fill: string } } } }).objects.ob_lid.base.fill = '#123456';
      }),
    );
    expect(active(run)).toBe('tipping');
    expect(turn(run)).toBe(before);
    play(run, 300);
    expect(active(run)).toBe('open');
  });

  it('a ring of eventless transitions is a storm, named, and the next tick goes on', () => {
    const piece = chute((j) => {
      const lane = (j as never as { machines: { ma_chute: { lanes: [{ transitions: object[] }] } } }).machines
        .ma_chute.lanes[0];
      lane.transitions = [
        { id: 'tr_a', from: 'st_shut', to: 'st_open', when: [] },
        { id: 'tr_b', from: 'st_open', to: 'st_shut', when: [] },
      ];
    });
    const run = new Run(compile(piece));
    run.step();
    const storms = run.takeTrace().filter((r) => r.kind === 'storm');
    expect(storms).toHaveLength(1);
    expect(storms[0]?.ring?.toSorted()).toEqual(['tr_a', 'tr_b']);
    run.step();
    expect(run.tick).toBe(1);
  });

  it('a crossfade mixes, and not-before holds back', () => {
    const piece = chute((j) => {
      const lane = (
        j as never as { machines: { ma_chute: { lanes: [{ transitions: Record<string, unknown>[] }] } } }
      ).machines.ma_chute.lanes[0];
      lane.transitions = [
        { id: 'tr_1', from: 'st_shut', to: 'st_tip', on: { event: 'pointer.click', object: 'ob_flap' } },
        {
          id: 'tr_2',
          from: 'st_tip',
          to: 'st_shut',
          notBefore: { seconds: 1 },
          crossfade: { seconds: 0.5 },
        },
      ];
    });
    const run = new Run(compile(piece));
    play(run, 61, [60]);
    play(run, 59);
    expect(active(run)).toBe('tipping');
    play(run, 1);
    expect(active(run)).toBe('shut');
    play(run, 15);
    expect(turn(run)).toBeCloseTo(-34, 9);
    play(run, 15);
    expect(turn(run)).toBe(0);
  });
});
