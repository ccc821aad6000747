import { useEffect, useRef, useState } from 'react';
import { holdDraft } from '../session/keep/drafts.ts';

/**
 * What is typed into a field until it is left, by Enter, by going elsewhere, or because something else is selected: then
 * `commit` gets it, once, if it differs from `shown`. Escape forgets it.
 */
export function useDraft(shown: string, commit: (text: string) => void) {
  const [draft, setDraft] = useState<string | null>(null);
  // The field may go (and with it what it is about) before it loses the focus; what was typed is not lost.
  const latest = useRef({ draft, shown, commit });
  latest.current = { draft, shown, commit };
  const settle = () => {
    const now = latest.current;
    latest.current = { ...now, draft: null };
    setDraft(null);
    if (now.draft !== null && now.draft !== now.shown) now.commit(now.draft);
  };
  const leave = useRef(settle);
  leave.current = settle;
  useEffect(() => () => leave.current(), []);
  const dirty = draft !== null;
  // Whoever leaves the piece settles what is half typed, whether or not this field is told that it goes.
  useEffect(() => (dirty ? holdDraft(() => leave.current()) : undefined), [dirty]);
  const text = draft ?? shown;
  return {
    text,
    clean: text === shown,
    type: (to: string) => setDraft(to),
    settle,
    forget: () => setDraft(null),
  };
}
