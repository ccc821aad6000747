import type { Signal, SignalValue } from '@apple-tick/core/model';
import { useVirtualizer } from '@tanstack/react-virtual';
import { Slider } from 'radix-ui';
import { lazy, memo, Suspense, useRef, useState } from 'react';
import { runCommand } from '../../commands/registry.ts';
import { addReactions } from '../../session/doings/new-action.ts';
import { useHappened, useRun, useSession, useTable, useUi } from '../../session/hooks.ts';
import { folded, LOG_GROUPS, type LogGroup, type LogLine, type Told } from '../../session/words/run-log.ts';
import { nameOf } from '../../session/words/words.ts';
import { NumberField, Pick, TextField } from '../../ui/fields.tsx';

/** The library of the chart is loaded when one is first asked for. */
const SignalChart = lazy(() => import('./SignalChart.tsx'));

/** While running: a live control for each signal, and what happened with its cause. */
export function RunSide() {
  const s = useSession();
  const signals = useTable('signals');
  const messages = useTable('messages');
  const sounds = useTable('sounds');
  const [chart, setChart] = useState(false);
  // With the log in the deck the signals have all of the room here.
  const inDeck = useUi((u) => u.deck === 'happened');
  return (
    <div className="flex flex-col h-full">
      {/* However many there are, what happened stays in sight. */}
      <section
        className={`pt-3.5 pb-2 border-b border-line flex flex-col ${inDeck ? 'min-h-0' : 'max-h-[44%]'}`}
        aria-label="Signals"
      >
        <div className="flex items-baseline mb-2 px-3.5">
          <h2 className="text-[14px] flex-1">Signals</h2>
          {signals.some((x) => x.type === 'number') && (
            <button type="button" className="btn" aria-pressed={chart} onClick={() => setChart(!chart)}>
              chart
            </button>
          )}
        </div>
        <div className="min-h-0 overflow-auto px-3.5 pb-1.5">
          {chart && (
            <Suspense fallback={<div className="h-[120px]" />}>
              <SignalChart />
            </Suspense>
          )}
          {signals.length === 0 && <p className="text-ink-2">There are none yet.</p>}
          {signals.map((x) => (
            <LiveControl key={x.id} signal={x} />
          ))}
          <div className="flex flex-wrap gap-1">
            {messages.map((m) => (
              <button
                key={m.id}
                type="button"
                className="btn text-plum"
                onClick={() => s.player?.input({ send: m.id })}
              >
                send {m.name}
              </button>
            ))}
            {sounds.map((x) => (
              <button
                key={x.id}
                type="button"
                className="btn"
                aria-label={`Play the sound ${x.name}`}
                onClick={() => s.player?.input({ sound: x.id })}
              >
                ♪ {x.name}
              </button>
            ))}
          </div>
        </div>
      </section>
      {!inDeck && <Log />}
    </div>
  );
}

/** What a signal is now, to be set by hand: drawn anew only when it is something else. */
const LiveControl = memo(function LiveControl({ signal: x }: { signal: Signal }) {
  const s = useSession();
  const now = useRun((run) => run.signalValue(s.inRun(x.id)));
  // What was asked for since the last tick is shown, so that steps in quick succession add up.
  const [asked, setAsked] = useState<{ tick: number | undefined; to: SignalValue } | null>(null);
  const waits = useRun((run) => asked !== null && asked.tick === run.tick);
  const value = waits && asked ? asked.to : now;
  const set = (to: SignalValue) => {
    setAsked({ tick: s.player?.run.tick, to });
    s.player?.input({ set: { [s.inRun(x.id)]: to } });
  };
  return (
    <div className="flex items-center gap-2 mb-1.5">
      <span className="w-28 truncate">{x.name}</span>
      {x.type === 'switch' && (
        <button
          type="button"
          role="switch"
          aria-checked={value === true}
          aria-label={x.name}
          className={`w-9 h-5 rounded-full border relative ${value ? 'bg-leaf border-leaf' : 'bg-paper border-ink-3'}`}
          onClick={() => set(value !== true)}
        >
          <span
            className={`absolute top-[2px] w-3.5 h-3.5 rounded-full bg-card border border-ink-3 ${value ? 'right-[2px]' : 'left-[2px]'}`}
          />
        </button>
      )}
      {x.type === 'pulse' && (
        <button type="button" className="btn" onClick={() => s.player?.input({ pulse: s.inRun(x.id) })}>
          pulse
        </button>
      )}
      {x.type === 'number' && x.min !== undefined && x.max !== undefined && (
        <Slider.Root
          className="relative flex items-center flex-1 h-5 touch-none select-none"
          min={x.min}
          max={x.max}
          step={x.step ?? (x.whole ? 1 : (x.max - x.min) / 100)}
          value={[Number(value)]}
          onValueChange={([n]) => n !== undefined && set(n)}
        >
          <Slider.Track className="relative flex-1 h-1.5 rounded-full bg-line">
            <Slider.Range className="absolute h-full rounded-full bg-leaf" />
          </Slider.Track>
          <Slider.Thumb
            aria-label={`${x.name}, slider`}
            className="block w-3 h-5 rounded-[4px] border-2 border-ink bg-card"
          />
        </Slider.Root>
      )}
      {x.type === 'number' && (
        <span className="flex w-20 flex-none">
          <NumberField label={x.name} value={Number(value)} step={x.step ?? 1} onChange={set} />
        </span>
      )}
      {x.type === 'choice' && (
        <Pick
          label={x.name}
          value={String(value)}
          options={x.options.map((o) => [o, o] as const)}
          onChange={set}
        />
      )}
      {x.type === 'text' && <TextField label={x.name} value={String(value)} onChange={set} />}
    </div>
  );
});

