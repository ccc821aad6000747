import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { checkIntegrity, readPiece } from '../src/check/index.ts';
import {
  emptyPiece,
  History,
  isSet,
  type Piece,
  PieceStore,
  removeWithReferences,
  subtreeOf,
  TABLES,
} from '../src/model/index.ts';
import { seeded } from '../testing/random.ts';
import { objectOf, piece, play } from './box-piece.ts';

const chute = (): Piece => {
  const r = readPiece(
    readFileSync(new URL('../../../starters/hinge-that-turns-back.tick.json', import.meta.url), 'utf8'),
  );
  if (!r.ok) throw new Error('unreadable');
  return r.value;
};
const removed = (p: Piece, ...ids: string[]): Piece => {
  const store = new PieceStore(p);
  new History(store).edit('Deleted', (e) => removeWithReferences(e, ids));
  return store.toPiece();
};

describe('removal', () => {
  it('whatever is removed from the demo, no reference leads nowhere, and undo brings back an equal piece', () => {
    const random = seeded(77);
    for (let round = 0; round < 60; round++) {
      const p = chute();
      const store = new PieceStore(p);
      const history = new History(store);
      const before = JSON.stringify(store.toPiece());
      const lanes = Object.values(p.machines).flatMap((m) => m.lanes);
      const ids = [
        ...TABLES.flatMap((t) => Object.keys(p[t])),
        ...lanes.flatMap((l) => [l.id, ...l.states.map((s) => s.id), ...l.transitions.map((t) => t.id)]),
      ];
      for (let n = 0; n < 4; n++) {
        const id = ids[Math.floor(random() * ids.length)] as string;
        history.edit('Deleted', (e) => removeWithReferences(e, [id]));
        expect(checkIntegrity(store.toPiece()), `round ${round}, ${id}`).toEqual([]);
        expect(JSON.stringify(store.toPiece())).not.toContain(`"id":"${id}"`);
      }
      while (history.undo());
      expect(JSON.stringify(store.toPiece())).toBe(before);
    }
  });

  it('what goes because a part of it is gone takes along what names its other parts', () => {
    const p = piece([{ id: 'st_a', name: 'a', play: 'rest' }], []);
    const lane = Object.values(p.machines)[0]?.lanes[0]?.id as string;
    const target = { lane, blend: true as const };
    p.follows['fo_a'] = { id: 'fo_a', target, source: { pointer: 'x' }, clamp: true, smooth: 0 };
    // With its only state the lane goes, and with the lane what gives its blend; the machine stays, empty.
    const left = removed(p, 'st_a');
    expect(left.machines['ma_a']?.lanes).toEqual([]);
    expect(left.follows).toEqual({});
    expect(checkIntegrity(left)).toEqual([]);
  });

  it('an object goes with everything below it, its machine, its clips and what listens to it', () => {
    const left = removed(chute(), 'ob_chute');
    expect(Object.keys(left.objects)).not.toContain('ob_flap');
    expect(Object.keys(left.objects)).toContain('ob_mill');
    expect(left.machines).toEqual({});
    expect(left.clips).toEqual({});
    expect(left.reactions).toEqual({});
    // The signal is the outside's: it stays.
    expect(Object.keys(left.signals)).toHaveLength(1);
  });

  it('a signal takes conditions and actions along; a transition without any reason is no longer set', () => {
    const p = piece(
      [
        { id: 'st_a', name: 'a', play: 'rest', onEntry: [{ do: 'pulse', signal: 'si_p' }] },
        { id: 'st_b', name: 'b', play: play('cl_o', { signal: 'si_n' }) },
      ],
      [
        { from: 'st_a', to: 'st_b', when: [{ signal: 'si_s', is: true }] },
        { from: 'st_b', to: 'st_a', on: { event: 'pulse', signal: 'si_p' } },
        {
          from: 'st_b',
          to: 'st_a',
          on: { event: 'state.done' },
          when: [{ signal: 'si_s', is: { signal: 'si_s' } }],
        },
      ],
    );
    const lane = removed(p, 'si_s', 'si_p', 'si_n').machines['ma_a']?.lanes[0];
    expect(lane?.states[0]?.onEntry).toEqual([]);
    expect(lane?.states[1]?.play).toEqual({ clip: 'cl_o', speed: 1, from: 'start' });
    expect(lane?.transitions.map((t) => [t.id, t.set, t.when.length])).toEqual([
      ['tr_0', false, 0],
      ['tr_2', true, 0],
    ]);
  });

  it('a clip that goes leaves its states at rest; the first state left becomes the initial one', () => {
    const p = piece(
      [
        { id: 'st_a', name: 'a', play: 'rest' },
        { id: 'st_b', name: 'b', play: play('cl_o') },
      ],
      [{ from: 'st_a', to: 'st_b', when: [{ signal: 'si_s', is: true }] }],
    );
    expect(removed(p, 'cl_o').machines['ma_a']?.lanes[0]?.states[1]?.play).toBe('rest');
    const lane = removed(p, 'st_a').machines['ma_a']?.lanes[0];
    expect(lane?.initial).toBe('st_b');
    expect(lane?.transitions).toEqual([]);
    expect(removed(p, 'st_a', 'st_b').machines['ma_a']?.lanes).toEqual([]);
  });

  it('a reaction that would do nothing goes; once-until its lost event becomes once', () => {
    const p = piece([{ id: 'st_a', name: 'a', play: 'rest' }], []);
    const reaction = {
      object: 'ob_a',
      on: { event: 'pointer.click' as const },
      when: [],
      after: 0,
      cooldown: 0,
    };
    p.reactions = {
      re_1: { ...reaction, id: 're_1', limit: 'always', actions: [{ do: 'toggle', signal: 'si_s' }] },
      re_2: {
        ...reaction,
        id: 're_2',
        limit: { onceUntil: { event: 'pulse', signal: 'si_p' } },
        actions: [{ do: 'toggle', signal: 'si_s' }],
      },
    };
    expect(Object.keys(removed(p, 'si_s').reactions)).toEqual([]);
    expect(removed(p, 'si_p').reactions['re_2']?.limit).toBe('once');
  });

  it('a subtree is the object and all below it; a transition is set by any one of four', () => {
    const store = new PieceStore(chute());
    expect([...subtreeOf(store, 'ob_flap')].sort()).toEqual(['ob_flap', 'ob_grip']);
    const none = { on: null, when: [], notBefore: null, odds: null };
    expect(isSet(none)).toBe(false);
    expect(isSet({ ...none, odds: 0 })).toBe(true);
    expect(isSet({ ...none, notBefore: 'loopEnd' })).toBe(true);
  });
});

