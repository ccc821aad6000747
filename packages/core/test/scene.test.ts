/** What a scene knows from asking to asking, held against one that has never been asked before. */
import { expect, it } from 'vitest';
import type { Piece } from '../src/model/index.ts';
import { compile, type Input, loadRun, Run, saveRun } from '../src/runtime/index.ts';
import { seeded } from '../testing/random.ts';
import { Maker, TICKS } from './random-piece.ts';

const PIECES = Math.min(40, Number(process.env['PIECES'] ?? 40));

/** Groups have nothing that can be hit. */
function drawn(objects: Piece['objects']): void {
  for (const o of Object.values(objects))
    if (o.kind === 'group') Object.assign(o, { kind: 'rect', size: [40, 24], radius: 0 });
}

it('hits and places are those of the pose, whenever they are asked for, in random pieces with zones, drags and templates', () => {
  let asked = 0;
  let hits = 0;
  for (let seed = 1; seed <= PIECES; seed++) {
    const maker = new Maker(
      seed,
      'offsets',
      ...(seed % 2 === 0 ? (['zones'] as const) : []),
      ...(seed % 3 === 0 ? (['templates'] as const) : []),
    );
    drawn(maker.piece.objects);
    for (const t of Object.values(maker.piece.templates)) drawn(t.objects);
    const inputs = maker.inputs();
    const random = seeded(seed);
    const between = (a: number, b: number) => a + (b - a) * random();
    const program = compile(maker.piece);
    const run = new Run(program);
    for (let tick = 0; tick < TICKS; tick++) {
      const view = { azimuth: between(-60, 60), elevation: between(-60, 60) };
      const more: object[] = tick === 0 ? [{ pointer: { x: 480, y: 270, down: false } }] : [];
      if (random() < 0.05) more.push({ view });
      if (random() < 0.1) {
        const object = ['ob_a', 'ob_b'][Math.floor(2 * random())];
        more.push({ put: { object, property: 'position.x', value: Math.floor(between(-60, 60)) } });
      }
      run.step([...more, ...(inputs.get(tick) ?? [])].map((i) => ({ ...i, at: 0 }) as Input));
      if (random() < 0.7) continue;
      const fresh = loadRun(new Run(program), saveRun(run)).scene;
      for (let k = 0; k < 4; k++) {
        const [x, y] = [between(-90, 90), between(-60, 60)];
        const hit = fresh.hit(x, y);
        expect([seed, tick, run.scene.hit(x, y)]).toEqual([seed, tick, hit]);
        if (hit >= 0) hits++;
      }
      const object = Math.floor(random() * program.objects.length);
      const [is, was] = [new Float64Array(3), new Float64Array(3)];
      for (const onScreen of [true, false]) {
        fresh.pivot(object, onScreen, was);
        run.scene.pivot(object, onScreen, is);
        expect([seed, tick, ...is]).toEqual([seed, tick, ...was]);
      }
      asked++;
    }
  }
  expect(asked).toBeGreaterThan(PIECES * 15);
  expect(hits).toBeGreaterThan(PIECES);
});
