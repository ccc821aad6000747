/** One long run of a piece as a hash of all its trace and poses; bundled once, run in Node and in the browser. */
import { RunHash } from '@apple-tick/core/base';
import { readPiece } from '@apple-tick/core/check';
import { emptyPiece } from '@apple-tick/core/model';
import { compile, type Input, loadRun, Run, saveRun } from '@apple-tick/core/run';
import { objectOf } from '../packages/core/test/box-piece.ts';
import { ALL_CASES, allFailures } from '../packages/core/test/cases/all.ts';
import { Maker, TICKS } from '../packages/core/test/random-piece.ts';

export function runHash(text: string): string {
  const r = readPiece(text);
  if (!r.ok) throw new Error('unreadable');
  const run = new Run(compile(r.value));
  const hash = new RunHash();
  for (let tick = 0; tick < 1200; tick++) {
    run.step(tick % 37 === 5 ? [{ at: tick / 60, click: 'Flap' }] : []);
    hash.numbers(run.state.values);
    hash.numbers(run.scene.faces().plane);
    for (const rec of run.takeTrace()) hash.text(JSON.stringify(rec));
  }
  return hash.digest();
}

/** Random pieces of all that the plain interpreter knows; `resumes`: each goes on from a snapshot in its middle. */
export function randomHash(pieces: number, resumes: boolean): string {
  const hash = new RunHash();
  for (let seed = 1; seed <= pieces; seed++) {
    const maker = new Maker(
      seed,
      ...(seed % 2 === 0 ? (['offsets'] as const) : []),
      ...(seed % 3 === 0 ? (['zones'] as const) : []),
    );
    const inputs = maker.inputs();
    const program = compile(maker.piece);
    let run = new Run(program);
    for (let tick = 0; tick < TICKS; tick++) {
      if (resumes && tick === TICKS / 2) run = loadRun(new Run(program), saveRun(run));
      run.step((inputs.get(tick) ?? []).map((i) => ({ ...i, at: 0 }) as Input));
      hash.numbers(run.state.values);
      for (const rec of run.takeTrace()) hash.text(JSON.stringify(rec));
    }
  }
  return hash.digest();
}

/** How often two timers fire in ten minutes: one every 0.1 s, one every 0.07 s. */
export function timersFired(): string {
  const piece = emptyPiece('p', 'Timers');
  piece.objects['ob_a'] = objectOf('ob_a', { kind: 'group' });
  const every = { si_a: 0.1, si_b: 0.07 };
  for (const [signal, seconds] of Object.entries(every)) {
    piece.signals[signal] = {
      ...{ id: signal, name: signal, type: 'number', initial: 0, shared: false, note: '' },
    } as (typeof piece.signals)[string];
    piece.reactions[`re_${signal}`] = {
      ...{ id: `re_${signal}`, object: 'ob_a', on: { event: 'timer', every: seconds }, when: [], after: 0 },
      ...{ cooldown: 0, limit: 'always', actions: [{ do: 'add', signal, by: 1 }] },
    };
  }
  const run = new Run(compile(piece), { trace: false });
  for (let tick = 0; tick <= 600 * 60; tick++) run.step();
  return Object.keys(every)
    .map((signal) => run.signalValue(signal))
    .join();
}

/** How many semantic cases there are, and what is not as it must be in them. */
export function casesHeld(): string {
  const cases = Object.values(ALL_CASES).flat();
  return [cases.length, ...cases.flatMap((c) => allFailures(c).map((said) => `${c.says}: ${said}`))].join(
    '\n',
  );
}
