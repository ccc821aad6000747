/** Editors of several fields of an action at once. Whatever field none of them has is edited by its form. */
import type { AnySchema, Fields } from '@apple-tick/core/grammar';
import { ACTIONS, type ActionName } from '@apple-tick/core/model';
import { own as captions } from '../features/captions/Parts.tsx';
import { own as effects } from '../features/effects/Parts.tsx';
import { own as motors } from '../features/motors/Parts.tsx';
import { own as sounds } from '../features/sounds/Parts.tsx';
import { own as templates } from '../features/templates/Parts.tsx';
import { own as tweens } from '../features/tweens/Parts.tsx';
import { isPlain } from '../session/words/plain-forms.ts';
import type { Own, OwnParts } from './own.ts';
import { own as plays } from './PlayParts.tsx';
import { own as sends } from './SendParts.tsx';

const OWN: OwnParts = {
  ...{ ...tweens, ...sends, ...plays, ...captions },
  ...{ ...effects, ...templates, ...sounds, ...motors },
};

export function ownParts(action: ActionName): Own<ActionName> | undefined {
  return OWN[action] as Own<ActionName> | undefined;
}

/** The fields that the sentence of an action names, in its order. */
export function saidFields(says: string): string[] {
  return [...says.matchAll(/\{(\w+)\}/g)].map((m) => m[1] as string);
}

/** Plain fields of an action that neither its sentence nor an editor of its own has. */
export function restOf(action: ActionName): readonly (readonly [field: string, form: AnySchema])[] {
  const { says, fields } = ACTIONS[action];
  const taken = new Set<string>([...saidFields(says), ...(ownParts(action)?.fields ?? [])]);
  return Object.entries(fields as Fields).flatMap(([field, form]) =>
    taken.has(field) || !isPlain(form as AnySchema) ? [] : [[field, form as AnySchema] as const],
  );
}
