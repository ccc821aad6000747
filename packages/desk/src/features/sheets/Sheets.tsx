import type { CueSheet, PlannedCue } from '@apple-tick/core/model';
import { memo, useEffect, useMemo, useRef, useState } from 'react';
import { localKey } from '../../commands/local-keys.ts';
import { runCommand } from '../../commands/registry.ts';
import { useIdleTable, useRun, useSession, useTable, useUi } from '../../session/hooks.ts';
import type { Session } from '../../session/session.ts';
import { dragGesture, track } from '../../session/view/drag-gesture.ts';
import { actionWords, eventWords, nameOf } from '../../session/words/words.ts';
import { rulerStep } from '../../ui/ruler-step.ts';
import { useWidth } from '../../ui/use-width.ts';
import {
  addLine,
  addSheet,
  addSheetCue,
  changeCue,
  copyCue,
  deleteCue,
  type Hook,
  hangCue,
  hookAfter,
  mayBeScene,
  planFor,
  sheetOf,
  speakerAfter,
} from './edit.ts';
import { SheetHead } from './SheetHead.tsx';

const HEAD = 175;
const PAD = 24;
const ROW = 44;
const RULER = 26;
/** Px that a line takes which is being written. */
const LINE_ROOM = 360;
/** Px above the first cue. */
const TOP = 6;
/** Seconds to which a dragged cue snaps; with Alt to hundredths. */
const SNAP = 0.1;
/** Px by which a cue is dragged up or down before it looks for another to hang on. */
const LIFT = 20;

/** The cues of one sheet along time: what follows hangs below what it follows, what lasts is a bar. */
export const Sheets = memo(function Sheets() {
  const s = useSession();
  useIdleTable('cueSheets');
  useUi((u) => u.sheet);
  const sheet = sheetOf(s);
  const object = useUi((u) => u.object);
  useIdleTable('clips');
  if (!sheet)
    return (
      <div className="p-6">
        <p className="mb-2">
          A cue sheet is a scripted scene: cues at times, one after another, or when something comes.
        </p>
        <button
          type="button"
          className="btn btn-ink"
          onClick={() => s.set({ sheet: addSheet(s), openState: null, openClip: null })}
        >
          Add a cue sheet
        </button>
        {mayBeScene(s, object) && (
          <button type="button" className="btn ml-2" onClick={() => runCommand(s, 'sheet.thing')}>
            A scene of what {nameOf(s.store, object ?? '')} does
          </button>
        )}
      </div>
    );
  return <SheetView key={sheet.id} sheet={sheet} />;
});

interface Lifted {
  readonly id: string;
  /** What it would hang on if it were let go. */
  readonly hook: Hook | null;
}

