import { readPieceJson } from '@apple-tick/core/check';
import { PieceStore, visitReferences } from '@apple-tick/core/model';
import { expect, it } from 'vitest';
import demo from '../../../../../demo/windfall-mill.tick.json?raw';
import { usesOf } from './uses.ts';

const read = readPieceJson(JSON.parse(demo));
if (!read.ok) throw new Error('the demo cannot be read');
const store = new PieceStore(read.value);
const said = (id: string, sets: boolean) =>
  usesOf(store, id).flatMap((u) => (u.sets === sets ? [u.who] : []));

it('tells who sets a signal and who goes by it: reactions, transitions, states, cues and follows', () => {
  expect(said('si_open', true)).toEqual(['Flap']);
  expect(said('si_open', false)).toHaveLength(6);
  expect(said('si_juice', true)).toEqual([
    'Juice gauge',
    'Basket',
    'pressing at 1.20 s',
    'pressing at 1.70 s',
    'pressing at 2.20 s',
  ]);
  expect(said('si_juice', false)).toEqual(['Juice gauge', 'Juice gauge', 'Level: level', 'Pints']);
  expect(said('me_order', true)).toEqual(['Juice gauge', 'Bell']);
  expect(said('so_creak', true)).toEqual(['tipping at 0.05 s']);
});

it('each leads to something that is there; none is told where nothing names it', () => {
  for (const table of ['signals', 'messages', 'sounds'] as const)
    for (const { id } of store.all(table)) {
      let named = 0;
      for (const from of ['reactions', 'machines', 'clips', 'follows', 'cueSheets'] as const)
        for (const r of store.all(from))
          visitReferences(from, r, (_, to) => {
            if (to === id) named++;
          });
      expect(usesOf(store, id).length > 0).toBe(named > 0);
      expect(usesOf(store, id).length).toBeLessThanOrEqual(named);
    }
});
