/** One long run of a piece as a hash of all its trace and poses; bundled once, run in Node and in the browser. */
import { RunHash } from '@apple-tick/core/base';
import { readPiece } from '@apple-tick/core/check';
import { compile, NamingRun } from '@apple-tick/core/run';

export function runHash(text: string): string {
  const r = readPiece(text);
  if (!r.ok) throw new Error('unreadable');
  const run = new NamingRun(compile(r.value));
  const hash = new RunHash();
  for (let tick = 0; tick < 1200; tick++) {
    run.step(tick % 37 === 5 ? [{ at: tick / 60, click: 'Flap' }] : []);
    hash.numbers(run.state.values);
    hash.numbers(run.scene.faces().plane);
    for (const rec of run.takeTrace()) hash.text(JSON.stringify(rec));
  }
  return hash.digest();
}