function SheetView({ sheet }: { sheet: CueSheet }) {
  const s = useSession();
  useTable('cueSheets');
  const clips = useTable('clips');
  // biome-ignore lint/correctness/useExhaustiveDependencies: how long a cue lasts depends on the clips
  const plan = useMemo(() => planFor(s.store, sheet), [s, sheet, clips]);
  const box = useRef<HTMLDivElement>(null);
  const room = useWidth(box, 1000) - HEAD;
  const [zoom, setZoom] = useState(1);
  const [at, setAt] = useState(0);
  const [lifted, setLifted] = useState<Lifted | null>(null);
  /** What the line that is being written hangs on. */
  const [writing, setWriting] = useState<Hook | null>(null);
  const time = timeScale(plan, room, zoom);
  const { px, x, width, step, marks } = time;
  const timeOf = (clientX: number) => {
    const rows = box.current?.querySelector('[data-cues]')?.getBoundingClientRect();
    return Math.max(0, (clientX - (rows?.left ?? 0) - PAD) / px);
  };
  const hands = cueHands({ s, sheet, plan, px, x, box, setLifted, onWrite: setWriting });
  return (
    <div ref={box} className="h-full grid" style={{ gridTemplateColumns: `${HEAD}px minmax(0,1fr)` }}>
      <SheetHead sheet={sheet} plan={plan} at={at} zoom={zoom} onZoom={setZoom} />
      <div className="overflow-auto relative" role="group" aria-label={`Cues of ${sheet.name}`}>
        <div className="relative" style={{ width, minHeight: '100%' }}>
          <Ruler
            marks={marks.map((t) => [t, x(t)])}
            step={step}
            width={width}
            onPress={(e) => {
              setAt(snap(timeOf(e.clientX), e.altKey));
              track((ev) => setAt(snap(timeOf(ev.clientX), ev.altKey)));
            }}
          />
          <div
            data-cues
            className="relative"
            style={{ height: Math.max((plan.length + 1) * ROW + 10, 120) + TOP }}
            onDoubleClick={(e) => {
              if (e.target !== e.currentTarget) return;
              addSheetCue(s, sheet, { cue: null, after: false }, snap(timeOf(e.clientX), e.altKey));
            }}
          >
            <Behind plan={plan} marks={marks} x={x} width={width} lifted={lifted} />
            {plan.map((p, i) => (
              <CueRow
                key={p.cue.id}
                planned={p}
                top={TOP + i * ROW}
                left={x(finite(p.start))}
                bar={finite(p.length) * px}
                target={lifted?.hook?.cue === p.cue.id ? (lifted.hook.after ? 'end' : 'start') : null}
                onPress={(e) => hands.drag(p, e)}
                onKey={(e) => hands.key(p, e)}
              />
            ))}
            <Line
              key={writing?.cue}
              sheet={sheet}
              plan={plan}
              at={writing}
              top={TOP + plan.length * ROW}
              left={Math.min(
                x(endOf(plan, writing ?? hookAfter(plan.at(-1)))),
                Math.max(PAD, width - LINE_ROOM),
              )}
              onWrite={setWriting}
            />
          </div>
          <Playhead sheet={sheet.id} at={at} x={x} />
        </div>
      </div>
    </div>
  );
}

