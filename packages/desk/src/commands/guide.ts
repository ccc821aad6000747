/** The pages of the guide, found like commands, also by words that they only speak of. */
import { GUIDE as PAGES } from '../session/words/guide-pages.ts';
import type { CommandInfo } from './command.ts';

export const GUIDE: readonly CommandInfo[] = PAGES.map(({ id, title, find }) => ({
  ...{ id: `guide.${id}`, name: title, find, keys: [], place: 'guide' },
  enabled: (s) => s.page !== null,
  run: (s) => s.page?.go(`/guide/${id}`),
}));
