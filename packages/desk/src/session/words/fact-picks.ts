/** Facts as conditions are picked and begun, worked out from their descriptors. */
import type { AnySchema, RefKind, RefSchema } from '@apple-tick/core/grammar';
import { type Condition, FACTS, type Fact, type SignalCondition } from '@apple-tick/core/model';
import { isPlain, plainStart } from './plain-forms.ts';

export type FactCondition = Exclude<Condition, SignalCondition>;
type Kind = Parameters<typeof subjectOf>[0];

/** The field that says what a fact is of, and the kind of thing that it names; null for one that is of nothing. */
export function subjectOf(kind: { readonly fields: Readonly<Record<string, unknown>> }): {
  readonly field: string;
  readonly to: RefKind;
} | null {
  // What lies in something else is told by the last of them: a state, and with it its lane.
  const refs = Object.entries(kind.fields).flatMap(([field, schema]) => {
    const { is, to, optional } = schema as RefSchema;
    return is === 'ref' ? [{ field, to, optional }] : [];
  });
  const needed = refs.filter((r) => !r.optional);
  return needed.at(-1) ?? refs[0] ?? null;
}

/** The id of what a condition is of; '' for nothing certain. */
export function subjectIn(c: FactCondition): string {
  const subject = subjectOf(FACTS[c.fact]);
  return subject ? String((c as Record<string, unknown>)[subject.field] ?? '') : '';
}

/** A new condition of a fact, of the thing of this id; `more`: what else it names. */
export function factOf(fact: Fact, id: string, more: object = {}): Condition {
  return { fact, ...newFact(FACTS[fact], id), ...more } as Condition;
}

/** The fields of a new condition. */
export function newFact(kind: Kind & { readonly start?: object }, id: string): object {
  const subject = subjectOf(kind);
  const of = subject && id !== '' ? { [subject.field]: id } : {};
  const rest = Object.entries(kind.fields).flatMap(([field, schema]) => {
    const form = schema as AnySchema;
    return form.optional || !isPlain(form) ? [] : [[field, plainStart(form)]];
  });
  return { ...of, ...Object.fromEntries(rest), ...kind.start };
}
