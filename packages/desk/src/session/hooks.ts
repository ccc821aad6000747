import type { RecordOf, TableName } from '@apple-tick/core/model';
import { createContext, useContext, useRef, useSyncExternalStore } from 'react';
import { useStore } from 'zustand';
import type { Open, Session, UiState } from './session.ts';

export const SessionContext = createContext<Session | null>(null);

export function useSession(): Session {
  const s = useContext(SessionContext);
  if (!s) throw new Error('no session here');
  return s;
}

export function useUi<T>(pick: (s: UiState) => T): T {
  return useStore(useSession().ui, pick);
}

/** The tick last done of what runs: for what is drawn anew with every frame. */
export function useTick(): number {
  return useStore(useSession().clock, (c) => c.tick);
}

/** The newest record of the run's log. */
export function useHappened(): number {
  return useStore(useSession().clock, (c) => c.happened);
}

/** A table's records, anew only when the table changed. */
export function useTable<T extends TableName>(table: T): RecordOf<T>[] {
  const { store } = useSession();
  const kept = useRef<{ version: number; list: RecordOf<T>[] }>({ version: -1, list: [] });
  return useSyncExternalStore(
    (l) => store.subscribe(l),
    () => {
      const version = store.tableVersion(table);
      if (kept.current.version !== version) kept.current = { version, list: store.all(table) };
      return kept.current.list;
    },
  );
}

export function useHead() {
  const { store } = useSession();
  return useSyncExternalStore(
    (l) => store.subscribe(l),
    () => store.head,
  );
}

/** The panel that is unfolded, as `Session.open` derives it. */
export function useOpen(): Open | null {
  useVersion();
  useUi((u) => u.openState);
  useUi((u) => u.machine);
  return useSession().open;
}

/** Any change of the piece. */
export function useVersion(): number {
  const { store } = useSession();
  return useSyncExternalStore(
    (l) => store.subscribe(l),
    () => store.version,
  );
}
