/** Events, conditions and happenings as sentences. */
import {
  type Action,
  type Condition,
  type EventName,
  type On,
  propertyInfo,
  type Transition,
  type Value,
} from '@apple-tick/core/model';
import type { TraceRecord } from '@apple-tick/core/run';
import type { PieceStore } from './model-help.ts';
import { comparisonOf } from './signals.ts';

export function nameOf(store: PieceStore, id: string | undefined): string {
  if (id === undefined) return '';
  for (const t of ['objects', 'clips', 'signals', 'messages', 'machines', 'sounds'] as const) {
    const r = store.get(t, id);
    if (r) return r.name;
  }
  for (const o of store.all('objects')) {
    const look = o.looks?.find((l) => l.id === id);
    if (look) return look.name;
  }
  for (const m of store.all('machines'))
    for (const l of m.lanes) {
      if (l.id === id) return l.name;
      const s = l.states.find((x) => x.id === id);
      if (s) return s.name;
    }
  return 'something deleted';
}

/** A look by its name; '' is the object's own drawing. */
export function lookWords(store: PieceStore, id: string): string {
  return id === '' ? 'own' : nameOf(store, id);
}

/** Events in words: after the name of what they happen to, where there is one. */
export const EVENT_WORDS: Record<EventName, string> = {
  'pointer.click': 'clicked',
  'pointer.press': 'pressed',
  'pointer.release': 'released',
  'pointer.enter': 'pointed at',
  'pointer.leave': 'no longer pointed at',
  'key.down': 'goes down',
  'key.up': 'comes up',
  'piece.start': 'the piece starts',
  timer: 'time',
  'signal.change': 'changes',
  pulse: 'pulses',
  message: 'sent',
  'state.enter': 'entered',
  'state.leave': 'left',
  'state.done': 'done',
  'lane.done': 'finished',
  'clip.start': 'starts',
  'clip.done': 'done',
  'clip.loop': 'begins anew',
  'clip.stopped': 'cut short',
  cue: 'passed',
};

export function keyWords(key: string | undefined): string {
  return key === undefined ? 'any keyboard key' : `key ${key === ' ' ? 'Space' : key}`;
}

export function eventWords(store: PieceStore, on: On, owner?: string): string {
  const what = EVENT_WORDS[on.event];
  if (on.event.startsWith('pointer.')) return `${nameOf(store, on.object ?? owner)} ${what}`;
  if (on.event.startsWith('key.')) return `${keyWords(on.key)} ${what}`;
  if (on.event === 'timer') return timerWords(on);
  if (on.event === 'cue') return `${cueName(store, on.cue)} ${what}`;
  const target = on.signal ?? on.message ?? on.state ?? on.clip ?? on.lane;
  return target === undefined ? what : `${nameOf(store, target)} ${what}`;
}

function timerWords(on: On): string {
  const parts = on.after === undefined ? [] : [`after ${on.after} s`];
  if (on.every !== undefined) parts.push(`every ${on.every} s`);
  if (on.jitter) parts.push(`± ${on.jitter} s`);
  return parts.join(', ');
}

/** A cue by its clip and time: "tipping at 0.30 s". */
export function cueName(store: PieceStore, id: string | undefined): string {
  for (const c of store.all('clips')) {
    const q = c.cues.find((x) => x.id === id);
    if (q) return `${c.name} at ${q.t.toFixed(2)} s`;
  }
  return id === undefined ? 'a cue' : 'something deleted';
}

export function conditionWords(store: PieceStore, c: Condition): string {
  if (!('signal' in c)) {
    const not = c.is === false ? 'not ' : '';
    return c.fact === 'state'
      ? `${not}in ${nameOf(store, c.state)}`
      : `${nameOf(store, c.clip)} ${not}past ${c.past} s`;
  }
  const [how, v] = comparisonOf(c);
  if (store.get('signals', c.signal)?.type === 'pulse') return `${nameOf(store, c.signal)} pulses`;
  const word = { is: '', not: 'not ', atLeast: '≥ ', atMost: '≤ ', above: '> ', below: '< ' }[how];
  return `${nameOf(store, c.signal)} ${word}${valueWords(store, v)}`;
}

