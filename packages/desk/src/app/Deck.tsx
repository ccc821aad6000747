import { Play, Square } from 'lucide-react';
import { memo } from 'react';
import { localKey } from '../commands/local-keys.ts';
import { runCommand } from '../commands/registry.ts';
import { addSheet, sheetOf } from '../features/sheets/edit.ts';
import { Sheets } from '../features/sheets/Sheets.tsx';
import { Clips } from '../screens/clips/Clips.tsx';
import { Lanes } from '../screens/lanes/Lanes.tsx';
import { Unfolded } from '../screens/lanes/Unfolded.tsx';
import { Log } from '../screens/run/RunSide.tsx';
import { Timeline } from '../screens/timeline/Timeline.tsx';
import {
  useIdleTable,
  useIsOpen,
  useOpen,
  useSession,
  useTick,
  useUi,
  useUiParts,
} from '../session/hooks.ts';
import { showMachine } from '../session/motion/machines.ts';
import type { UiState } from '../session/ui-state.ts';
import { CLIP_TYPE } from '../session/view/dragged.ts';
import { Pick } from '../ui/fields.tsx';

export const Deck = memo(function Deck() {
  const s = useSession();
  const ui = useUiParts('keying', 'paused', 'running', 'speed', 'machine', 'deck');
  const machines = useIdleTable('machines');
  const open = useIsOpen();
  return (
    <section className="select-none bg-card border-t border-line flex flex-col min-h-0" aria-label="Deck">
      <div className="h-[38px] flex items-center gap-3 px-3 border-b border-line flex-none">
        <button
          type="button"
          className={`rounded-full border px-4 py-1 font-semibold flex items-center gap-2 ${ui.running ? 'bg-apple text-card border-apple' : 'border-ink'}`}
          onClick={() => runCommand(s, 'run')}
        >
          {ui.running ? (
            <Square size={11} fill="currentColor" aria-hidden="true" />
          ) : (
            <Play size={12} fill="currentColor" aria-hidden="true" />
          )}
          {ui.running ? 'Stop' : 'Run'}
        </button>
        {ui.running && (
          <>
            <RunTime />
            <TickStrip />
            <button
              type="button"
              className="btn"
              aria-pressed={ui.paused}
              onClick={() => s.set({ paused: !ui.paused })}
            >
              {ui.paused ? 'Go on' : 'Pause'}
            </button>
            <button type="button" className="btn" disabled={!ui.paused} onClick={() => s.runtime?.tick()}>
              One tick
            </button>
          </>
        )}
        <DeckTabs />
        <span className="flex-1" />
        {open && (
          <>
            <button
              type="button"
              className="btn"
              aria-pressed={ui.keying}
              onClick={() => s.set({ keying: !ui.keying })}
            >
              key as I move: {ui.keying ? 'on' : 'off'}
            </button>
            <button type="button" className="btn" onClick={() => runCommand(s, 'fold')}>
              Fold
            </button>
          </>
        )}
        {ui.deck === 'sheets' && !open ? (
          <SheetPick />
        ) : (
          machines.length > 0 && (
            <span>
              Machine{' '}
              <Pick
                label="Machine"
                value={s.machine?.id ?? ''}
                options={[
                  ...(s.machine ? [] : [['', 'none'] as const]),
                  ...machines.map((m) => [m.id, m.name] as const),
                ]}
                onChange={(machine) => machine !== '' && showMachine(s, machine)}
              />
            </span>
          )
        )}
        {ui.running && (
          <Pick
            label="Speed of the run"
            value={String(ui.speed)}
            options={[
              ['0.25', '¼×'],
              ['0.5', '½×'],
              ['1', '1×'],
            ]}
            onChange={(v) => s.set({ speed: Number(v) })}
          />
        )}
      </div>
      <DeckBody />
    </section>
  );
});

