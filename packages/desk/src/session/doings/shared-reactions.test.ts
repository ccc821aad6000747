import 'fake-indexeddb/auto';
import { emptyPiece, History, PieceStore, type Reaction } from '@apple-tick/core/model';
import { beforeEach, expect, it } from 'vitest';
import { Session } from '../session.ts';
import { addObject } from '../things/add-object.ts';
import { changeAlike, sharedReactions } from './shared-reactions.ts';

let s: Session;
let a: string;
let b: string;
beforeEach(() => {
  const store = new PieceStore(emptyPiece('p', 'Test'));
  s = new Session({ store, history: new History(store), seq: 0, left: [] }, false);
  [a, b] = ['', ''].map(() => {
    s.selectMany([]);
    addObject(s, 'box');
    return s.state.object as string;
  }) as [string, string];
});
const reaction = (id: string, object: string, part: Partial<Reaction> = {}): Reaction => ({
  id,
  object,
  on: { event: 'pointer.click' },
  when: [],
  after: 0,
  cooldown: 0,
  limit: 'always',
  actions: [{ do: 'hide', object }],
  ...part,
});
const put = (...list: Reaction[]) =>
  s.edit('x', (e) => {
    for (const r of list) e.add('reactions', r);
  });
const shared = () => sharedReactions(s.store.all('reactions'), [a, b]);

it('reactions are the same when they differ only in whose they are', () => {
  put(
    reaction('re_1', a),
    reaction('re_2', b),
    // This one hides the other object, so it is another.
    reaction('re_3', b, { actions: [{ do: 'hide', object: a }] }),
    reaction('re_4', a, { cooldown: 2 }),
  );
  expect(shared().shared.map((l) => l.map((r) => r.id))).toEqual([['re_1', 're_2']]);
  expect(shared().others).toBe(2);
});

it('two alike of one object need two alike of the other', () => {
  put(reaction('re_1', a), reaction('re_2', a), reaction('re_3', b));
  expect(shared().shared.map((l) => l.map((r) => r.id))).toEqual([['re_1', 're_3']]);
  expect(shared().others).toBe(1);
});

it('a change reaches all of them, each about its own object, and is one step', () => {
  put(reaction('re_1', a), reaction('re_2', b));
  const [list] = shared().shared;
  changeAlike(s, 'Changed', list ?? [], {
    cooldown: 3,
    on: { event: 'pointer.enter', object: a },
    actions: [
      { do: 'show', object: a },
      { do: 'put', object: a, property: 'opacity', to: 0.5 },
    ],
  });
  expect(s.store.get('reactions', 're_2')).toEqual(
    reaction('re_2', b, {
      cooldown: 3,
      on: { event: 'pointer.enter', object: b },
      actions: [
        { do: 'show', object: b },
        { do: 'put', object: b, property: 'opacity', to: 0.5 },
      ],
    }),
  );
  expect(shared().shared).toHaveLength(1);
  s.undo();
  expect(s.store.all('reactions')).toEqual([reaction('re_1', a), reaction('re_2', b)]);
});