/** Seconds on the screen: the whole sheet with some room after it, as large as is asked for. */
function timeScale(plan: readonly PlannedCue[], room: number, zoom: number) {
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
const snap = (t: number, fine: boolean) => {
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
function cueHands({ s, sheet, plan, px, x, box, setLifted, onWrite }: Reach) {
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

/** Lines of the seconds, and what hangs on what. */
function Behind(props: {
  plan: readonly PlannedCue[];
  marks: readonly number[];
  x: (t: number) => number;
  width: number;
  lifted: Lifted | null;
}) {
  const { plan, marks, x, width, lifted } = props;
  const rowOf = new Map(plan.map((p, i) => [p.cue.id, i]));
  return (
    <svg
      className="absolute inset-0 pointer-events-none"
      width={width}
      height="100%"
      aria-hidden="true"
      fontSize="10.5"
    >
      {marks.map((t) => (
        <line key={t} x1={x(t)} x2={x(t)} y1="0" y2="4000" stroke="var(--line)" strokeWidth="0.7" />
      ))}
      {plan.map((p, i) => (
        <Links key={p.cue.id} planned={p} row={i} rowOf={rowOf} x={x} lifted={lifted} />
      ))}
    </svg>
  );
}

/** Seconds at which what hangs there may begin. */
function endOf(plan: readonly PlannedCue[], at: Hook): number {
  const on = plan.find((p) => p.cue.id === at.cue);
  return on ? finite(on.start) + (at.after ? finite(on.length) : 0) : 0;
}

/** The next line of the script: written like one, each Enter begins another after it; Escape, or an empty one, ends. */
function Line(props: {
  sheet: CueSheet;
  plan: readonly PlannedCue[];
  at: Hook | null;
  top: number;
  left: number;
  onWrite: (at: Hook | null) => void;
}) {
  const { sheet, plan, at, top, left, onWrite } = props;
  const s = useSession();
  const input = useRef<HTMLInputElement>(null);
  /** It is a cue already, or is given up: what becomes of the field is no reason to add it again. */
  const isTaken = useRef(false);
  useEffect(() => {
    isTaken.current = false;
    if (at) input.current?.focus();
  }, [at]);
  const readOnly = useUi((u) => u.readOnly);
  if (readOnly) return null;
  if (!at)
    return (
      <button
        type="button"
        className="absolute text-ink-2 hover:text-ink underline whitespace-nowrap"
        style={{ top: top + 8, left }}
        onClick={() => onWrite(hookAfter(plan.at(-1)))}
      >
        {plan.length === 0 ? 'Write what is said' : 'write on'}
      </button>
    );
  const speaker = speakerAfter(s, plan, at);
  const take = () => {
    const text = input.current?.value ?? '';
    isTaken.current = true;
    const made = addLine(s, sheet, at, text, speaker);
    const grown = s.store.get('cueSheets', sheet.id);
    if (text.trim() === '' || !grown) return onWrite(null);
    onWrite(hookAfter(planFor(s.store, grown).find((p) => p.cue.id === made)));
  };
  return (
    <input
      ref={input}
      aria-label="Line of the scene"
      className="field absolute w-[340px] max-w-full"
      style={{ top: top + 6, left }}
      placeholder={`${speaker === undefined ? 'Nobody' : nameOf(s.store, speaker)} says… (or Name: words)`}
      maxLength={500}
      onKeyDown={(e) => {
        e.stopPropagation();
        if (e.key === 'Enter') take();
        if (e.key !== 'Escape') return;
        isTaken.current = true;
        onWrite(null);
      }}
      onBlur={(e) => {
        if (isTaken.current) return;
        // What was typed is not lost by a press elsewhere.
        if (e.currentTarget.value.trim() !== '') addLine(s, sheet, at, e.currentTarget.value, speaker);
        onWrite(null);
      }}
    />
  );
}

/** Of what has no end that is known, its start. */
const finite = (n: number) => (Number.isFinite(n) ? n : 0);

function belowOf(plan: readonly PlannedCue[], p: PlannedCue): string[] {
  return plan.flatMap((q) => {
    for (let up: PlannedCue | null = q; up; up = up.parent) if (up === p) return [q.cue.id];
    return [];
  });
}

function Ruler(props: {
  marks: readonly (readonly [t: number, x: number])[];
  step: number;
  width: number;
  onPress: (e: React.PointerEvent) => void;
}) {
  const decimals = props.step < 0.1 ? 2 : props.step < 1 ? 1 : 0;
  return (
    <svg
      className="sticky top-0 z-10 bg-card block cursor-pointer border-b border-line"
      width={props.width}
      height={RULER}
      role="group"
      aria-label="Seconds of the sheet"
      fontSize="10.5"
      onPointerDown={(e) => e.button === 0 && props.onPress(e)}
    >
      {props.marks.map(([t, at]) => (
        <text key={t} x={at + 4} y="16" className="num" fill="var(--ink-2)">
          {t.toFixed(decimals)} s
        </text>
      ))}
    </svg>
  );
}

/** The way from what a cue is timed from, with the time between. */
function Links(props: {
  planned: PlannedCue;
  row: number;
  rowOf: ReadonlyMap<string, number>;
  x: (t: number) => number;
  lifted: Lifted | null;
}) {
  const { planned: p, row, rowOf, x, lifted } = props;
  const { parent } = p;
  if (!parent) return null;
  const from = x(finite(parent.start) + (p.after ? finite(parent.length) : 0)) + (p.after ? 0 : 3);
  const to = x(finite(p.start));
  const [y0, y1] = [TOP + (rowOf.get(parent.cue.id) ?? 0) * ROW + (p.after ? 34 : 38), TOP + row * ROW + 16];
  const words = `+${p.cue.t.toFixed(1)}${p.after ? ' after it ends' : ''}`;
  return (
    <g opacity={lifted?.id === p.cue.id && lifted.hook ? 0.3 : 1}>
      <path
        d={`M${from} ${y0}V${y1}H${to}`}
        fill="none"
        stroke="var(--brass)"
        strokeWidth="1.3"
        strokeDasharray={p.after && !Number.isFinite(parent.length) ? '4 3' : undefined}
      />
      <text
        x={Math.max(to - 6, from + 6)}
        y={y1 - 4}
        textAnchor={to - from > words.length * 6 + 10 ? 'end' : 'start'}
        className="num"
        fill="var(--brass-ink, var(--ink-2))"
        visibility={to - from > words.length * 6 + 10 ? undefined : 'hidden'}
      >
        {words}
      </text>
    </g>
  );
}

function CueRow(props: {
  planned: PlannedCue;
  top: number;
  left: number;
  /** Px that it lasts. */
  bar: number;
  target: 'start' | 'end' | null;
  onPress: (e: React.PointerEvent) => void;
  onKey: (e: React.KeyboardEvent) => void;
}) {
  const { planned, top, left, bar, target } = props;
  const { cue, waits, start, length } = planned;
  const s = useSession();
  const chosen = useUi((u) => u.selected?.kind === 'sheetCue' && u.selected.id === cue.id);
  useTable('objects');
  const does = cue.actions.map((a) => actionWords(s.store, a)).join(' · ');
  const waitsFor = cue.wait ? `waits until ${eventWords(s.store, cue.wait)}` : '';
  const words = [waitsFor, does].filter((w) => w !== '').join(', then ');
  const when = `${waits ? 'at least ' : ''}${finite(start).toFixed(1)} s`;
  const isOpen = !Number.isFinite(length);
  return (
    <button
      type="button"
      aria-label={`Cue ${cue.name}, ${when}`}
      aria-pressed={chosen}
      title={words}
      data-cue={cue.name}
      className="absolute text-left flex items-start cursor-grab whitespace-nowrap rounded-[5px]"
      style={{ top, left: left - 1, height: ROW - 6, minWidth: Math.max(14, bar) }}
      onPointerDown={props.onPress}
      onKeyDown={props.onKey}
    >
      {(bar > 0 || isOpen) && (
        <span
          aria-hidden="true"
          className={`absolute left-0 top-0.5 h-[32px] rounded-[4px] border ${isOpen ? 'border-dashed border-ink-3' : 'border-line'} ${chosen ? 'bg-chosen' : 'bg-paper'}`}
          style={{ width: isOpen ? 120 : Math.max(14, bar) }}
        />
      )}
      {target && (
        <span
          aria-hidden="true"
          className="absolute top-0 h-[36px] w-[3px] bg-brass rounded"
          style={{ left: target === 'end' ? Math.max(14, bar) - 2 : -2 }}
        />
      )}
      <svg width="14" height="36" className="relative flex-none" aria-hidden="true">
        <path
          d="M1 36V1H11L8.5 6 11 11H1"
          fill={chosen ? 'var(--brass)' : 'var(--ink)'}
          stroke={chosen ? 'var(--brass)' : 'var(--ink)'}
          strokeWidth="1.6"
        />
      </svg>
      <span className="relative pl-1 pt-px leading-[16px] max-w-[420px]">
        <span className="block">
          <b className="font-semibold text-[12.5px]">{cue.name}</b>{' '}
          <span className="num text-[11px] text-ink-2">{when}</span>
        </span>
        <span className="block truncate text-[11.5px] text-ink-2">
          {words === '' ? 'does nothing yet' : words}
        </span>
      </span>
    </button>
  );
}

/** Where the sheet is: as it runs, or where it is to be tried from. */
function Playhead({ sheet, at, x }: { sheet: string; at: number; x: (t: number) => number }) {
  const s = useSession();
  const now = useRun((run) => run.parts.sheets?.timeOf(s.inRun(sheet)) ?? -1);
  const t = now === undefined || now < 0 ? at : now;
  const running = useUi((u) => u.running);
  return (
    <svg
      className="absolute top-0 pointer-events-none z-20"
      style={{ left: x(t) - 6 }}
      width="12"
      height="100%"
      aria-hidden="true"
      data-sheet-time={t.toFixed(2)}
    >
      <line
        x1="6"
        x2="6"
        y1="8"
        y2="4000"
        stroke="var(--apple)"
        strokeWidth="1.4"
        opacity={running ? 1 : 0.75}
      />
      <path d="M6 1C9.5 6 10.5 9 10.5 11.2A4.5 4.5 0 0 1 1.5 11.2C1.5 9 2.5 6 6 1Z" fill="var(--apple)" />
    </svg>
  );
}
