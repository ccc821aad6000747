/** Events, conditions and happenings as sentences. */
import { COMPARISONS, type Condition, type On, type Transition } from '@apple-tick/core/model';
import type { TraceRecord } from '@apple-tick/core/run';
import type { PieceStore } from './model-help.ts';

export function nameOf(store: PieceStore, id: string | undefined): string {
  if (id === undefined) return '';
  for (const t of ['objects', 'clips', 'signals', 'messages', 'machines', 'sounds'] as const) {
    const r = store.get(t, id);
    if (r) return r.name;
  }
  for (const m of store.all('machines'))
    for (const l of m.lanes) {
      if (l.id === id) return l.name;
      const s = l.states.find((x) => x.id === id);
      if (s) return s.name;
    }
  return 'something deleted';
}

const EVENT_WORDS: Record<string, string> = {
  'pointer.click': 'clicked',
  'pointer.press': 'pressed',
  'pointer.release': 'released',
  'pointer.enter': 'pointed at',
  'pointer.leave': 'no longer pointed at',
  'piece.start': 'the piece starts',
  'state.done': 'done',
};

export function eventWords(store: PieceStore, on: On, owner?: string): string {
  const what = EVENT_WORDS[on.event];
  if (on.event.startsWith('pointer.')) return `${nameOf(store, on.object ?? owner)} ${what}`;
  if (what) return what;
  if (on.event === 'key.down' || on.event === 'key.up')
    return `keyboard key ${on.key ?? 'any'} ${on.event === 'key.down' ? 'down' : 'up'}`;
  if (on.event === 'timer') return `after ${on.after ?? on.every} s`;
  const target = nameOf(store, on.signal ?? on.message ?? on.state ?? on.clip ?? on.lane);
  return `${target} ${on.event.replace(/^(signal|clip|state|lane)\./, '').replace('change', 'changes')}`.trim();
}

export function conditionWords(store: PieceStore, c: Condition): string {
  if (!('signal' in c))
    return c.fact === 'state' ? `in ${nameOf(store, c.state)}` : `${nameOf(store, c.clip)} past ${c.past} s`;
  const how = COMPARISONS.find((k) => c[k] !== undefined) ?? 'is';
  const v = c[how];
  const value =
    typeof v === 'object' ? nameOf(store, v.signal) : v === true ? 'on' : v === false ? 'off' : String(v);
  const word = { is: '', not: 'not ', atLeast: '≥ ', atMost: '≤ ', above: '> ', below: '< ' }[how];
  return `${nameOf(store, c.signal)} ${word}${value}`;
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
  if ('seconds' in t.crossfade && t.crossfade.seconds > 0) parts.push(`fades ${t.crossfade.seconds} s`);
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
      return 'Things set each other off in a circle';
    case 'done':
      return r.event === 'state.done'
        ? `${n(r.state)} was done`
        : r.event === 'lane.done'
          ? `${n(r.lane)} finished`
          : null;
    case 'action':
      return `${n(r.object)} ${r.property} put`;
    case 'input':
      return r.input === 'pointer'
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
