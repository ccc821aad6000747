/** Forms of fields that need no editor of their own: numbers, switches, one of some words, text. */
import type { AnySchema } from '@apple-tick/core/grammar';

/** Whether a field of this form can be changed here; others (references, values, lists) have editors of their own. */
export function isPlain(form: AnySchema): boolean {
  return form.is === 'number' || form.is === 'switch' || form.is === 'one of' || form.is === 'text';
}

/** What a field of a plain form holds at first: what suits it, within its bounds. */
export function plainStart(form: AnySchema): unknown {
  switch (form.is) {
    case 'number':
      return Math.min(
        form.max ?? Number.POSITIVE_INFINITY,
        Math.max(1, form.min ?? 1, (form.above ?? 0) + 1),
      );
    case 'switch':
      return true;
    case 'one of':
      return form.values[0];
    default:
      return '';
  }
}

/** The words of a field: "fromNow" is "from now". */
export const fieldWords = (field: string): string => field.replace(/[A-Z]/g, (c) => ` ${c.toLowerCase()}`);
