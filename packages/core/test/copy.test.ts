import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import type { IdKind } from '../src/base/index.ts';
import { checkIntegrity, readPiece } from '../src/check/index.ts';
import {
  clipsPlayed,
  emptyPiece,
  excerpt,
  History,
  insertExcerpt,
  type Piece,
  PieceStore,
} from '../src/model/index.ts';

const chute = (): Piece => {
  const r = readPiece(
    readFileSync(new URL('../../../starters/hinge-that-turns-back.tick.json', import.meta.url), 'utf8'),
  );
  if (!r.ok) throw new Error('unreadable');
  return r.value;
};
const ids = () => {
  let n = 0;
  return (kind: IdKind) => `${kind.slice(0, 2)}_new${n++}`;
};
const paste = (store: PieceStore, x: ReturnType<typeof excerpt>, parent: string | null = null) => {
  let got: ReturnType<typeof insertExcerpt> | null = null;
  new History(store).edit('Pasted', (e) => {
    got = insertExcerpt(e, x, parent, ids());
  });
  return got as unknown as ReturnType<typeof insertExcerpt>;
};

it('a duplicate with its behaviour points into itself, and shares its signals with the original', () => {
  const store = new PieceStore(chute());
  const before = store.ids('objects').length;
  const x = excerpt(store, ['ob_chute', 'ob_flap'], true);
  expect(x.roots).toEqual(['ob_chute']);
  const { roots, outside } = paste(store, x);
  const copy = store.get('objects', roots[0] as string);
  expect(copy?.name).toBe('Chute 2');
  expect(store.ids('objects').length).toBe(before + Object.keys(x.records.objects).length);
  expect(checkIntegrity(store.toPiece())).toEqual([]);
  expect(outside).toEqual([]);
  const machine = store.all('machines').find((m) => m.object === roots[0]);
  const original = store.all('machines').find((m) => m.object === 'ob_chute');
  const clip = (m: typeof machine) => m?.lanes[0]?.states.flatMap((s) => clipsPlayed(s.play))[0];
  expect(clip(machine)).not.toBe(clip(original));
  expect(store.get('clips', clip(machine) as string)?.root).toBe(roots[0]);
  expect(machine?.lanes[0]?.transitions[0]?.when).toEqual(original?.lanes[0]?.transitions[0]?.when);
  expect(store.ids('signals')).toHaveLength(1);
});

it('without its behaviour it is a drawing; what leads out of a copy is told', () => {
  const store = new PieceStore(chute());
  expect(Object.keys(excerpt(store, ['ob_chute'], false).records.machines)).toEqual([]);
  const reaction = store.all('reactions')[0];
  const x = excerpt(store, ['ob_flap'], true);
  x.records.reactions[reaction?.id as string] = {
    ...(reaction as Piece['reactions'][string]),
    actions: [{ do: 'hide', object: 'ob_lid' }],
  };
  expect(paste(store, x, 'ob_chute').outside).toEqual([{ kind: 'objects', id: 'ob_lid' }]);
});

it('into another piece it brings its signals along, and a second paste uses them', () => {
  const store = new PieceStore(emptyPiece('q', 'Other'));
  const x = excerpt(new PieceStore(chute()), ['ob_chute'], true);
  paste(store, x);
  expect(store.ids('signals')).toHaveLength(1);
  expect(checkIntegrity(store.toPiece())).toEqual([]);
});

it('what a paste cannot find in another piece goes with whatever needs it, as in deleting', () => {
  const store = new PieceStore(chute());
  const reaction = store.all('reactions')[0] as Piece['reactions'][string];
  const x = excerpt(store, ['ob_flap'], true);
  x.records.reactions[reaction.id] = {
    ...reaction,
    actions: [...reaction.actions, { do: 'hide', object: 'ob_lid' }],
  };
  const other = new PieceStore(emptyPiece('q', 'Other'));
  paste(other, x);
  expect(checkIntegrity(other.toPiece())).toEqual([]);
  expect(other.all('reactions')[0]?.actions).toEqual(reaction.actions);
});

