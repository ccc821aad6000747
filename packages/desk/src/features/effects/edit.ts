/** Effects: made, changed, and found where they are set off; and the answers of captions. */
import { type Action, type Burst, cuesIn, type Effect, uniqueName } from '@apple-tick/core/model';
import type { PieceStore } from '../../session/model-help.ts';
import type { Session } from '../../session/session.ts';

export type EffectKind = Effect['kind'];

type BurstLooks = Omit<Burst, 'id' | 'name' | 'kind'>;
const SPARKS: BurstLooks = {
  ...{ count: 18, seconds: [0.4, 0.9], direction: 90, spread: 140, speed: [90, 190], gravity: [0, -320, 0] },
  ...{ drag: 0, depth: 0.4, size: [4, 8], spin: [0, 0], fills: ['#e8b04a', '#f4dc94', '#c8682f'] },
  ...{ drawing: 'dot', fade: 0.5 },
};
/** What a burst may begin from, by name. */
export const BURSTS: Readonly<Record<string, BurstLooks>> = {
  sparks: SPARKS,
  splash: {
    ...SPARKS,
    ...{ count: 26, spread: 70, speed: [120, 260], gravity: [0, -620, 0], size: [4, 11] },
    ...{ fills: ['#c98a3c', '#dba75b', '#eac98c'], fade: 0.3, seconds: [0.5, 0.9] },
  },
  dust: {
    ...SPARKS,
    ...{ count: 14, spread: 180, speed: [20, 70], gravity: [0, 12, 0], drag: 2, size: [12, 26] },
    ...{ fills: ['#cfc6b0', '#e0d9c7', '#b9ae94'], fade: 0.9, seconds: [0.6, 1.3] },
  },
  leaves: {
    ...SPARKS,
    ...{ count: 16, direction: 20, spread: 120, speed: [40, 140], gravity: [-10, -60, 0], drag: 0.8 },
    ...{ size: [7, 13], spin: [-260, 260], seconds: [1.4, 2.6], drawing: 'square', depth: 0.8 },
    ...{ fills: ['#6d8f57', '#a9b75a', '#c9a24b', '#b5613a'] },
  },
};

/** An effect of this kind as it is at first. */
export function madeEffect(kind: EffectKind, id: string, name: string): Effect {
  if (kind === 'burst') return { id, name, kind, ...SPARKS };
  if (kind === 'flash')
    return {
      id,
      name,
      kind,
      fill: '#ffffff',
      opacity: 0.7,
      seconds: 0.35,
      easing: { bezier: [0, 0, 0.58, 1] },
    };
  return { id, name, kind, amount: [6, 4], turn: 0, seconds: 0.4, frequency: 12 };
}

/** Adds an effect of this kind. Returns its id. */
export function addEffect(s: Session, kind: EffectKind): string {
  const id = s.newId('effects');
  const wish = kind === 'burst' ? 'sparks' : kind;
  const name = uniqueName(wish, new Set(s.store.all('effects').map((x) => x.name)));
  s.edit(`Added the ${kind} ${name}`, (e) => e.add('effects', madeEffect(kind, id, name)));
  return id;
}

/** The first effect of a kind, or a new one. */
export function firstEffect(s: Session, kind: EffectKind): string {
  return s.store.all('effects').find((x) => x.kind === kind)?.id ?? addEffect(s, kind);
}

export function changeEffect(s: Session, effect: Effect, to: object, step = `Changed ${effect.name}`): void {
  s.edit(step, (e) => e.update('effects', effect.id, (x) => ({ ...x, ...to }) as Effect));
}

/** Every action of the piece, with the object that it belongs to. */
function allActions(store: PieceStore): { readonly action: Action; readonly owner: string }[] {
  const out: { action: Action; owner: string }[] = [];
  const add = (actions: readonly Action[] | undefined, owner: string) => {
    for (const action of actions ?? []) out.push({ action, owner });
  };
  for (const r of store.all('reactions')) add(r.actions, r.object);
  for (const m of store.all('machines'))
    for (const l of m.lanes)
      for (const x of l.states) {
        add(x.onEntry, m.object);
        add(x.onExit, m.object);
      }
  for (const c of store.all('clips')) for (const q of c.cues) add(q.actions, c.root);
  const first = store.ids('objects')[0] ?? '';
  for (const x of store.all('cueSheets')) for (const q of cuesIn(x)) add(q.actions, first);
  return out;
}

/** The object at which an effect is set off first; undefined when it is nowhere, or over the whole frame. */
export function whereSetOff(store: PieceStore, effect: string): string | undefined {
  const at = allActions(store).find(({ action }) => 'effect' in action && action.effect === effect);
  if (!at || !('object' in at.action)) return undefined;
  return at.action.object === 'other' ? at.owner : at.action.object;
}

/** The answers of the captions that an object may have, or, without one, of all. */
export function answersOf(
  store: PieceStore,
  object?: string,
): { readonly id: string; readonly text: string }[] {
  return allActions(store).flatMap(({ action, owner }) => {
    if (action.do !== 'caption' || !action.answers) return [];
    const at = action.object === 'other' ? owner : action.object;
    return object === undefined || at === object ? action.answers : [];
  });
}
