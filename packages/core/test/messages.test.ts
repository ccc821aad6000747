/** Messages that only what has a tag hears. */
import { expect, it } from 'vitest';
import { checkIntegrity } from '../src/check/index.ts';
import { emptyPiece, type Piece, type Reaction } from '../src/model/index.ts';
import { compile, Run } from '../src/runtime/index.ts';
import { objectOf } from './box-piece.ts';

/** A tagged group with a child, and a thing without: each counts what it hears, the child also by a lane. */
function piece(tags: string[] | undefined): Piece {
  const p = emptyPiece('p', 'Messages');
  p.messages['me_a'] = { id: 'me_a', name: 'ready', note: '' };
  for (const [id, name] of [
    ['ta_a', 'lamp'],
    ['ta_b', 'bell'],
  ] as const)
    p.tags[id] = { id, name };
  p.objects['ob_g'] = objectOf('ob_g', { kind: 'group' }, {}, { tags: ['ta_a'] });
  p.objects['ob_c'] = objectOf('ob_c', { kind: 'group' }, {}, { parent: 'ob_g' });
  p.objects['ob_o'] = objectOf('ob_o', { kind: 'group' });
  const react = (id: string, object: string, on: Reaction['on'], actions: Reaction['actions']) => {
    p.reactions[id] = { id, object, on, when: [], after: 0, cooldown: 0, limit: 'always', actions };
  };
  for (const o of ['g', 'c', 'o']) {
    const signal = `si_${o}`;
    p.signals[signal] = { id: signal, name: o, type: 'number', initial: 0, shared: false, note: '' } as never;
    react(`re_${o}`, `ob_${o}`, { event: 'message', message: 'me_a' }, [{ do: 'add', signal, by: 1 }]);
  }
  react('re_s', 'ob_o', { event: 'piece.start' }, [
    { do: 'send', message: 'me_a', ...(tags ? { tags } : {}) },
  ]);
  p.machines['ma_c'] = {
    ...{ id: 'ma_c', name: 'C', object: 'ob_c' },
    lanes: [
      {
        ...{ id: 'la_c', name: 'L', initial: 'st_a', unkeyed: 'base', amount: 1, blend: 'replace' },
        states: [
          { id: 'st_a', name: 'a', play: 'rest' },
          { id: 'st_b', name: 'b', play: 'rest' },
        ],
        transitions: [
          {
            ...{ id: 'tr_a', from: 'st_a', to: 'st_b', on: { event: 'message', message: 'me_a' }, when: [] },
            ...{ notBefore: null, crossfade: { seconds: 0 }, odds: null, enabled: true, set: true },
            ...{ reenter: false, mayRepeat: true },
          },
        ],
      },
    ],
  } as Piece['machines'][string];
  return p;
}

it.each([
  [undefined, [1, 1, 1], 1],
  [['ta_a'], [1, 1, 0], 1],
  [['ta_b'], [0, 0, 0], 0],
  [['ta_b', 'ta_a'], [1, 1, 0], 1],
] as const)('a message to things with %s is heard by them and what lies below', (tags, heard, state) => {
  const p = piece(tags ? [...tags] : undefined);
  expect(checkIntegrity(p)).toEqual([]);
  const run = new Run(compile(p));
  run.step();
  expect(['si_g', 'si_c', 'si_o'].map((id) => run.signalValue(id))).toEqual(heard);
  expect(run.state.active[0]).toBe(state);
});