it('what effects draw, and what cues of sheets name, is let go of', () => {
  const p = emptyPiece('p', 'Effects');
  for (const id of ['ob_a', 'ob_b']) p.objects[id] = objectOf(id, { kind: 'group' });
  p.effects['ef_b'] = {
    ...{
      id: 'ef_b',
      name: 'b',
      kind: 'burst',
      count: 3,
      seconds: [1, 1],
      direction: 0,
      spread: 0,
      speed: [1, 1],
    },
    ...{ gravity: [0, 0, 0], drag: 0, depth: 0, size: [1, 1], spin: [0, 0], fills: ['#000000'], fade: 0 },
    drawing: 'ob_a',
  };
  const cue = (id: string, more: object) => ({
    id,
    name: id,
    t: 0,
    actions: [],
    then: [],
    thenAfter: [],
    ...more,
  });
  p.cueSheets['sh_a'] = {
    ...{ id: 'sh_a', name: 'Scene', again: 'restart', end: 'stop' },
    cues: [
      cue('cu_a', {
        wait: { event: 'pointer.click', object: 'ob_a' },
        actions: [
          { do: 'hide', object: 'ob_a' },
          { do: 'hide', object: 'ob_b' },
        ],
        then: [cue('cu_b', { actions: [{ do: 'burst', effect: 'ef_b', object: 'ob_b' }] })],
      }),
    ],
  } as Piece['cueSheets'][string];
  expect(checkIntegrity(p)).toEqual([]);
  const store = new PieceStore(p);
  const history = new History(store);
  history.edit('Deleted', (e) => removeWithReferences(e, ['ob_a']));
  expect(checkIntegrity(store.toPiece())).toEqual([]);
  expect(store.get('effects', 'ef_b')).toMatchObject({ drawing: 'dot' });
  const [first] = store.get('cueSheets', 'sh_a')?.cues ?? [];
  expect(first?.actions).toEqual([{ do: 'hide', object: 'ob_b' }]);
  expect(first?.wait).toBeUndefined();
  history.edit('Deleted', (e) => removeWithReferences(e, ['ef_b']));
  expect(checkIntegrity(store.toPiece())).toEqual([]);
  expect(store.get('cueSheets', 'sh_a')?.cues[0]?.then[0]?.actions).toEqual([]);
  history.edit('Deleted', (e) => removeWithReferences(e, ['sh_a']));
  while (history.undo());
  expect(store.toPiece()).toEqual(p);
});
