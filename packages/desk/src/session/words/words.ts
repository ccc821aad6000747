/** Events, conditions and happenings as sentences. */
import type { AnySchema, Fields, RefSchema } from '@apple-tick/core/grammar';
import {
  ACTIONS,
  type Action,
  COMPARISONS,
  type Condition,
  cuesIn,
  EASING_PRESETS,
  EVENTS,
  FACTS,
  type Lane,
  type Machine,
  type On,
  partOf,
  propertyLabel,
  type Reaction,
  stopOf,
  type Transition,
  type TweenEasing,
  type Value,
} from '@apple-tick/core/model';
import { answersOf } from '../../features/effects/edit.ts';
import { comparisonOf } from '../doings/signals.ts';
import type { PieceStore } from '../model-help.ts';

const NAMED = [
  'objects',
  'clips',
  'signals',
  'messages',
  'machines',
  'sounds',
  'colliders',
  'effects',
  'cueSheets',
  'templates',
  'tags',
] as const;

export function nameOf(store: PieceStore, id: string | undefined): string {
  if (id === undefined) return '';
  if (id === 'other') return 'what came';
  if (id === 'visitor') return 'the visitor';
  if (id.includes('/') || id.includes('#')) return wayWords(store, id);
  for (const t of NAMED) {
    const r = store.get(t, id);
    if (r) return r.name;
  }
  for (const o of store.everywhere('objects')) {
    const look = o.looks?.find((l) => l.id === id);
    if (look) return look.name;
  }
  for (const m of store.everywhere('machines'))
    for (const l of m.lanes) {
      if (l.id === id) return l.name;
      const s = l.states.find((x) => x.id === id);
      if (s) return s.name;
    }
  for (const x of store.everywhere('cueSheets')) {
    const q = cuesIn(x).find((c) => c.id === id);
    if (q) return q.name;
  }
  return answersOf(store).find((a) => a.id === id)?.text ?? 'something deleted';
}

/** What lies in an instance: its name, and that of the thing; of what was spawned the template's name and its number. */
function wayWords(store: PieceStore, id: string): string {
  const names = id.split('/').flatMap((part, k, all) => {
    const [own = '', n] = part.split('#');
    if (n !== undefined)
      return `${store.get('templates', own)?.name ?? 'something deleted'} ${Number(n) + 1}`;
    const o = k === all.length - 1 ? store.get('objects', own) : undefined;
    // The template's one topmost object stands for the whole.
    if (k > 0 && o?.parent === null && store.homeOf(own) !== null) return [];
    if (stopOf(own)) return propertyLabel(own);
    return nameOf(store, partOf(own)?.what ?? own);
  });
  return names.join(' / ');
}

/** A property in words; one that is a part of its object by that one's name. */
export function labelOf(store: PieceStore, property: string): string {
  const part = stopOf(property) ? null : partOf(property);
  return part ? nameOf(store, part.what) : propertyLabel(property);
}

/** A look by its name; '' is the object's own drawing. */
export function lookWords(store: PieceStore, id: string): string {
  return id === '' ? 'own' : nameOf(store, id);
}

export function keyWords(key: string | undefined): string {
  return key === undefined ? 'any keyboard key' : `key ${key === ' ' ? 'Space' : key}`;
}

export function eventWords(store: PieceStore, on: On, owner?: string): string {
  const { says, by } = EVENTS[on.event];
  const object = by[0] === 'object' ? (on.object ?? owner) : on.object;
  const field = by.find((f) => on[f] !== undefined) ?? by[0];
  const isInto = on.event === 'drag.drop' && on.collider !== undefined;
  const it = (): string => {
    if (isInto) return on.object === undefined ? 'something' : nameOf(store, on.object);
    if (field === 'key') return keyWords(on.key);
    if (field === 'after' || field === 'every' || field === 'jitter') return timerWords(on);
    if (field === 'cue') return cueName(store, on.cue);
    if (field === 'answer') return nameOf(store, object);
    if (field === undefined || field === 'tags' || (field === 'collider' && !on.collider))
      return nameOf(store, owner);
    return nameOf(store, field === 'object' ? object : on[field]);
  };
  const into = isInto ? ` into ${nameOf(store, on.collider)}` : '';
  const answered = on.answer === undefined ? '' : ` “${nameOf(store, on.answer)}”`;
  return `${says.replace('{it}', it).replace('{thing}', thingWords(store, on)).trim()}${into}${answered}`;
}

