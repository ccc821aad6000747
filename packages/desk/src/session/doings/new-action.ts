/** New actions and reactions: about whatever is at hand, ready to be changed word by word. */
import type { AnySchema, Schema } from '@apple-tick/core/grammar';
import {
  ACTIONS,
  type Action,
  type ActionName,
  type Reaction,
  type SignalType,
  type TableName,
} from '@apple-tick/core/model';
import { type EffectKind, firstEffect } from '../../features/effects/edit.ts';
import { addSheet } from '../../features/sheets/edit.ts';
import { addMade } from '../../features/sounds/edit.ts';
import type { Session } from '../session.ts';
import { chosenWords } from '../things/arrange.ts';
import { isPlain, plainStart } from '../words/plain-forms.ts';
import { namesLook, namesThing, TWEEN_EASINGS } from '../words/words.ts';
import { addMessage, addSignal, firstSignal, plainValue } from './signals.ts';

/** A reaction to a click for each of the objects, which does nothing until it is said what; one step. */
export function addReactions(s: Session, objects: readonly string[]): void {
  const ids = objects.map(() => s.newId('reactions'));
  s.step(`Added a reaction to ${chosenWords(s, objects)}`, () => {
    s.edit('Added a reaction', (e) => {
      for (const [k, object] of objects.entries())
        e.add('reactions', {
          id: ids[k] as string,
          object,
          on: { event: 'pointer.click' },
          when: [],
          after: 0,
          cooldown: 0,
          limit: 'always',
          actions: [],
        });
    });
  });
  s.set({ reaction: ids[0] ?? null });
}

/** What a tween moves comes back to where it was made. */
function turnedBack(a: Action & { do: 'tween' }): Action {
  const { property, to: _t, by: _b, toBase: _o, properties, after: _a, ...rest } = a;
  return properties
    ? { ...rest, properties: properties.map((g) => ({ property: g.property, toBase: 0 })) }
    : { ...rest, property: property as string, toBase: 0 };
}

/** Whether a reaction moves something and does so each time alike. */
export const mayComeBack = (r: Reaction): boolean =>
  r.actions.some((a) => a.do === 'tween') && r.limit === 'always' && r.when.length === 0;

/**
 * The reaction does what it does at every other time only, and lets go back at the times between what it tweens: a switch
 * says which of the two it is. One step.
 */
export function backNextTime(s: Session, r: Reaction): void {
  const name = s.store.get('objects', r.object)?.name ?? '';
  s.step(`${name} comes back the next time`, () => {
    const signal = addSignal(s, 'switch', `${name} has moved`);
    const back = r.actions.flatMap((a) => (a.do === 'tween' ? [turnedBack(a)] : []));
    const half = (is: boolean, actions: readonly Action[]): Pick<Reaction, 'when' | 'actions'> => ({
      when: [{ signal, is }],
      actions: [...actions, { do: 'set', signal, to: !is }],
    });
    s.edit('Comes back', (e) => {
      e.update('reactions', r.id, (x) => ({ ...x, ...half(false, r.actions) }));
      e.add('reactions', { ...r, id: s.newId('reactions'), ...half(true, back) });
    });
  });
  // Both are read now.
  s.set({ reaction: null });
}

/** An action of this kind about the first thing it can be about; makes a signal or message when there is none. */
export function newAction(s: Session, action: ActionName, owner: string): Action {
  if (action === 'tween')
    return {
      do: action,
      object: owner,
      property: 'rotation.z',
      by: 90,
      seconds: 0.5,
      easing: TWEEN_EASINGS[0]?.[1] ?? 'linear',
    };
  if (action === 'motor') return { do: action, object: owner, property: 'rotation.z', rate: 90 };
  if (action === 'face') {
    const toward = s.store.ids('objects').find((id) => id !== owner);
    if (toward === undefined) return newAction(s, 'toggle', owner);
    return { do: action, object: owner, toward, seconds: 0.4, easing: TWEEN_EASINGS[0]?.[1] ?? 'linear' };
  }
  if (action === 'caption') return { do: action, object: owner, text: 'Hello' };
  const made: Record<string, unknown> = { do: action };
  for (const [field, form] of Object.entries<Schema>(ACTIONS[action].fields)) {
    if (form.optional) continue;
    const value = firstFor(s, form as AnySchema, made, owner, action);
    // There is no state, or no clip, that it could be about.
    if (value === undefined) return newAction(s, 'toggle', owner);
    made[field] = value;
  }
  return made as Action;
}

/** What a new action's field holds; `made`: the fields before it. */
function firstFor(
  s: Session,
  form: AnySchema,
  made: Readonly<Record<string, unknown>>,
  owner: string,
  action: ActionName,
): unknown {
  const { store } = s;
  if (form.is === 'property') return 'opacity';
  if (namesLook(form)) return store.get('objects', owner)?.looks?.[0]?.id ?? '';
  if (namesThing(form)) return store.get('clips', String(made['clip']))?.root ?? owner;
  if (isPlain(form)) return plainStart(form);
  if (form.is !== 'ref') {
    const signal = typeof made['signal'] === 'string' ? store.get('signals', made['signal']) : undefined;
    return action === 'add' || !signal ? 1 : plainValue(signal);
  }
  const lane = store.all('machines').flatMap((m) => m.lanes)[0];
  switch (form.to) {
    case 'objects':
      // A clip is played on what it was made for.
      return store.get('clips', String(made['clip']))?.root ?? owner;
    case 'signals': {
      if (form.only) return firstSignal(s, form.only as SignalType, wishFor(s, form.only, owner));
      return store.all('signals').find((x) => x.type !== 'pulse')?.id ?? firstSignal(s, 'switch', 'on');
    }
    case 'messages':
      return store.ids('messages')[0] ?? addMessage(s, 'ready');
    case 'clips': {
      const clips = store.all('clips');
      return (clips.find((c) => c.root === owner) ?? clips[0])?.id;
    }
    case 'effects':
      return firstEffect(s, form.only as EffectKind);
    case 'cueSheets':
      return store.ids('cueSheets')[0] ?? addSheet(s);
    case 'sounds':
      return store.ids('sounds')[0] ?? addMade(s, 'bell');
    case 'lanes':
      return lane?.states[0] && lane.id;
    case 'states':
      return lane?.states[0]?.id;
    default:
      return store.ids(form.to as TableName)[0];
  }
}

/** What a signal that is made for an action is called. */
function wishFor(s: Session, type: string, owner: string): string {
  if (type === 'number') return 'count';
  return type === 'pulse' ? 'go' : `${s.store.get('objects', owner)?.name ?? ''} on`.trim();
}
