/** Files that are watched: read again when they change, for as long as the page is there. */
import { useCallback, useEffect, useRef } from 'react';
import type { Session } from '../session/session.ts';
import { fileToWatch } from '../ui/watch-file.ts';

interface Watched {
  readonly handle: FileSystemFileHandle;
  /** When the file was changed last, ms, as it was read last. */
  readonly changed: number;
}

/** Ms between two looks at the files. */
const EVERY = 700;

/** Asks for the file of a drawing, and gives it to `read` now and whenever it has changed, until it is not watched any more. */
export function useWatch(s: Session, read: (root: string, file: File, said: 'watched') => void) {
  const files = useRef(new Map<string, Watched>());
  useEffect(() => {
    let isLooking = false;
    const look = async () => {
      if (isLooking || s.state.readOnly || s.gesture) return;
      isLooking = true;
      for (const [root, { handle, changed }] of files.current) {
        if (!s.state.watched.has(root) || !s.store.has('objects', root)) {
          files.current.delete(root);
          continue;
        }
        try {
          const file = await handle.getFile();
          if (file.lastModified === changed) continue;
          // Read at once: a file that is written again meanwhile cannot be read any more.
          const now = new File([await file.arrayBuffer()], file.name, { type: file.type });
          files.current.set(root, { handle, changed: file.lastModified });
          read(root, now, 'watched');
        } catch {
          // It is being written, or was taken away for a moment: the next look may find it.
        }
      }
      isLooking = false;
    };
    const timer = setInterval(() => void look(), EVERY);
    return () => clearInterval(timer);
  }, [s, read]);
  return useCallback(
    async (root: string) => {
      const handle = await fileToWatch();
      if (!handle) return;
      files.current.set(root, { handle, changed: -1 });
      s.set({ watched: new Set([...s.state.watched, root]) });
    },
    [s],
  );
}