/** What a zone notices: a thing, or what has one of these tags. */
function thingWords(
  store: PieceStore,
  { other, tags }: { readonly other?: string | undefined; readonly tags?: readonly string[] | undefined },
  none = 'something',
): string {
  if (other !== undefined) return nameOf(store, other);
  return tags?.length ? tags.map((t) => nameOf(store, t)).join(' or ') : none;
}

function timerWords(on: On): string {
  const parts = on.after === undefined ? [] : [`after ${on.after} s`];
  if (on.every !== undefined) parts.push(`every ${on.every} s`);
  if (on.jitter) parts.push(`± ${on.jitter} s`);
  return parts.join(', ');
}

/** An id as its own record has it: without the instances in which it lies. */
export function ownId(id: string | undefined): string | undefined {
  return id?.slice(id.lastIndexOf('/') + 1);
}

/** A cue by its clip and time: "tipping at 0.30 s". */
export function cueName(store: PieceStore, id: string | undefined): string {
  for (const c of store.everywhere('clips')) {
    const q = c.cues.find((x) => x.id === id);
    if (q) return `${c.name} at ${q.t.toFixed(2)} s`;
  }
  return id === undefined ? 'a cue' : nameOf(store, id);
}

export function conditionWords(store: PieceStore, c: Condition): string {
  if (!('signal' in c)) {
    const { says, fields } = FACTS[c.fact];
    if (c.fact === 'speed') {
      const how = COMPARISONS.find((k) => c[k] !== undefined) ?? 'is';
      return `the visitor walks ${SIGNS[how]}${c[how]} px/s`;
    }
    if (c.fact === 'count') {
      const how = COMPARISONS.find((k) => c[k] !== undefined) ?? 'is';
      const sign = how === 'is' ? '' : SIGNS[how];
      return `${sign}${c[how]} ${thingWords(store, c, 'things')} in ${nameOf(store, c.collider)}`;
    }
    if (c.fact === 'inside' || c.fact === 'near')
      return says
        .replace('{thing}', thingWords(store, c))
        .replace('{not}', c.is === false ? 'not ' : '')
        .replace('{collider}', nameOf(store, c.collider));
    return sentence(store, says.replace('{not}', c.is === false ? 'not ' : ''), fields, c);
  }
  const [how, v] = comparisonOf(c);
  if (store.get('signals', c.signal)?.type === 'pulse') return `${nameOf(store, c.signal)} pulses`;
  return `${nameOf(store, c.signal)} ${SIGNS[how]}${valueWords(store, v)}`;
}

const SIGNS = { is: 'is ', not: 'is not ', atLeast: '≥ ', atMost: '≤ ', above: '> ', below: '< ' } as const;

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

/** A descriptor's sentence, with what the fields of `of` hold in the places of their names. */
function sentence(store: PieceStore, says: string, fields: Fields, of: object): string {
  return says.replace(/\{(\w+)\}/g, (_, field: string) =>
    fieldWords(store, fields[field] as AnySchema, (of as Record<string, unknown>)[field]),
  );
}

function fieldWords(store: PieceStore, form: AnySchema, value: unknown): string {
  if (form.is === 'ref') return value === undefined ? 'anything' : nameOf(store, value as string);
  if (form.is === 'property') return labelOf(store, String(value));
  if (form.is === 'number') return `${value} s`;
  if (namesLook(form)) return lookWords(store, value as string);
  if (namesThing(form)) return nameOf(store, value as string);
  return valueWords(store, value as Value);
}

/** Whether a field holds a look, or '' for an object's own drawing. */
export function namesLook(form: AnySchema): boolean {
  return (
    form.is === 'union' &&
    form.of.some((f) => (f as AnySchema).is === 'ref' && (f as RefSchema).to === 'looks')
  );
}

/** Whether a field holds an object, or 'other' for the thing of the event. */
export function namesThing(form: AnySchema): boolean {
  return (
    form.is === 'union' &&
    form.of.some((f) => (f as AnySchema).is === 'ref' && (f as RefSchema).to === 'objects')
  );
}

/** A reaction as one sentence: what it answers, and what it does. */
export function reactionWords(store: PieceStore, r: Reaction): string {
  const asks = r.when.map((c) => conditionWords(store, c)).join(' and ');
  const does = r.actions.map((a) => actionWords(store, a)).join(', ') || 'does nothing yet';
  const often =
    typeof r.limit === 'object'
      ? `once, until ${eventWords(store, r.limit.onceUntil, r.object)}`
      : r.limit === 'once'
        ? 'once'
        : '';
  const later = r.after > 0 ? `after ${r.after} s` : '';
  const rests = r.cooldown > 0 ? `not again within ${r.cooldown} s` : '';
  const how = [often, later, rests].filter((x) => x !== '').join(', ');
  return `when ${eventWords(store, r.on, r.object)}${asks && ` if ${asks}`}: ${does}${how && `; ${how}`}`;
}