type Wanted = LogGroup | 'all' | 'chosen';

/** What is told of all that happened; by itself, as lines come all the time. */
const Only = memo(function Only(props: {
  value: Wanted;
  chosen: string | null;
  onChange: (v: Wanted) => void;
}) {
  const s = useSession();
  const { value, chosen, onChange } = props;
  return (
    <Pick
      label="What is told"
      value={value}
      options={[
        ['all', 'all of it'],
        ...(chosen === null ? [] : [['chosen', `of ${nameOf(s.store, chosen)}`] as const]),
        ...Object.entries(LOG_GROUPS),
      ]}
      onChange={(v) => onChange(v as Wanted)}
    />
  );
});

/** When something happened again and again. */
const timesOf = (lines: readonly LogLine[]) => `at ${lines.map((l) => l.t.toFixed(2)).join(', ')} s`;

function toggled(set: ReadonlySet<number>, id: number): ReadonlySet<number> {
  const next = new Set(set);
  if (!next.delete(id)) next.add(id);
  return next;
}

/** What happened, newest first; of many lines only those near what is seen are made. */
export function Log() {
  const s = useSession();
  useHappened();
  const box = useRef<HTMLUListElement>(null);
  const [only, setOnly] = useState<Wanted>('all');
  /** The lines of which the moves are told, too. */
  const [unfolded, setUnfolded] = useState<ReadonlySet<number>>(new Set());
  const chosen = useUi((u) => u.object);
  const all = s.log.lines;
  const lines =
    only === 'all' ? all : all.filter((l) => (only === 'chosen' ? l.about === chosen : l.group === only));
  const hidden = all.length - lines.length;
  const byHand = s.log.byHand;
  const logged = folded(lines);
  const toldAt = (i: number) => logged[logged.length - 1 - i] as Told;
  const rows = useVirtualizer({
    count: logged.length,
    getScrollElement: () => box.current,
    estimateSize: () => 28,
    overscan: 12,
    getItemKey: (i) => toldAt(i).all[0]?.id ?? i,
  });
  const show = (line: LogLine) => {
    const at = logged.findLastIndex((x) => x.all.includes(line) || x.moves.includes(line));
    // What is hidden is shown again, so that the way leads there.
    if (at < 0) {
      setOnly('all');
      return;
    }
    rows.scrollToIndex(logged.length - 1 - at);
    // It may be made only then.
    requestAnimationFrame(() =>
      box.current?.querySelector<HTMLElement>(`[data-rec="${logged[at]?.line.id}"]`)?.focus(),
    );
  };
  return (
    <section className="flex-1 h-full min-h-0 flex flex-col p-3.5 pr-0" aria-label="What happened">
      <div className="flex items-baseline gap-2 mb-1 pr-3.5">
        <h2 className="text-[14px] flex-1 whitespace-nowrap">What happened</h2>
        {byHand && !s.state.readOnly && (
          <button
            type="button"
            className="btn whitespace-nowrap"
            title="Make a cue sheet of what was done by hand"
            onClick={() => runCommand(s, 'sheet.hand')}
          >
            as cues
          </button>
        )}
        <Only value={only} chosen={chosen} onChange={setOnly} />
      </div>
      {hidden > 0 && <p className="text-ink-2 text-[11.5px] pb-1">{hidden} others are not shown</p>}
      <ul
        ref={box}
        className="overflow-auto flex-1 pr-3.5"
        tabIndex={0}
        aria-label="What happened, newest first"
      >
        <li aria-hidden="true" style={{ height: rows.getVirtualItems()[0]?.start ?? 0 }} />
        {rows.getVirtualItems().map(({ index, key }) => {
          const logged = toldAt(index);
          const { id } = logged.line;
          return (
            <li
              key={key}
              ref={rows.measureElement}
              data-index={index}
              data-rec={id}
              tabIndex={-1}
              className="flex gap-2 border-b border-line py-[3px] min-w-0 max-w-[760px]"
            >
              <span className="num text-ink-2 text-[11.5px] w-9 flex-none">{logged.line.t.toFixed(2)}</span>
              {logged.line.more.length > 0 ? (
                <SeveralLanes line={logged.line} />
              ) : (
                <Happened
                  logged={logged}
                  unfolded={unfolded.has(id)}
                  onUnfold={() => setUnfolded(toggled(unfolded, id))}
                  onCause={show}
                />
              )}
            </li>
          );
        })}
        <li
          aria-hidden="true"
          style={{ height: rows.getTotalSize() - (rows.getVirtualItems().at(-1)?.end ?? 0) }}
        />
      </ul>
    </section>
  );
}

