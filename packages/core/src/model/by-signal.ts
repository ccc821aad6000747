import { record, ref } from '../grammar/index.ts';

/** A number that a signal gives. */
export const bySignal = record({ signal: ref('signals', 'number') });
