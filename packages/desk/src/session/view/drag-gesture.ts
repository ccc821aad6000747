/** A drag of the pointer as one gesture of the session, wherever on the screen it is made. */
import type { Session } from '../session.ts';

export interface DragParts {
  readonly move: (e: PointerEvent) => void;
  /** The pointer is let go: the last chance to move. */
  readonly drop?: (() => void) | undefined;
  /** It is over, let go or taken back. */
  readonly stop?: (() => void) | undefined;
}

/** Follows the pointer until it is let go; Escape, an undo, or another gesture ends it too. */
export function dragGesture(s: Session, name: string, { move, drop, stop }: DragParts): void {
  const up = () => {
    try {
      drop?.();
    } finally {
      gesture.end();
    }
  };
  const key = (e: KeyboardEvent) => {
    if (e.key !== 'Escape') return;
    e.stopPropagation();
    gesture.cancel();
  };
  const gesture = s.beginGesture(name, () => {
    removeEventListener('pointermove', move);
    removeEventListener('pointerup', up);
    removeEventListener('pointercancel', up);
    removeEventListener('keydown', key, true);
    stop?.();
  });
  addEventListener('pointermove', move);
  addEventListener('pointerup', up);
  addEventListener('pointercancel', up);
  addEventListener('keydown', key, true);
}

/** Follows the pointer until it is let go, changing nothing of the piece. */
export function track(move: (e: PointerEvent) => void, end?: () => void): void {
  addEventListener('pointermove', move);
  const stop = () => {
    removeEventListener('pointermove', move);
    removeEventListener('pointerup', stop);
    removeEventListener('pointercancel', stop);
    end?.();
  };
  addEventListener('pointerup', stop);
  addEventListener('pointercancel', stop);
}
