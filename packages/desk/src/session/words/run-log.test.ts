import { emptyPiece, PieceStore } from '@apple-tick/core/model';
import type { TraceRecord } from '@apple-tick/core/run';
import { expect, it } from 'vitest';
import { newSignal } from '../doings/signals.ts';
import { folded, type LogLine, RunLog } from './run-log.ts';

const p = emptyPiece('p', 'Mill');
p.signals = { si_o: newSignal('si_o', 'open', 'switch') };
const record = (id: number, cause: number | null, more: Partial<TraceRecord>): TraceRecord => ({
  ...{ id, tick: id, t: id / 60, kind: 'event', cause },
  ...more,
});
const change = (id: number, cause: number | null) =>
  record(id, cause, { kind: 'signal', event: 'signal.change', signal: 'si_o', to: true });

it('each record is worded when it comes; a line knows the nearest cause that is a line', () => {
  const store = new PieceStore(p);
  const log = new RunLog(store);
  log.add([change(1, null), record(2, 1, { event: 'state.leave' })]);
  log.add([record(3, 2, { event: 'state.enter' }), change(4, 3)]);
  expect(log.lines.map((l) => [l.id, l.words, l.cause?.id])).toEqual([
    [1, 'open → on', undefined],
    [4, 'open → on', 1],
  ]);
  expect(log.records.map((r) => r.id)).toEqual([1, 2, 3, 4]);
});

it('keeps the newest, and the causes that they know', () => {
  const log = new RunLog(new PieceStore(p));
  for (let i = 0; i < 50; i++)
    log.add(Array.from({ length: 100 }, (_, k) => change(i * 100 + k, i * 100 + k - 1)));
  expect(log.lines).toHaveLength(2000);
  expect(log.records).toHaveLength(2000);
  expect(log.lines.at(-1)).toMatchObject({ id: 4999, cause: { id: 4998 } });
});

it('the first states of the lanes are one line with the start; later ones are lines of their own', () => {
  const log = new RunLog(new PieceStore(p));
  const start = (id: number, tick: number, lane: string) =>
    record(id, null, { tick, kind: 'start', lane, state: 'st_a' });
  log.add([record(1, null, { tick: 0, event: 'piece.start' }), start(2, 0, 'la_a'), start(3, 0, 'la_b')]);
  log.add([change(4, 3), start(5, 9, 'la_c')]);
  expect(log.lines.map((l) => [l.id, l.more.length, l.cause?.id])).toEqual([
    [1, 2, undefined],
    [4, 0, 1],
    [5, 0, undefined],
  ]);
  expect(log.lines[0]?.words).toBe('Mill started');
});

it('a click that nothing heard is told apart from one that led to something', () => {
  const log = new RunLog(new PieceStore(p));
  const click = (id: number) => record(id, null, { event: 'pointer.click', object: 'ob_a' });
  log.add([click(1), click(2), change(3, 2)]);
  expect(log.lines.map((l) => log.isUnheard(l))).toEqual([true, false, false]);
});

it('each line is of a sort, and about the object of its lane or its own', () => {
  const store = new PieceStore({
    ...p,
    machines: {
      ma_a: {
        id: 'ma_a',
        name: 'm',
        object: 'ob_a',
        lanes: [
          {
            ...{ id: 'la_a', name: 'l', initial: 'st_a', unkeyed: 'base', amount: 1, blend: 'replace' },
            states: [{ id: 'st_a', name: 'a', play: 'rest' }],
            transitions: [],
          },
        ],
      },
    },
  });
  const log = new RunLog(store);
  log.add([
    record(1, null, { event: 'pointer.click', object: 'ob_b' }),
    record(2, 1, { kind: 'transition', lane: 'la_a', from: 'st_a', to: 'st_a' }),
    change(3, 2),
    record(4, 3, { kind: 'reaction', reaction: 're_a', object: 'ob_b' }),
    record(5, null, { event: 'zone.enter', collider: 'co_a', object: 'ob_a', other: 'ob_b' }),
  ]);
  expect(log.lines.map((l) => [l.group, l.about])).toEqual([
    ['hand', 'ob_b'],
    ['states', 'ob_a'],
    ['signals', null],
    ['doings', 'ob_b'],
    ['zones', 'ob_a'],
  ]);
});

it('what comes again and again is told once, where it came last; what somebody did stands alone', () => {
  const line = (id: number, words: string, group: LogLine['group'] = 'doings'): LogLine => ({
    ...{ id, t: id, words, lane: null, more: [], group, about: null, clicked: null },
    ...{ moves: false, cause: undefined },
  });
  const words = ['Kettle reacted', 'Cover tweened'];
  const rattles = Array.from({ length: 12 }, (_, i) => line(i, words[i % 2] as string));
  const told = folded([
    line(100, 'Bell was clicked', 'hand'),
    ...rattles,
    line(101, 'Bell was clicked', 'hand'),
  ]);
  expect(told.map((x) => [x.line.words, x.all.length])).toEqual([
    ['Bell was clicked', 1],
    ['Kettle reacted', 6],
    ['Cover tweened', 6],
    ['Bell was clicked', 1],
  ]);
  expect(told[1]?.line.id).toBe(10);
  expect(told[1]?.all.map((l) => l.id)).toEqual([0, 2, 4, 6, 8, 10]);
  // What each of two clicks led to stands with it.
  const clicked = (id: number) => [line(id, 'Box was clicked', 'hand'), line(id + 1, 'Box reacted')];
  expect(folded([...clicked(1), ...clicked(3)])).toHaveLength(4);
  // Long after, it is told anew.
  const far = [line(1, 'x'), ...['a', 'b', 'c', 'd'].map((w, i) => line(i + 2, w)), line(9, 'x')];
  expect(folded(far).filter((x) => x.line.words === 'x')).toHaveLength(2);
});

it('a tween or a motor is told with what began it; alone where that is not told', () => {
  const reacted: LogLine = {
    ...{ id: 1, t: 1, words: 'Kettle reacted', lane: null, more: [], group: 'doings', about: null },
    ...{ clicked: null, moves: false, cause: undefined },
  };
  const move = (id: number, words: string): LogLine => ({
    ...reacted,
    id,
    words,
    moves: true,
    cause: reacted,
  });
  const [up, down] = [move(2, 'Cover turn z tweened'), move(4, 'Cover turn z tweened')];
  const other: LogLine = { ...reacted, id: 3, words: 'Bell was clicked', group: 'hand' };
  const told = folded([reacted, up, other, down]);
  expect(told.map((x) => [x.line.words, x.moves.map((m) => m.id)])).toEqual([
    ['Kettle reacted', [2, 4]],
    ['Bell was clicked', []],
  ]);
  // Again, it is told once, with what the newest began.
  const again: LogLine = { ...reacted, id: 5 };
  const later: LogLine = { ...move(6, 'Cover turn z tweened'), cause: again };
  expect(folded([reacted, up, again, later]).map((x) => [x.all.length, x.moves.map((m) => m.id)])).toEqual([
    [2, [6]],
  ]);
  expect(folded([up]).map((x) => x.line.id)).toEqual([2]);
});
