/** Words of a text object: keyed, put, given back, and kept in a snapshot. */
import { expect, it } from 'vitest';
import { checkIntegrity } from '../src/check/index.ts';
import type { Lane, Piece } from '../src/model/index.ts';
import { CH_LOOK, CH_TEXT, textNumber } from '../src/model/index.ts';
import {
  compile,
  FaceBuilder,
  loadRun,
  poseClip,
  propertyValue,
  Run,
  saveRun,
} from '../src/runtime/index.ts';
import { go, objectOf, piece, play } from './box-piece.ts';

const sign = (more: object = {}) =>
  objectOf(
    'ob_t',
    { kind: 'text', text: 'shut', font: 'serif', size: 20, weight: 400, align: 'left' },
    {},
    more,
  );
function signPiece(states: Lane['states'], transitions: Parameters<typeof piece>[1] = []): Piece {
  const p = piece(states, transitions);
  p.objects['ob_t'] = sign();
  const clip = p.clips['cl_o'] as Piece['clips'][string];
  const key = (t: number, value: string) => ({ t, value, easing: 'hold' as const });
  p.clips['cl_o'] = {
    ...clip,
    tracks: [
      {
        ...{ object: 'ob_t', property: 'text', mode: 'absolute' as const },
        keys: [key(0, 'opening'), key(0.25, 'open')],
      },
    ],
  };
  return p;
}
const words = (run: Run) =>
  propertyValue(run.state.values, run.program.objectIndex.get('ob_t') as number, 'text');
const press = { event: 'pulse', signal: 'si_p' } as const;

it('keys change them at their time, and a resting state gives the own ones back', () => {
  const p = signPiece(
    [
      { id: 'st_r', name: 'r', play: 'rest' },
      { id: 'st_a', name: 'a', play: play('cl_o') },
    ],
    [
      { from: 'st_r', to: 'st_a', on: press },
      { from: 'st_a', to: 'st_r', on: { event: 'state.done' } },
    ],
  );
  expect(checkIntegrity(p)).toEqual([]);
  const run = new Run(compile(p));
  const said: unknown[] = [];
  for (let i = 0; i < 50; i++) {
    go(run, 1, { 2: { pulse: 'ring' } });
    if (said.at(-1) !== words(run)) said.push(words(run));
  }
  expect(said).toEqual(['shut', 'opening', 'open', 'shut']);
});

it('a put writes what a signal holds, numbers as words too; a snapshot knows them anywhere', () => {
  const p = signPiece([{ id: 'st_r', name: 'r', play: 'rest' }]);
  p.reactions['re_a'] = {
    ...{ id: 're_a', object: 'ob_t', on: { event: 'signal.change', signal: 'si_n' }, when: [], after: 0 },
    ...{ cooldown: 0, limit: 'always' },
    actions: [{ do: 'put', object: 'ob_t', property: 'text', to: { signal: 'si_n' } }],
  } as Piece['reactions'][string];
  const run = new Run(compile(p));
  go(run, 3, { 1: { set: { pace: 12.3456 } } });
  expect(words(run)).toBe('12.346');
  const saved = saveRun(run);
  expect(saved.words).toContain('12.346');
  expect(words(loadRun(new Run(compile(p)), saved))).toBe('12.346');
});

it('what is drawn is as wide as the words, also of a look, and hit there', () => {
  const p = signPiece([{ id: 'st_r', name: 'r', play: 'rest' }]);
  const look = { id: 'lo_big', name: 'big', size: 60 };
  p.objects['ob_t'] = sign({ looks: [look] });
  const program = compile(p);
  const at = program.objectIndex.get('ob_t') as number;
  const width = (values: Float64Array) => {
    const faces = new FaceBuilder().build(program, values, { azimuth: 0, elevation: 0 });
    for (let f = 0; f < faces.count; f++)
      if (faces.object[f] === at) {
        const [u0, , u1] = faces.outline[f]?.bounds ?? [0, 0, 0];
        return u1 - u0;
      }
    return 0;
  };
  const values = program.base.slice();
  const own = width(values);
  poseClip(program, 'cl_o', 0, values);
  const other = width(values);
  expect(other).toBeGreaterThan(own);
  const rowAt = (channel: number) => at * (program.base.length / program.objects.length) + channel;
  values[rowAt(CH_LOOK)] = program.geometry.looks[at]?.keys().next().value as number;
  expect(width(values) / other).toBeCloseTo(3, 6);
  // A word that was never drawn before is drawn when it comes.
  values[rowAt(CH_TEXT)] = textNumber('a very much longer sentence');
  expect(width(values)).toBeGreaterThan(3 * other);
  const run = new Run(program);
  go(run, 1);
  run.state.setPut(rowAt(CH_TEXT), textNumber('wwwwwwwwwwwwwwwwwwwwww'));
  go(run, 1);
  const { width: w, height: h } = p.frame;
  // Beyond the own words, within the put ones.
  const trace = go(run, 1, { [run.tick + 1]: { pointer: { x: w / 2 + own + 20, y: h / 2, down: false } } });
  expect(trace.some((r) => r.event === 'pointer.enter' && r.object === 'ob_t')).toBe(true);
});
