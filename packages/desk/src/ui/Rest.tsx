import { type ReactNode, useRef } from 'react';
import { useStore } from 'zustand';
import { useSession } from '../session/hooks.ts';

/** Stands as it was while something is dragged, and is drawn anew at its end: for what the drag does not change. */
export function Rest({ children }: { children: ReactNode }) {
  const s = useSession();
  useStore(s.idle);
  const kept = useRef(children);
  if (!s.gesture) kept.current = children;
  return kept.current;
}
