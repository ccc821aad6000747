/** The parts that a sheet is drawn of. */
import type { PlannedCue } from '@apple-tick/core/model';
import { useRun, useSession, useTable, useUi } from '../../session/hooks.ts';
import { actionWords, eventWords } from '../../session/words/words.ts';
import { finite, type Lifted, ROW, RULER, TOP } from './sheet-layout.ts';

/** Lines of the seconds, and what hangs on what. */
export function Behind(props: {
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

export function Ruler(props: {
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

export function CueRow(props: {
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
export function Playhead({ sheet, at, x }: { sheet: string; at: number; x: (t: number) => number }) {
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