it('a masked object without its window comes unmasked into another piece, and keeps it in its own', () => {
  const p = chute();
  const flap = p.objects['ob_flap'] as Piece['objects'][string];
  p.objects['ob_flap'] = { ...flap, mask: { by: 'ob_lid', side: 'inside' } };
  const store = new PieceStore(p);
  const x = excerpt(store, ['ob_flap'], false);
  const here = paste(store, x);
  expect(here.outside).toEqual([{ kind: 'objects', id: 'ob_lid' }]);
  expect(store.get('objects', here.roots[0] as string)?.mask).toEqual({ by: 'ob_lid', side: 'inside' });
  const other = new PieceStore(emptyPiece('q', 'Other'));
  const there = paste(other, x);
  expect(other.get('objects', there.roots[0] as string)?.mask).toBeNull();
  expect(checkIntegrity(other.toPiece())).toEqual([]);
});

it('words that look like ids stay words', () => {
  const store = new PieceStore(chute());
  const x = excerpt(store, ['ob_flap'], false);
  const flap = x.records.objects['ob_flap'] as Piece['objects'][string];
  x.records.objects['ob_flap'] = { ...flap, hint: 'ob_flap' };
  const { roots } = paste(store, x, 'ob_chute');
  expect(store.get('objects', roots[0] as string)?.hint).toBe('ob_flap');
});

it('effects come along into another piece, with what they draw where that is in the copy; answers are its own', () => {
  const p = emptyPiece('p', 'Effects');
  const { base } = Object.values(chute().objects)[0] as Piece['objects'][string];
  for (const id of ['ob_a', 'ob_leaf'])
    p.objects[id] = {
      ...{ id, name: id, parent: null, order: id, tags: [], hint: '', base, kind: 'group' },
    } as Piece['objects'][string];
  const burst = (id: string, drawing: string) => ({
    ...{ id, name: id, kind: 'burst', count: 3, seconds: [1, 1], direction: 0, spread: 0, speed: [1, 1] },
    ...{
      gravity: [0, 0, 0],
      drag: 0,
      depth: 0,
      size: [1, 1],
      spin: [0, 0],
      fills: ['#000000'],
      drawing,
      fade: 0,
    },
  });
  p.effects['ef_l'] = burst('ef_l', 'ob_leaf') as Piece['effects'][string];
  const react = (id: string, on: object, actions: object[]) => {
    p.reactions[id] = {
      ...{ id, object: 'ob_a', on, when: [], after: 0, cooldown: 0, limit: 'always', actions },
    } as Piece['reactions'][string];
  };
  const answers = ['an_1', 'an_2'].map((id) => ({ id, text: id }));
  react('re_a', { event: 'pointer.click' }, [
    { do: 'burst', effect: 'ef_l', object: 'ob_a' },
    { do: 'caption', object: 'ob_a', text: '?', answers },
    { do: 'sheet', sheet: 'sh_a' },
  ]);
  react('re_b', { event: 'caption.answer', answer: 'an_2' }, [{ do: 'hide', object: 'ob_a' }]);
  p.cueSheets['sh_a'] = { id: 'sh_a', name: 'Scene', cues: [], again: 'restart', end: 'stop' };
  expect(checkIntegrity(p)).toEqual([]);
  const store = new PieceStore(p);
  for (const [chosen, drawing] of [
    [['ob_a'], 'dot'],
    [['ob_a', 'ob_leaf'], 'an object'],
  ] as const) {
    const other = new PieceStore(emptyPiece('q', 'Other'));
    const { roots } = paste(other, excerpt(store, chosen, true));
    expect(checkIntegrity(other.toPiece())).toEqual([]);
    const effect = other.all('effects')[0] as Piece['effects'][string] & { drawing: string };
    expect(drawing === 'dot' ? effect.drawing : effect.drawing === roots[1]).toBe(
      drawing === 'dot' ? 'dot' : true,
    );
    // The scene stays where it was, and what would start it goes.
    expect(other.all('reactions')[0]?.actions.map((a) => a.do)).toEqual(['burst', 'caption']);
    const copied = other.all('reactions').find((r) => r.on.event === 'caption.answer');
    expect(copied?.on.answer).not.toBe('an_2');
  }
});
