/** The reaction that is worked on: the one that has the focus. */
export function workedReaction(): string | null {
  return document.activeElement?.closest('[data-reaction]')?.getAttribute('data-reaction') ?? null;
}
