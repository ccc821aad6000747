/** Editors of several fields of an action at once. Whatever field none of them has is edited by its form. */
import type { AnySchema, Fields } from '@apple-tick/core/grammar';
import { ACTIONS, type Action, type ActionName } from '@apple-tick/core/model';
import type { ReactNode } from 'react';
import { SpawnParts } from '../features/templates/Parts.tsx';
import { isPlain } from '../session/words/plain-forms.ts';
import { FaceParts, MotorParts, TweenParts } from './MovingParts.tsx';
import { PlayParts } from './PlayParts.tsx';
import { SendParts } from './SendParts.tsx';
import { CaptionParts, OverParts, SoundParts } from './ShowParts.tsx';

type FieldsOf<K extends ActionName> = keyof (typeof ACTIONS)[K]['fields'];
interface Own<K extends ActionName> {
  /** What it edits, beside what its sentence names. */
  readonly fields: readonly FieldsOf<K>[];
  readonly Parts: (props: {
    a: Action & { do: K };
    /** Whether what is answered has a thing of its own, which can be acted on. */
    thing: boolean;
    onChange: (a: Action) => void;
  }) => ReactNode;
}

const OWN: { readonly [K in ActionName]?: Own<K> } = {
  tween: { fields: ['property', 'to', 'by', 'toBase', 'properties', 'seconds', 'easing'], Parts: TweenParts },
  face: { fields: ['seconds', 'easing'], Parts: FaceParts },
  send: { fields: ['tags'], Parts: SendParts },
  play: { fields: ['speed', 'from', 'again'], Parts: PlayParts },
  caption: { fields: ['text', 'seconds', 'answers', 'again'], Parts: CaptionParts },
  flash: { fields: ['object'], Parts: OverParts },
  shake: { fields: ['object'], Parts: OverParts },
  spawn: { fields: ['object', 'offset', 'parent', 'signals', 'seconds'], Parts: SpawnParts },
  sound: { fields: ['volume'], Parts: SoundParts },
  motor: { fields: ['rate', 'acceleration', 'limit'], Parts: MotorParts },
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