/** What an action does, as the end of a sentence. */
export function actionWords(store: PieceStore, a: Action): string {
  const { says, fields } = ACTIONS[a.do];
  const words = a.do === 'tween' ? tweenWords(store, a) : sentence(store, says, fields, a);
  if (a.do === 'send' && a.tags)
    return `${words} to ${thingWords(store, a)}${a.after ? ` after ${a.after} s` : ''}`;
  const over = (a.do === 'flash' || a.do === 'shake') && a.object !== undefined;
  const on = over ? ` over ${nameOf(store, a.object)}` : '';
  return words + on + (a.after ? ` after ${a.after} s` : '');
}

function tweenWords(store: PieceStore, a: Action & { do: 'tween' }): string {
  const one = (x: {
    property?: string | undefined;
    to?: Value | undefined;
    by?: Value | undefined;
    toBase?: number | undefined;
  }) => {
    const label = labelOf(store, x.property ?? '');
    if (x.to !== undefined) return `${label} to ${valueWords(store, x.to)}`;
    if (x.by !== undefined) return `${label} by ${valueWords(store, x.by)}`;
    return `${label} to its base${x.toBase ? ` and ${x.toBase}` : ''}`;
  };
  return `tween ${nameOf(store, a.object)} ${(a.properties ?? [a]).map(one).join(', ')} in ${a.seconds} s`;
}

/** What a tween may be eased by, as its sentence names it. */
export const TWEEN_EASINGS: readonly (readonly [string, TweenEasing])[] = [
  ['ease in out', { bezier: [...EASING_PRESETS['ease-in-out']] }],
  ['ease in', { bezier: [...EASING_PRESETS['ease-in']] }],
  ['ease out', { bezier: [...EASING_PRESETS['ease-out']] }],
  ['swings past', { bezier: [...EASING_PRESETS.overshoot] }],
  ['draws back, swings past', { bezier: [...EASING_PRESETS['anticipate-and-overshoot']] }],
  ['spring', { spring: { damping: 0.35 } }],
  ['bounce', { bounce: 3 }],
  ['linear', 'linear'],
  ['hold', 'hold'],
];

export function tweenEasingName(e: TweenEasing): string {
  const text = JSON.stringify(e);
  return TWEEN_EASINGS.find(([, x]) => JSON.stringify(x) === text)?.[0] ?? 'its own curve';
}

/** The transitions of a lane that are drawn together with this one, itself among them. */
export function drawnWith(lane: Lane, t: Transition): Transition[] {
  const on = JSON.stringify(t.on);
  return lane.transitions.filter((x) => x.from === t.from && x.odds !== null && JSON.stringify(x.on) === on);
}

/** How likely one of them is: per cent, in words; none where all weigh nothing. */
export function shareWords(among: readonly Transition[], t: Transition): string {
  const total = among.reduce((n, x) => n + (x.odds ?? 0), 0);
  return total > 0 ? `${Math.round((100 * (t.odds ?? 0)) / total)} %` : '';
}

/** The sentence on a transition's ticket. */
export function ticketWords(store: PieceStore, t: Transition, { object }: Machine, lane: Lane): string {
  const parts = t.on ? [eventWords(store, t.on, object)] : [];
  for (const c of t.when) parts.push(conditionWords(store, c));
  if (t.notBefore)
    parts.push(
      t.notBefore === 'loopEnd'
        ? 'at the loop’s end'
        : 'seconds' in t.notBefore
          ? `not before ${t.notBefore.seconds} s`
          : `not before ${t.notBefore.percent} %`,
    );
  const fade = t.crossfade;
  const amount = 'seconds' in fade ? fade.seconds : fade.percent;
  if (amount > 0) parts.push(`fades ${amount} ${'seconds' in fade ? 's' : '%'}`);
  // First, since that tells those that are drawn together from each other.
  if (t.odds !== null) parts.unshift(shareWords(drawnWith(lane, t), t) || 'drawn');
  if (!t.enabled) parts.unshift('off:');
  return parts.length > 0 && t.set ? parts.join(' · ') : 'not yet set';
}
