/**
 * What happened in a run, in words. Events and actions say themselves how they are told (`told` of their descriptors); what
 * is no event of its own, such as the move of a lane, is told here by its kind of record.
 */
import { ACTIONS, type ActionName, EVENTS, type Said } from '@apple-tick/core/model';
import type { TraceKind, TraceRecord } from '@apple-tick/core/run';
import type { PieceStore } from '../model-help.ts';
import { cueName, keyWords, labelOf, nameOf, ownId } from './words.ts';

/** Why what was spawned went. */
const GONE: Readonly<Record<string, string>> = {
  time: ': its time was over',
  limit: ': there were too many',
  parent: ' with what it lay in',
};

/** Inputs that are told by what comes of them. */
const SILENT: ReadonlySet<string> = new Set([
  ...['pointer', 'view', 'frame', 'key'],
  ...['click', 'press', 'release', 'enter', 'leave'],
]);

/** How a line begins that tells that a tick was asked for more than it serves. */
export const TOO_MUCH = 'More was asked of one moment than it can hold';

/** A descriptor's sentence about a record; a field that the record lacks says nothing. */
function filled(store: PieceStore, told: string, r: TraceRecord): string {
  const n = (id: unknown) => nameOf(store, typeof id === 'string' ? id : undefined);
  const field = (key: string): string => {
    switch (key) {
      case 'played':
        return store.get('clips', r.clip ?? '')?.root === r.object
          ? n(r.clip)
          : `${n(r.clip)} on ${n(r.object)}`;
      case 'over':
        return r.object === undefined ? '' : ` over ${n(r.object)}`;
      case 'why':
        return GONE[r.why ?? ''] ?? '';
      case 'piece':
        return store.head.name;
      case 'property':
        return labelOf(store, r.property ?? '');
      case 'key':
        return keyWords(r.key);
      case 'cue':
        return cueName(store, ownId(r.cue));
      default:
        return n((r as unknown as Record<string, unknown>)[key]);
    }
  };
  return told.replace(/\{(\w+)\}/g, (_, key: string) => field(key)).replace(/ {2,}/g, ' ');
}

/** An event that is told; those of clips only where the clip is played by itself: a lane's are known from its states. */
function eventTold(store: PieceStore, r: TraceRecord): string | null {
  const told = r.event === undefined ? undefined : (EVENTS[r.event] as Said | undefined)?.told;
  if (told === undefined || (told.includes('{played}') && (r.clip === undefined || r.object === undefined)))
    return null;
  return filled(store, told, r);
}

function actionTold(store: PieceStore, r: TraceRecord): string {
  const kind = Object.hasOwn(ACTIONS, r.action ?? '') ? (ACTIONS[r.action as ActionName] as Said) : undefined;
  const words = filled(store, kind?.told ?? `{object} {property} ${r.action}`, r);
  return r.shown === false ? `${words} (not shown: too many)` : words;
}

/** Who asked most of a tick. */
function byWhom(store: PieceStore, r: TraceRecord): string {
  const reaction = r.reaction === undefined ? undefined : store.get('reactions', ownId(r.reaction) ?? '');
  const who = reaction
    ? `the reaction of ${nameOf(store, reaction.object)}`
    : r.cue !== undefined
      ? `the cue ${cueName(store, ownId(r.cue))}`
      : (r.lane ?? r.state) !== undefined
        ? nameOf(store, r.lane ?? r.state)
        : '';
  return who === '' ? '' : `, most of it by ${who}`;
}

/** Whose reactions and transitions a storm goes round. */
function ringWords(store: PieceStore, { ring = [] }: TraceRecord): string {
  const who = ring.flatMap((id) => {
    const r = store.get('reactions', ownId(id) ?? '');
    return r ? [nameOf(store, r.object)] : [];
  });
  return who.length > 0 ? `: ${[...new Set(who)].slice(0, 4).join(' → ')}` : '';
}

/** The words of each kind of record; a kind that is not here does not compile. */
const BY_KIND: Readonly<Record<TraceKind, (store: PieceStore, r: TraceRecord) => string | null>> = {
  start: (store, r) => filled(store, '{lane} starts in {state}', r),
  transition: (store, r) => filled(store, '{lane} {from} → {to}', r),
  signal: (store, r) => {
    const value = r.to === true ? 'on' : r.to === false ? 'off' : String(r.to);
    return `${nameOf(store, r.signal)} ${r.event === 'pulse' ? 'pulsed' : `→ ${value}`}`;
  },
  message: (store, r) => filled(store, '{message} sent', r),
  reaction: (store, r) => filled(store, '{object} reacted', r),
  edit: () => 'The piece was edited',
  storm: (store, r) =>
    r.why === undefined
      ? `Things set each other off in a circle${ringWords(store, r)}`
      : `${TOO_MUCH}${r.why === 'spawns' ? ', too much of it spawned' : ''}${byWhom(store, r) || ringWords(store, r)}`,
  done: eventTold,
  event: eventTold,
  spawn: eventTold,
  cue: (store, r) =>
    r.sheet === undefined ? eventTold(store, r) : `${nameOf(store, r.sheet)}: ${nameOf(store, r.cue)}`,
  sound: (store, r) => filled(store, '{sound} is heard', r),
  burst: (store, r) => filled(store, '{effect} at {object}', r),
  caption: (store, r) => `${nameOf(store, r.object)} says “${r.text}”`,
  action: actionTold,
  sheet: actionTold,
  input: (store, r) =>
    SILENT.has(r.input ?? '') && !r.missed
      ? null
      : `By hand: ${r.input} ${nameOf(store, r.object ?? r.signal ?? r.message ?? r.sound ?? r.sheet)}${r.missed ? ' (cannot be seen)' : ''}`,
};

/** One line of "What happened". Null for what only the machinery needs to know. */
export function happened(store: PieceStore, r: TraceRecord): string | null {
  return BY_KIND[r.kind](store, r);
}