/** What several lanes did at once, each below. */
function SeveralLanes({ line }: { line: LogLine }) {
  const { words } = line;
  return (
    <details className="flex-1 min-w-0">
      <summary className="truncate cursor-pointer font-medium">
        {words}{' '}
        <span className="text-ink-2 font-normal">
          · {line.more.length === 1 ? '1 lane' : `${line.more.length} lanes`}
        </span>
      </summary>
      {line.more.map((x) => (
        <p key={x} className="truncate">
          {x}
        </p>
      ))}
    </details>
  );
}

/** One line: what happened, how often, what it began, and what led to it: beside it where there is room, else below. */
function Happened(props: {
  logged: Told;
  unfolded: boolean;
  onUnfold: () => void;
  onCause: (line: LogLine) => void;
}) {
  const { unfolded } = props;
  const { line, all: times, moves } = props.logged;
  const { words, cause } = line;
  const s = useSession();
  return (
    <span className="flex-1 min-w-0 flex flex-wrap gap-x-2">
      <LineWords line={line} times={times} />
      {moves.length > 0 && (
        <button
          type="button"
          className="text-ink-2"
          aria-expanded={unfolded}
          title="The tweens and motors that it began"
          onClick={props.onUnfold}
        >
          {moves.length === 1 ? '1 move' : `${moves.length} moves`} {unfolded ? '▴' : '▾'}
        </button>
      )}
      {s.log.isUnheard(line) && !s.state.readOnly && (
        <button
          type="button"
          className="text-ink-2 underline decoration-dotted ml-auto"
          title={`Nothing heard that ${words}: give it a reaction`}
          onClick={() => {
            const id = line.clicked as string;
            s.select({ kind: 'object', id });
            addReactions(s, [id]);
          }}
        >
          make it do something
        </button>
      )}
      {cause && (
        <button
          type="button"
          className="text-ink-2 underline decoration-dotted truncate flex-[1_1_6.5em] min-w-0 text-right"
          title={`Because: ${cause.words}`}
          onClick={() => props.onCause(cause)}
        >
          ↖ {cause.words}
        </button>
      )}
      {unfolded &&
        moves.map((x) => (
          <span key={x.id} className="w-full truncate pl-3" title={x.words}>
            <span className="num text-ink-2 text-[11.5px]">{x.t.toFixed(2)}</span> {x.words}
          </span>
        ))}
    </span>
  );
}

/** What happened, in words: the lane first and fainter, and how often. */
function LineWords({ line, times }: { line: LogLine; times: readonly LogLine[] }) {
  const { words, lane } = line;
  return (
    <span className="min-w-0 max-w-full truncate font-medium" title={words}>
      {lane !== null && words.startsWith(lane) ? (
        <>
          <span className="text-ink-2 font-normal">{lane}</span>
          {words.slice(lane.length)}
        </>
      ) : (
        words
      )}
      {times.length > 1 && (
        <span className="text-ink-2 font-normal" title={timesOf(times)}>
          {' '}
          × {times.length}
        </span>
      )}
    </span>
  );
}
