/** What the page of a piece hears wherever the focus is: keys of commands, presses, and what has the focus. */
import { useEffect } from 'react';
import { canRun, commandFor } from '../commands/registry.ts';
import type { Session } from '../session/session.ts';

export function useScreenKeys(s: Session): void {
  useEffect(() => {
    const key = (e: KeyboardEvent) => hearKey(s, e);
    const focus = (e: Event) => {
      const inTimeline = e.target instanceof Element && e.target.closest('[data-timeline]') !== null;
      if (inTimeline !== s.state.inTimeline) s.set({ inTimeline });
    };
    const press = (e: PointerEvent) => {
      leaveField(e);
      focus(e);
      if (s.state.naming !== null) s.set({ naming: null });
    };
    addEventListener('keydown', key);
    addEventListener('pointerdown', press, true);
    addEventListener('focusin', focus);
    return () => {
      removeEventListener('keydown', key);
      removeEventListener('pointerdown', press, true);
      removeEventListener('focusin', focus);
    };
  }, [s]);
}

function hearKey(s: Session, e: KeyboardEvent): void {
  const c = commandFor(e);
  if (isTyped(e, c?.id) && !c?.everywhere) return;
  // Letters right after drawing are the name of what was drawn.
  const { naming } = s.state;
  if (naming !== null && !e.ctrlKey && !e.metaKey && !e.altKey && /^\p{L}$/u.test(e.key)) {
    e.preventDefault();
    s.set({ naming: null, renaming: naming, renamesWith: e.key });
    return;
  }
  if (naming !== null && e.key !== 'Shift') s.set({ naming: null });
  if (!c || !canRun(s, c)) return;
  // In the middle of a drag nothing else is done to the piece; an undo takes the drag back.
  if (s.gesture && c.id !== 'undo') return;
  e.preventDefault();
  c.run(s);
}

/** Whether a key belongs to the field, dialog or list that has the focus. */
function isTyped(e: KeyboardEvent, command: string | undefined): boolean {
  if (!(e.target instanceof HTMLElement || e.target instanceof SVGElement)) return false;
  const mod = e.ctrlKey || e.metaKey;
  // A list hears letters; what is done with Ctrl or ⌘ is the desk's.
  const typing = e.target.closest(`input, textarea, [role="dialog"], [role="menu"]${mod ? '' : ', select'}`);
  if (!typing) return false;
  // In a field whose text is as kept, undo means the piece; otherwise it belongs to the text.
  const undoes = command === 'undo' || command === 'redo';
  return !(undoes && e.target.dataset['clean'] !== 'false' && !typing.matches('[role]'));
}

/** What was typed is kept before anything else begins: a drag's step of the history must not swallow it. */
function leaveField(e: PointerEvent): void {
  const field = document.activeElement;
  if (field instanceof HTMLElement && field.matches('input, textarea') && field !== e.target) field.blur();
}
