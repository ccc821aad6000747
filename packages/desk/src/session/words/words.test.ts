import {
  ACTIONS,
  type Action,
  type Condition,
  EVENTS,
  emptyPiece,
  type Lane,
  type On,
  PieceStore,
  type Said,
  type Transition,
} from '@apple-tick/core/model';
import type { TraceRecord } from '@apple-tick/core/run';
import { expect, it } from 'vitest';
import { newSignal } from '../doings/signals.ts';
import { happened } from './log-words.ts';
import { actionWords, conditionWords, eventWords, nameOf, ticketWords } from './words.ts';

const p = emptyPiece('p', 'Mill');
p.signals = {
  si_o: newSignal('si_o', 'open', 'switch'),
  si_j: newSignal('si_j', 'juice', 'number'),
  si_r: newSignal('si_r', 'ring', 'pulse'),
};
p.messages = { me_u: { id: 'me_u', name: 'order up', note: '' } };
p.clips = {
  cl_t: {
    id: 'cl_t',
    name: 'tipping',
    root: 'ob_f',
    duration: 1,
    loop: 'once',
    tracks: [],
    cues: [{ id: 'cu_1', t: 0.3, when: 'forwards', actions: [] }],
  },
};
p.tags = { ta_f: { id: 'ta_f', name: 'fruit' }, ta_n: { id: 'ta_n', name: 'nut' } };
p.colliders = {
  co_m: {
    ...{ id: 'co_m', name: 'Mouth', role: 'zone', shape: 'box', at: [0, 0, 0], size: [9, 9, 9] },
    ...{ through: false, tags: ['ta_f'], visitor: true, on: true },
  },
};
const store = new PieceStore(p);

it('events read as sentences', () => {
  const cases: [On, string][] = [
    [{ event: 'state.done' }, 'done'],
    [{ event: 'signal.change', signal: 'si_j' }, 'juice changes'],
    [{ event: 'pulse', signal: 'si_r' }, 'ring pulses'],
    [{ event: 'message', message: 'me_u' }, 'order up sent'],
    [{ event: 'key.down', key: ' ' }, 'key Space goes down'],
    [{ event: 'key.up' }, 'any keyboard key comes up'],
    [{ event: 'timer', after: 1, every: 2, jitter: 0.5 }, 'after 1 s, every 2 s, ± 0.5 s'],
    [{ event: 'cue', cue: 'cu_1' }, 'tipping at 0.30 s passed'],
    [{ event: 'clip.loop', clip: 'cl_t' }, 'tipping begins anew'],
    [{ event: 'message', message: 'me_gone' }, 'something deleted sent'],
    [{ event: 'zone.enter', collider: 'co_m' }, 'something comes into Mouth'],
    [{ event: 'zone.leave', collider: 'co_m', tags: ['ta_f', 'ta_n'] }, 'fruit or nut leaves Mouth'],
    [{ event: 'near.leave', collider: 'co_m', tags: ['ta_f'] }, 'fruit is no longer near Mouth'],
    [{ event: 'touch.begin', collider: 'co_m' }, 'something touches Mouth'],
    [{ event: 'drag.drop', collider: 'co_m' }, 'something dropped into Mouth'],
  ];
  for (const [on, words] of cases) expect(eventWords(store, on)).toBe(words);
});

it('conditions and actions read as sentences', () => {
  const conditions: [Condition, string][] = [
    [{ signal: 'si_o', is: true }, 'open is on'],
    [{ signal: 'si_o', not: false }, 'open is not off'],
    [{ signal: 'si_j', atMost: 4 }, 'juice ≤ 4'],
    [{ signal: 'si_j', above: { signal: 'si_j' } }, 'juice > juice'],
    [{ signal: 'si_r', is: true }, 'ring pulses'],
    [{ fact: 'clip', clip: 'cl_t', past: 0.5, is: false }, 'tipping not past 0.5 s'],
    [{ fact: 'inside', collider: 'co_m' }, 'something in Mouth'],
    [{ fact: 'inside', collider: 'co_m', tags: ['ta_f'], is: false }, 'fruit not in Mouth'],
    [{ fact: 'count', collider: 'co_m', atLeast: 3 }, '≥ 3 things in Mouth'],
    [{ fact: 'count', collider: 'co_m', tags: ['ta_f'], is: 0 }, '0 fruit in Mouth'],
  ];
  for (const [c, words] of conditions) expect(conditionWords(store, c)).toBe(words);
  const actions: [Action, string][] = [
    [{ do: 'set', signal: 'si_j', to: { sum: [1, { signal: 'si_j' }] } }, 'set juice to 1 + juice'],
    [{ do: 'set', signal: 'si_j', to: { pick: [1, 2] }, after: 2 }, 'set juice to one of 1, 2 after 2 s'],
    [{ do: 'toggle', signal: 'si_o' }, 'toggle open'],
    [{ do: 'add', signal: 'si_j', by: 3 }, 'add 3 to juice'],
    [{ do: 'send', message: 'me_u' }, 'send order up'],
    [{ do: 'send', message: 'me_u', tags: ['ta_n'] }, 'send order up to nut'],
    [{ do: 'hide', object: 'other' }, 'hide what came'],
  ];
  for (const [a, words] of actions) expect(actionWords(store, a)).toBe(words);
});

