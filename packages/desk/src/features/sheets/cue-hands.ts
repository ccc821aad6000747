/** What hands do with cues, and where seconds stand. */
import type { CueSheet, PlannedCue } from '@apple-tick/core/model';
import { localKey } from '../../commands/local-keys.ts';
import type { Session } from '../../session/session.ts';
import { dragGesture } from '../../session/view/drag-gesture.ts';
import { rulerStep } from '../../ui/ruler-step.ts';
import { changeCue, copyCue, deleteCue, type Hook, hangCue, hookAfter } from './edit.ts';
import { finite, type Lifted, PAD, ROW, TOP } from './sheet-layout.ts';

/** Seconds to which a dragged cue snaps; with Alt to hundredths. */
const SNAP = 0.1;
/** Px by which a cue is dragged up or down before it looks for another to hang on. */
const LIFT = 20;

/** Seconds on the screen: the whole sheet with some room after it, as large as is asked for. */
export function timeScale(plan: readonly PlannedCue[], room: number, zoom: number) {
  const end = Math.max(0, ...plan.map((p) => finite(p.start) + finite(p.length)));
  const span = Math.max(4, end * 1.2 + 1);
  const px = ((Math.max(300, room) - PAD * 2) / span) * zoom;
  const x = (t: number) => PAD + t * px;
  const width = Math.max(room, x(span) + PAD);
  const step = rulerStep({ span: (width - 2 * PAD) / px, width });
  const marks = Array.from({ length: Math.floor((width - PAD) / px / step) + 1 }, (_, i) => i * step);
  return { px, x, width, step, marks };
}

/** A time as hands mean it: at a tenth, or, finely, at a hundredth of a second. */
export const snap = (t: number, fine: boolean) => {
  const to = fine ? 0.01 : SNAP;
  return Math.max(0, Math.round(Math.round(t / to) * to * 1000) / 1000);
};

interface Reach {
  readonly s: Session;
  readonly sheet: CueSheet;
  readonly plan: readonly PlannedCue[];
  /** Px of a second, and where a second stands. */
  readonly px: number;
  readonly x: (t: number) => number;
  readonly box: React.RefObject<HTMLDivElement | null>;
  readonly setLifted: (lifted: Lifted | null) => void;
  readonly onWrite: (at: Hook | null) => void;
}

/** What hands do with a cue: moved in time, hung on another, copied; and its keys. */
export function cueHands({ s, sheet, plan, px, x, box, setLifted, onWrite }: Reach) {
  /** What a cue would hang on if it were let go there; null: it only moves. */
  const hookAt = (ev: PointerEvent, own: ReadonlySet<string>): Hook | null => {
    const rows = box.current?.querySelector('[data-cues]')?.getBoundingClientRect();
    if (!rows) return null;
    const row = Math.floor((ev.clientY - rows.top - TOP) / ROW);
    const over = plan[row];
    if (row < 0) return { cue: null, after: false };
    if (!over || own.has(over.cue.id)) return null;
    const [start, stop] = [x(finite(over.start)), x(finite(over.start) + finite(over.length))];
    const point = ev.clientX - rows.left;
    return { cue: over.cue.id, after: stop > start && Math.abs(point - stop) < Math.abs(point - start) };
  };
  const drag = (p: PlannedCue, e: React.PointerEvent) => {
    if (e.button !== 0) return;
    s.select({ kind: 'sheetCue', sheet: sheet.id, id: p.cue.id });
    if (s.state.readOnly) return;
    const own = new Set(belowOf(plan, p));
    const from = p.cue.t;
    let hook: Hook | null = null;
    // Begun with Alt it is a copy that goes along.
    let { id } = p.cue;
    let copies = e.altKey;
    dragGesture(s, `${copies ? 'Copied' : 'Moved'} ${p.cue.name}`, {
      move: (ev) => {
        if (copies) {
          copies = false;
          id = copyCue(s, sheet.id, p.cue.id);
          s.select({ kind: 'sheetCue', sheet: sheet.id, id });
        }
        const [dx, dy] = [ev.clientX - e.clientX, ev.clientY - e.clientY];
        hook = Math.abs(dy) > LIFT ? hookAt(ev, own) : null;
        setLifted({ id, hook });
        const t = snap(from + (hook ? 0 : dx / px), ev.altKey && !e.altKey);
        changeCue(s, sheet.id, id, `Moved ${p.cue.name}`, (c) => ({ ...c, t }));
      },
      drop: () => {
        if (!hook) return;
        const on = plan.find((q) => q.cue.id === hook?.cue);
        const anchor = on ? finite(on.start) + (hook.after ? finite(on.length) : 0) : 0;
        hangCue(s, sheet.id, id, hook, snap(finite(p.start) - anchor, false));
      },
      stop: () => setLifted(null),
    });
  };
  const key = (p: PlannedCue, e: React.KeyboardEvent) => {
    const means = localKey('sheet', e);
    if (!means || (means === 'split' && s.state.readOnly)) return;
    e.preventDefault();
    e.stopPropagation();
    if (means === 'delete') return deleteCue(s, sheet.id, p.cue.id);
    if (means === 'split') return onWrite(hookAfter(p));
    const by = (e.key === 'ArrowRight' ? 1 : -1) * (e.shiftKey ? 1 : SNAP);
    changeCue(s, sheet.id, p.cue.id, `Moved ${p.cue.name}`, (c) => ({ ...c, t: snap(c.t + by, true) }));
  };
  return { drag, key };
}

function belowOf(plan: readonly PlannedCue[], p: PlannedCue): string[] {
  return plan.flatMap((q) => {
    for (let up: PlannedCue | null = q; up; up = up.parent) if (up === p) return [q.cue.id];
    return [];
  });
}
