/** Pieces that were left and are not kept yet, for whoever says so. */
import { createStore } from 'zustand/vanilla';

/** Their names, with the reason. */
export const unkept = createStore<{ readonly list: readonly { id: string; name: string; why: string }[] }>(
  () => ({ list: [] }),
);
