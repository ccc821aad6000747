/** Posing evaluates what a run would: what follows signals, and signals of instances that the clip keys. */
import { expect, it } from 'vitest';
import { textNumber, textOf } from '../src/model/index.ts';
import { compile, poseClip, propertyValue, Run } from '../src/runtime/index.ts';
import { Made } from './cases/made.ts';
import { instance, lamp, withLamp } from './template-piece.ts';

/** What a text has besides its words. */
const words = (text: string) => ({ kind: 'text', text, font: 'sans', size: 20, weight: 400, align: 'left' });

it('a clip that keys an instance’s signal shows what follows it there, as a run that plays it does', () => {
  const p = withLamp(
    lamp({
      follows: {
        fo_in: {
          ...{ id: 'fo_in', target: { object: 'ob_bulb', property: 'position.x' }, clamp: false, smooth: 0 },
          source: { signal: 'si_fast' },
        },
      },
    } as never),
  );
  p.objects['ob_i'] = instance('ob_i', 0) as never;
  p.clips['cl_key'] = {
    ...{ id: 'cl_key', name: 'keys', root: 'ob_i', duration: 1, loop: 'once', cues: [] },
    tracks: [
      {
        ...{ object: 'ob_i', property: 'signal.si_fast', mode: 'absolute' },
        keys: [
          { t: 0, value: 0, easing: 'linear' },
          { t: 1, value: 40, easing: 'linear' },
        ],
      },
    ],
  } as never;
  p.machines['ma_i'] = {
    ...{ id: 'ma_i', name: 'i', object: 'ob_i' },
    lanes: [
      {
        ...{
          id: 'la_i',
          name: 'i',
          initial: 'st_i',
          unkeyed: 'base',
          amount: 1,
          blend: 'replace',
          transitions: [],
        },
        states: [{ id: 'st_i', name: 'i', play: { clip: 'cl_key', speed: 1, from: 'start' } }],
      },
    ],
  } as never;
  const program = compile(p);
  const bulb = program.objectIndex.get('ob_i/ob_bulb') as number;
  const values = program.base.slice();
  poseClip(program, 'cl_key', 0.5, values);
  expect(propertyValue(values, bulb, 'position.x')).toBeCloseTo(20, 9);
  // At tick 30 the run is at 0.5 s.
  const run = new Run(program);
  for (let tick = 0; tick <= 30; tick++) run.step([]);
  expect(propertyValue(run.state.values, bulb, 'position.x')).toBeCloseTo(20, 6);
  // At rest the base is shown, to be arranged.
  poseClip(program, null, 0, values);
  expect(propertyValue(values, bulb, 'position.x')).toBe(0);
});

it('what follows a number or a distance stands where it would', () => {
  const m = new Made();
  m.number('n', 50)
    .box('a')
    .box('b', { position: [30, 40, 0] })
    .box('c')
    .box('d', {}, words('x'));
  m.clip('c', 'b', 1, 'once', {
    'position.x': [
      [0, 30],
      [1, 90],
    ],
  });
  m.follow({ object: 'ob_a', property: 'scale.y' }, { signal: 'si_n' }, { from: [0, 100], to: [0, 2] });
  m.follow({ object: 'ob_c', property: 'position.x' }, { distance: ['ob_b', 'ob_a'] });
  m.follow({ object: 'ob_d', property: 'text' }, { signal: 'si_n' });
  const program = compile(m.piece);
  const values = program.base.slice();
  poseClip(program, 'cl_c', 0, values);
  const read = (id: string, property: string) =>
    propertyValue(values, program.objectIndex.get(`ob_${id}`) as number, property);
  expect(read('a', 'scale.y')).toBe(1);
  expect(read('c', 'position.x')).toBeCloseTo(50, 9);
  expect(read('d', 'text')).toBe('50');
});

it('two texts with one 32-bit hash are two texts', () => {
  const same = ['80799', 'Score 91092'] as const;
  expect(same.map((w) => textOf(textNumber(w)))).toEqual(same);
  const m = new Made();
  for (const [k, text] of same.entries()) m.box(`t${k}`, {}, words(text));
  const program = compile(m.piece);
  const shown = [0, 1].map((k) =>
    propertyValue(program.base, program.objectIndex.get(`ob_t${k}`) as number, 'text'),
  );
  expect(shown).toEqual(same);
});
