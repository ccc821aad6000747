import type { CueSheet, PlannedCue } from '@apple-tick/core/model';
import { memo, useEffect, useMemo, useRef, useState } from 'react';
import { runCommand } from '../../commands/registry.ts';
import { useIdleTable, useSession, useTable, useUi } from '../../session/hooks.ts';
import { track } from '../../session/view/drag-gesture.ts';
import { nameOf } from '../../session/words/words.ts';
import { useWidth } from '../../ui/use-width.ts';
import { Behind, CueRow, Playhead, Ruler } from './CueParts.tsx';
import { cueHands, snap, timeScale } from './cue-hands.ts';
import {
  addLine,
  addSheet,
  addSheetCue,
  type Hook,
  hookAfter,
  mayBeScene,
  planFor,
  sheetOf,
  speakerAfter,
} from './edit.ts';
import { SheetHead } from './SheetHead.tsx';
import { finite, type Lifted, PAD, ROW, TOP } from './sheet-layout.ts';

const HEAD = 175;
/** Px that a line takes which is being written. */
const LINE_ROOM = 360;

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