export function valueWords(store: PieceStore, v: Value): string {
  if (v === true) return 'on';
  if (v === false) return 'off';
  if (typeof v !== 'object') return String(v);
  if ('signal' in v) return nameOf(store, v.signal);
  const all = (list: Value[], sign: string) => list.map((x) => valueWords(store, x)).join(sign);
  if ('sum' in v) return all(v.sum, ' + ');
  if ('difference' in v) return all(v.difference, ' − ');
  if ('product' in v) return all(v.product, ' × ');
  return `one of ${all(v.pick, ', ')}`;
}

/** What an action does, as the end of a sentence. */
export function actionWords(store: PieceStore, a: Action): string {
  const n = (id: string) => nameOf(store, id);
  const later = a.after ? ` after ${a.after} s` : '';
  const does = (): string => {
    switch (a.do) {
      case 'set':
        return `set ${n(a.signal)} to ${valueWords(store, a.to)}`;
      case 'add':
        return `add ${valueWords(store, a.by)} to ${n(a.signal)}`;
      case 'toggle':
      case 'pulse':
        return `${a.do} ${n(a.signal)}`;
      case 'send':
        return `send ${n(a.message)}`;
      case 'put':
        return `put ${n(a.object)} ${propertyInfo(a.property)?.label ?? a.property} to ${valueWords(store, a.to)}`;
      case 'release':
        return `release ${n(a.object)} ${propertyInfo(a.property)?.label ?? a.property}`;
      case 'show':
      case 'hide':
        return `${a.do} ${n(a.object)}`;
      case 'look':
        return `give ${n(a.object)} the look ${lookWords(store, a.to)}`;
      case 'go':
        return `go to ${n(a.state)}`;
      case 'sound':
        return `play the sound ${n(a.sound)}`;
    }
  };
  return does() + later;
}

/** The sentence on a transition's ticket. */
export function ticketWords(store: PieceStore, t: Transition, owner: string): string {
  const parts = t.on ? [eventWords(store, t.on, owner)] : [];
  for (const c of t.when) parts.push(conditionWords(store, c));
  if (t.notBefore)
    parts.push(
      t.notBefore === 'loopEnd'
        ? 'at the loop’s end'
        : 'seconds' in t.notBefore
          ? `not before ${t.notBefore.seconds} s`
          : `not before ${t.notBefore.percent} %`,
    );
  if (t.odds !== null) parts.push(`odds ${t.odds}`);
  const fade = t.crossfade;
  const amount = 'seconds' in fade ? fade.seconds : fade.percent;
  if (amount > 0) parts.push(`fades ${amount} ${'seconds' in fade ? 's' : '%'}`);
  if (!t.enabled) parts.unshift('off:');
  return parts.length > 0 && t.set ? parts.join(' · ') : 'not yet set';
}

/** One line of "What happened". Null for what only the machinery needs to know. */
export function happened(store: PieceStore, r: TraceRecord): string | null {
  const n = (id?: string) => nameOf(store, id);
  const value = r.to === true ? 'on' : r.to === false ? 'off' : String(r.to);
  switch (r.kind) {
    case 'start':
      return `${n(r.lane)} starts in ${n(r.state)}`;
    case 'transition':
      return `${n(r.lane)} ${n(r.from)} → ${n(r.to as string)}`;
    case 'signal':
      return r.event === 'pulse' ? `${n(r.signal)} pulsed` : `${n(r.signal)} → ${value}`;
    case 'message':
      return `${n(r.message)} sent`;
    case 'reaction':
      return `${n(r.object)} reacted`;
    case 'edit':
      return 'The piece was edited';
    case 'storm':
      return r.why === 'dates'
        ? `More was asked of one moment than it can hold${r.lane || r.reaction ? `, most of it by ${n(r.lane ?? r.reaction)}` : ''}`
        : 'Things set each other off in a circle';
    case 'done':
      return r.event === 'state.done'
        ? `${n(r.state)} was done`
        : r.event === 'lane.done'
          ? `${n(r.lane)} finished`
          : null;
    case 'action':
      return `${n(r.object)} ${r.property} put`;
    case 'input':
      return r.input === 'pointer' || r.input === 'view' || r.input === 'frame'
        ? null
        : `By hand: ${r.input} ${n(r.object ?? r.signal ?? r.message)}${r.missed ? ' (cannot be seen)' : ''}`;
    case 'event':
      return r.event === 'pointer.click'
        ? `${n(r.object)} was clicked`
        : r.event === 'piece.start'
          ? `${store.head.name} started`
          : null;
    default:
      return null;
  }
}