/** Which cue sheet is worked on, and new ones. */
function SheetPick() {
  const s = useSession();
  const sheets = useIdleTable('cueSheets');
  useUi((u) => u.sheet);
  if (sheets.length === 0) return null;
  return (
    <span>
      Cue sheet{' '}
      <Pick
        label="Cue sheet"
        value={sheetOf(s)?.id ?? ''}
        options={[
          ...sheets.map((x) => [x.id, x.name] as const),
          { group: 'New', options: [['new', 'a new cue sheet']] },
        ]}
        onChange={(v) => s.set({ sheet: v === 'new' ? addSheet(s) : v })}
      />
    </span>
  );
}

/** What is open, or all lanes, or all clips, or a cue sheet, or what happened. */
function DeckBody() {
  const open = useOpen();
  const deck = useUi((u) => u.deck);
  return (
    <div className="flex-1 min-h-0">
      {open?.at ? (
        <Unfolded {...open.at}>
          <Timeline clip={open.clip} />
        </Unfolded>
      ) : open ? (
        <div className="h-full p-2 bg-paper">
          <div className="h-full border border-line rounded-[9px] overflow-hidden">
            <Timeline clip={open.clip} />
          </div>
        </div>
      ) : deck === 'clips' ? (
        <Clips />
      ) : deck === 'sheets' ? (
        <Sheets />
      ) : deck === 'happened' ? (
        <Log />
      ) : (
        <Lanes />
      )}
    </div>
  );
}

/** Lanes, clips, cue sheets or, in a run, the log with all of the deck's room; a clip that is dragged onto Lanes goes on to one of them. */
function DeckTabs() {
  const s = useSession();
  const deck = useUi((u) => u.deck);
  const running = useUi((u) => u.running);
  const tab = (id: UiState['deck'], name: string) => (
    <button
      type="button"
      role="tab"
      aria-selected={deck === id}
      className={`px-2 h-full flex items-center border-b-2 ${deck === id ? 'border-ink font-semibold' : 'border-transparent text-ink-2 hover:text-ink'}`}
      onClick={() => s.set({ deck: id, openState: null, openClip: null, playing: false })}
      onDragEnter={(e) =>
        e.dataTransfer.types.includes(CLIP_TYPE) && id === 'lanes' && s.set({ deck: 'lanes' })
      }
    >
      {name}
    </button>
  );
  return (
    <div role="tablist" aria-label="Deck" className="flex h-full">
      {tab('lanes', 'Lanes')}
      {tab('clips', 'Clips')}
      {tab('sheets', 'Cue sheets')}
      {running && tab('happened', 'What happened')}
    </div>
  );
}

function RunTime() {
  return <span className="num text-apple w-16">{(useTick() / 60).toFixed(2)} s</span>;
}

/** The last ticks as marks, every sixth one tall: a click pauses; while paused each arrow key is one tick on. */
function TickStrip() {
  const s = useSession();
  const tick = useTick();
  const paused = useUi((u) => u.paused);
  return (
    <button
      type="button"
      aria-label={paused ? 'Ticks: paused, right arrow goes one on' : 'Ticks: click to pause'}
      className="flex-none"
      onClick={() => s.set({ paused: !paused })}
      onKeyDown={(e) => {
        if (localKey('run', e) !== 'tick' || !paused || !s.runtime) return;
        e.preventDefault();
        s.runtime.tick();
      }}
    >
      <svg width="130" height="22" aria-hidden="true">
        {Array.from({ length: 22 }, (_, i) => {
          const at = tick - 15 + i;
          const now = i === 15;
          if (at < 0) return null;
          return (
            <line
              key={at}
              x1={3 + i * 6}
              x2={3 + i * 6}
              y1={now || at % 6 === 0 ? 3 : 9}
              y2="20"
              stroke={now ? 'var(--apple)' : i > 15 ? 'var(--line)' : 'var(--ink-3)'}
              strokeWidth={now ? 2 : 1}
            />
          );
        })}
      </svg>
    </button>
  );
}
