import { type RefObject, useEffect } from 'react';
import { useSession, useUi } from '../../session/hooks.ts';
import { type Hand, hearsKeys } from '../../session/view/live.ts';

const CURSORS: Record<Hand, string> = { '': 'default', click: 'pointer', drag: 'grab' };

/** While it runs: the pointer shows what it can do, and a piece that listens to the keyboard is given it at once. */
export function LiveHand({ canvas }: { canvas: RefObject<HTMLCanvasElement | null> }) {
  const s = useSession();
  const hand = useUi((u) => u.hand);
  useEffect(() => {
    const el = canvas.current;
    if (!el) return;
    el.style.cursor = CURSORS[hand];
    return () => {
      el.style.cursor = '';
    };
  }, [canvas, hand]);
  useEffect(() => {
    if (hearsKeys(s.player?.run.program.piece ?? s.piece())) canvas.current?.focus();
  }, [s, canvas]);
  return null;
}
