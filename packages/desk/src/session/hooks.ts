import type { RecordOf, TableName } from '@apple-tick/core/model';
import type { Run } from '@apple-tick/core/run';
import { createContext, useContext, useRef, useSyncExternalStore } from 'react';
import { useStore } from 'zustand';
import { useShallow } from 'zustand/react/shallow';
import type { Open, Session } from './session.ts';
import type { UiState } from './ui-state.ts';

export const SessionContext = createContext<Session | null>(null);

export function useSession(): Session {
  const s = useContext(SessionContext);
  if (!s) throw new Error('no session here');
  return s;
}

export function useUi<T>(pick: (s: UiState) => T): T {
  return useStore(useSession().ui, pick);
}

/** Several parts of the interface's state, anew only when one of them changed. */
export function useUiParts<K extends keyof UiState>(...keys: readonly K[]): Pick<UiState, K> {
  const pick = (u: UiState) => Object.fromEntries(keys.map((k) => [k, u[k]])) as Pick<UiState, K>;
  return useStore(useSession().ui, useShallow(pick));
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
  useUi((u) => u.openClip);
  useUi((u) => u.machine);
  return useSession().open;
}

/** Whether a clip is open: drawn anew only when that changes. */
export function useIsOpen(): boolean {
  const s = useSession();
  return useSyncExternalStore(
    (l) => {
      const off = [s.store.subscribe(l), s.ui.subscribe(l)];
      return () => {
        for (const f of off) f();
      };
    },
    () => s.open !== null,
  );
}

/**
 * What `get` says of the piece, but not while something is being dragged: then it stands as it was, until the end. For
 * what shows names and still pictures beside the thing that moves.
 */
function useIdle<T>(get: () => T): T {
  const s = useSession();
  const kept = useRef<{ value: T } | null>(null);
  return useSyncExternalStore(
    (l) => {
      const off = [s.store.subscribe(l), s.idle.subscribe(l)];
      return () => {
        for (const f of off) f();
      };
    },
    () => {
      if (!kept.current || !s.gesture) kept.current = { value: get() };
      return kept.current.value;
    },
  );
}

/** Any change of the piece, at the end of a drag only. */
export function useIdleVersion(): number {
  const { store } = useSession();
  return useIdle(() => store.version);
}

/** A table's records, anew only when the table changed, at the end of a drag only. */
export function useIdleTable<T extends TableName>(table: T): RecordOf<T>[] {
  const { store } = useSession();
  const kept = useRef<{ version: number; list: RecordOf<T>[] }>({ version: -1, list: [] });
  return useIdle(() => {
    const version = store.tableVersion(table);
    if (kept.current.version !== version) kept.current = { version, list: store.all(table) };
    return kept.current.list;
  });
}

/** What `pick` says of the run now, drawn anew only when it says something else; undefined while nothing runs. */
export function useRun<T extends string | number | boolean>(pick: (run: Run) => T): T | undefined {
  const s = useSession();
  return useStore(s.clock, () => (s.player ? pick(s.player.run) : undefined));
}

/** Any change of the piece. */
export function useVersion(): number {
  const { store } = useSession();
  return useSyncExternalStore(
    (l) => store.subscribe(l),
    () => store.version,
  );
}