it('a ticket tells all that must come together, or that nothing does yet', () => {
  const t: Transition = {
    id: 'tr_1',
    from: '*',
    to: 'st_a',
    on: null,
    when: [{ signal: 'si_o', is: true }],
    notBefore: { percent: 40 },
    crossfade: { percent: 20 },
    odds: 3,
    enabled: false,
    set: true,
    reenter: false,
    mayRepeat: true,
  };
  const of = { id: 'ma_1', name: 'M', object: 'ob_f', lanes: [] };
  const others = [
    { ...t, id: 'tr_2', odds: 1 },
    { ...t, id: 'tr_3', odds: 8, on: { event: 'pointer.click' as const } },
  ];
  const lane = { transitions: [t, ...others] } as unknown as Lane;
  // One that waits for something else is not drawn with it.
  expect(ticketWords(store, t, of, lane)).toBe('off: · 75 % · open is on · not before 40 % · fades 20 %');
  expect(ticketWords(store, { ...t, set: false }, of, lane)).toBe('not yet set');
});

it('what happened is told in plain words; what only the machinery needs is not', () => {
  const r = (x: Partial<TraceRecord>) =>
    happened(store, { id: 1, tick: 0, t: 0, cause: null, ...x } as TraceRecord);
  expect(r({ kind: 'signal', signal: 'si_o', to: true })).toBe('open → on');
  expect(r({ kind: 'signal', event: 'pulse', signal: 'si_r' })).toBe('ring pulsed');
  expect(r({ kind: 'event', event: 'state.leave' })).toBeNull();
  expect(r({ kind: 'input', input: 'pointer' })).toBeNull();
  expect(r({ kind: 'event', event: 'piece.start' })).toBe('Mill started');
  const met = { kind: 'event', collider: 'co_m', object: 'ob_f', other: 'ob_gone' } as const;
  expect(r({ ...met, event: 'zone.enter' })).toBe('something deleted came into Mouth');
  expect(r({ ...met, event: 'touch.begin' })).toBe('something deleted touches Mouth');
  expect(r({ ...met, event: 'touch.end' })).toBe('something deleted no longer touches Mouth');
  expect(r({ ...met, event: 'near.leave' })).toBe('something deleted is no longer near Mouth');
  expect(nameOf(store, 'si_gone')).toBe('something deleted');
});

it('what is told of events and actions names only what a record holds', () => {
  const known = [
    ...['object', 'other', 'collider', 'clip', 'lane', 'state', 'sheet', 'sound', 'effect', 'answer', 'key'],
    ...['property', 'cue', 'played', 'over', 'why', 'piece'],
  ];
  const all = [...Object.values(EVENTS), ...Object.values(ACTIONS)] as Said[];
  const named = all.flatMap((x) => [...(x.told ?? '').matchAll(/\{(\w+)\}/g)].map(([, field]) => field));
  expect(named.length).toBeGreaterThan(30);
  expect(named.filter((field) => !known.includes(field as string))).toEqual([]);
});

it('a sheet that was stopped is told, and a flash that was not shown', () => {
  const { sheet, effect } = { sheet: 'cs_1', effect: 'ef_1' };
  const piece = emptyPiece('p', 'P');
  piece.cueSheets[sheet] = { id: sheet, name: 'Scene', again: 'restart', end: 'stop', cues: [] };
  const store = new PieceStore(piece);
  const rec = (part: object) => ({ id: 1, tick: 0, t: 0, cause: null, ...part }) as TraceRecord;
  expect(happened(store, rec({ kind: 'sheet', action: 'stopSheet', sheet }))).toBe('Scene was stopped');
  expect(happened(store, rec({ kind: 'action', action: 'flash', effect, shown: false }))).toContain(
    '(not shown: too many)',
  );
});
