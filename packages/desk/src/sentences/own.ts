/** What an editor of several fields of an action is, by the kind of the action. */
import type { ACTIONS, Action, ActionName } from '@apple-tick/core/model';
import type { ReactNode } from 'react';

type FieldsOf<K extends ActionName> = keyof (typeof ACTIONS)[K]['fields'];
export interface Own<K extends ActionName> {
  /** What it edits, beside what its sentence names. */
  readonly fields: readonly FieldsOf<K>[];
  readonly Parts: (props: {
    a: Action & { do: K };
    /** Whether what is answered has a thing of its own, which can be acted on. */
    thing: boolean;
    onChange: (a: Action) => void;
  }) => ReactNode;
}
export type OwnParts = { readonly [K in ActionName]?: Own<K> };
