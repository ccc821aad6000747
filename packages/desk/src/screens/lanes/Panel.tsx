import { type ClipData, sampleTrack } from '@apple-tick/core/anim';
import { type Clip, type Lane, type Machine, onePlay, type State } from '@apple-tick/core/model';
import { type Program, placeIn, type Run } from '@apple-tick/core/run';
import { DropdownMenu } from 'radix-ui';
import { useRef, useState } from 'react';
import { localKey } from '../../commands/local-keys.ts';
import { type Blend, signalRange } from '../../features/blends/edit.ts';
import { useIdleVersion, useRun, useSession, useUi } from '../../session/hooks.ts';
import { renameState } from '../../session/motion/machines.ts';
import type { Session } from '../../session/session.ts';
import { nameOf } from '../../session/words/words.ts';
import { PosePicture } from '../../ui/lane-poses.tsx';
import { NameField } from '../../ui/NameField.tsx';
import { panelParts, type Rect } from './layout.ts';

interface PanelProps {
  machine: Machine;
  lane: Lane;
  state: State;
  rect: Rect;
  active: boolean;
  /** Pictures of what it shows. */
  poses: readonly ImageBitmap[];
  onTake: (e: React.PointerEvent, kind: 'join' | 'move') => void;
  onMove: (by: number) => void;
  onOpen: () => void;
  onJoin: (to: State) => void;
}

/** A state: its poses, its name, how long and how fast, its curve. Taken by its edge it begins a transition. */
export function Panel(props: PanelProps) {
  const { machine, lane, state, rect, active } = props;
  const s = useSession();
  const chosen = useUi((u) => u.selected?.kind === 'state' && u.selected.id === state.id);
  const [menu, setMenu] = useState(false);
  useIdleVersion();
  const { pad, curve, wide } = panelParts(rect);
  const inner = rect.w - 2 * pad - 2;
  const shown = shownOf(s, state);
  const { words } = shown;
  const renaming = useUi((u) => u.renaming === state.id);
  const self = useRef<HTMLDivElement>(null);
  const choose = () => s.select({ kind: 'state', machine: machine.id, lane: lane.id, id: state.id });
  return (
    <div
      ref={self}
      role="button"
      tabIndex={0}
      aria-label={`State ${state.name}, ${words}${lane.initial === state.id ? ', starts here' : ''}`}
      aria-pressed={chosen}
      data-state={state.name}
      data-panel={state.id}
      className={`absolute rounded-[9px] border bg-card ${active ? 'border-leaf border-2' : 'border-line'}`}
      style={{
        left: rect.x,
        top: rect.y,
        width: rect.w,
        height: rect.h,
        background: active ? 'color-mix(in srgb, var(--leaf) 12%, var(--card))' : undefined,
      }}
      onClick={choose}
      onDoubleClick={props.onOpen}
      onKeyDown={(e) => {
        if (e.target !== e.currentTarget) return;
        const key = localKey('panel', e);
        if (!key) return;
        if (key === 'open') props.onOpen();
        else if (key === 'wire') setMenu(true);
        else if (key === 'rename') s.set({ renaming: state.id });
        else if (key === 'choose') choose();
        else props.onMove(key === 'before' ? -1 : 1);
        e.preventDefault();
        e.stopPropagation();
      }}
      onPointerDown={(e) => {
        if (e.button !== 0) return;
        props.onTake(e, edgeAt(e) < 9 ? 'join' : 'move');
      }}
    >
      <div className="absolute cursor-default flex flex-col" style={{ inset: pad }}>
        {lane.initial === state.id && <StartsHere />}
        <div
          className="flex-1 min-h-0 rounded-[6px] flex justify-center items-center gap-1 overflow-hidden"
          style={{ background: '#e9e8d4' }}
        >
          {props.poses.map((bitmap, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: first and last pose
            <PosePicture key={i} bitmap={bitmap} />
          ))}
        </div>
        <div className="flex items-baseline gap-1 mt-[3px] flex-none">
          {/* The name comes first: what it plays shortens before it does. */}
          {renaming ? (
            <NameField
              name={state.name}
              onName={(name) => renameState(s, machine.id, lane, state, name)}
              onDone={() => self.current?.focus()}
            />
          ) : (
            <span
              className={`font-semibold truncate flex-none ${wide ? 'max-w-[75%]' : 'max-w-full text-[11.5px]'}`}
              title={state.name}
            >
              {state.name}
            </span>
          )}
          {wide && !renaming && (
            <span className="num text-[11px] text-ink-2 truncate flex-1 text-right" title={words}>
              {active ? <Progress lane={lane} /> : words}
            </span>
          )}
        </div>
        {curve > 0 && <Curve shown={shown} lane={lane} width={inner} active={active} />}
      </div>
      {chosen && <Corners width={rect.w + 10} height={rect.h + 10} />}
      {/* Made when it is asked for: there may be many panels. */}
      {menu && <JoinMenu lane={lane} state={state} panel={self} onOpen={setMenu} onJoin={props.onJoin} />}
    </div>
  );
}

/** How far a press is from the nearest edge, px. */
function edgeAt(e: React.PointerEvent): number {
  const r = e.currentTarget.getBoundingClientRect();
  return Math.min(e.clientX - r.left, r.right - e.clientX, e.clientY - r.top, r.bottom - e.clientY);
}

/** What a state plays, as its panel shows it. */
function shownOf(s: Session, state: State) {
  const play = state.play;
  const one = onePlay(play);
  const clip = one ? s.store.get('clips', one.clip) : undefined;
  const speed = typeof one?.speed === 'number' ? one.speed : 1;
  const blend = typeof play === 'object' && !('clip' in play) ? play : null;
  const words = clip
    ? speed === 1
      ? `${clip.duration.toFixed(2)} s${clip.loop === 'once' ? '' : ', loops'}`
      : `${clip.name} × ${String(speed).replace('-', '−')}`
    : blend
      ? 'range' in blend
        ? `by ${nameOf(s.store, blend.range.signal)}`
        : `${blend.stack.length} added`
      : play === 'rest'
        ? 'rests'
        : 'holds';
  return { clip, speed, blend, words, rests: play === 'rest' };
}

/** The flag of the state that a lane starts in. */
function StartsHere() {
  return (
    <svg
      className="absolute top-[2px] left-[3px] z-10"
      width="14"
      height="15"
      role="img"
      aria-label="starts here"
    >
      <path d="M1.5 15V1L12 5L1.5 9" fill="#20302a" stroke="#e9e8d4" />
    </svg>
  );
}

/** The curve of its clip, or what it blends; a line where nothing moves. */
function Curve(props: { shown: ReturnType<typeof shownOf>; lane: Lane; width: number; active: boolean }) {
  const { lane, width: inner, active } = props;
  const { clip, speed, blend, rests } = props.shown;
  const s = useSession();
  return (
    <svg width={inner} height="16" aria-hidden="true" className="block flex-none">
      {blend ? (
        <BlendRuler blend={blend} width={inner} />
      ) : clip ? (
        <>
          <path
            d={clipCurve(clip, s.program, speed < 0, inner)}
            fill="none"
            stroke="var(--ink-2)"
            strokeWidth="1.5"
          />
          {active && clip.duration > 0 && <Beam lane={lane} scale={inner / clip.duration} />}
        </>
      ) : (
        <line
          x1="0"
          y1="9"
          x2={inner}
          y2="9"
          stroke="var(--ink-2)"
          strokeWidth="1.5"
          strokeDasharray={rests ? '2 4' : undefined}
        />
      )}
    </svg>
  );
}

/** The mark of what is chosen. */
function Corners({ width, height }: { width: number; height: number }) {
  return (
    <svg
      className="absolute -inset-[5px] pointer-events-none"
      width={width}
      height={height}
      aria-hidden="true"
    >
      <path d={corners(width, height)} fill="none" stroke="var(--brass)" strokeWidth="2" />
    </svg>
  );
}

/** The states that a transition can be made to, asked for by a key. */
function JoinMenu(props: {
  lane: Lane;
  state: State;
  panel: React.RefObject<HTMLElement | null>;
  onOpen: (open: boolean) => void;
  onJoin: (to: State) => void;
}) {
  const { lane, state } = props;
  return (
    <DropdownMenu.Root open onOpenChange={props.onOpen}>
      <DropdownMenu.Trigger asChild>
        <span className="absolute bottom-0 left-1/2" aria-hidden="true" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          className="menu"
          aria-label="Transition to"
          // A portal bubbles through React: without this the panel would take the click and be selected.
          onClick={(e) => e.stopPropagation()}
          onCloseAutoFocus={(e) => {
            e.preventDefault();
            props.panel.current?.focus();
          }}
        >
          {lane.states
            .filter((x) => x.id !== state.id)
            .map((x, i) => (
              <DropdownMenu.Item
                key={x.id}
                ref={i === 0 ? focusSoon : undefined}
                onSelect={() => props.onJoin(x)}
              >
                to {x.name}
              </DropdownMenu.Item>
            ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

/** The list is asked for by a key: its first entry is the one that Enter takes. */
function focusSoon(el: HTMLElement | null): void {
  requestAnimationFrame(() => el?.focus());
}

/** Of a range where its clips stand on it, and the number as a bead; of a stack how much of each is added. */
function BlendRuler({ blend, width }: { blend: Blend; width: number }) {
  const s = useSession();
  const of = 'range' in blend ? blend.range.signal : '';
  const signal = s.store.get('signals', of);
  const initial = signal?.type === 'number' ? signal.initial : 0;
  const value = useRun((run) => Number(run.signalValue(s.inRun(of)))) ?? initial;
  if ('stack' in blend) {
    const each = width / blend.stack.length;
    return blend.stack.map((x, i) => (
      <rect
        // biome-ignore lint/suspicious/noArrayIndexKey: one clip may be added twice
        key={i}
        x={i * each}
        y="7"
        width={Math.max(2, (each - 4) * (typeof x.amount === 'number' ? x.amount : 1))}
        height="5"
        rx="2"
        fill={typeof x.amount === 'number' ? 'var(--ink-2)' : 'var(--line)'}
        stroke="var(--ink-2)"
      />
    ));
  }
  const places = blend.range.points.map((p) => p.at);
  const [low, high] = signalRange(s, of);
  const [from, to] = [Math.min(low, ...places), Math.max(high, ...places)];
  const x = (n: number) => 4 + ((Math.max(from, Math.min(to, n)) - from) / (to - from || 1)) * (width - 8);
  return (
    <>
      <line x1="4" x2={width - 4} y1="9.5" y2="9.5" stroke="var(--ink-2)" />
      {places.map((at, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: two may stand at one place
        <line key={i} x1={x(at)} x2={x(at)} y1="5" y2="14" stroke="var(--ink-2)" strokeWidth="1.5" />
      ))}
      <circle cx={x(value)} cy="9.5" r="4" fill="var(--leaf)" stroke="var(--card)" />
    </>
  );
}

/** The place of the clip that the lane plays, seconds, or the age of its state; NaN while nothing runs. */
function usePlace(lane: Lane): { place: number; age: number } {
  const s = useSession();
  const now = (of: (p: { place: number | null; age: number }) => number) => (run: Run) => {
    const at = run.program.laneIndex.get(s.inRun(lane.id));
    return at === undefined ? Number.NaN : of(placeIn(run, at));
  };
  const place = useRun(now((p) => p.place ?? Number.NaN)) ?? Number.NaN;
  const age = useRun(now((p) => p.age)) ?? Number.NaN;
  return { place, age };
}

/** While running: where the clip of the active state stands, or how long it has been active. */
function Progress({ lane }: { lane: Lane }) {
  const { place, age } = usePlace(lane);
  const seconds = Number.isNaN(place) ? age : place;
  return Number.isNaN(seconds) ? null : `${seconds.toFixed(2)} s`;
}

function Beam({ lane, scale }: { lane: Lane; scale: number }) {
  const { place } = usePlace(lane);
  if (Number.isNaN(place)) return null;
  const x = place * scale;
  return <line x1={x} x2={x} y1="0" y2="16" stroke="var(--apple)" strokeWidth="2" />;
}

/** The samples of a curve. */
const SAMPLES = 64;

/** What the clip's first number does along its time, sampled from the engine; turned round when it is played backwards. */
function clipCurve(clip: Clip, program: Program, back: boolean, w: number): string {
  const data = program.clips[program.clipIndex.get(clip.id) ?? -1]?.data;
  const track = clip.tracks.findIndex((t) => typeof t.keys[0]?.value === 'number' && t.keys.length > 1);
  if (!data || track < 0 || clip.duration === 0) return `M0 9H${w}`;
  const values = Array.from({ length: SAMPLES + 1 }, (_, i) => {
    return sampledAt(data, track, (clip.duration * (back ? SAMPLES - i : i)) / SAMPLES);
  });
  const [low, high] = [Math.min(...values), Math.max(...values)];
  if (!(high > low)) return `M0 9H${w}`;
  // What it comes from lies low, where it goes lies high, whichever its sign.
  const first = sampledAt(data, track, 0);
  const up = high - first >= first - low;
  const y = (v: number) => 14 - (up ? (v - low) / (high - low) : (high - v) / (high - low)) * 12;
  return values
    .map((v, i) => `${i === 0 ? 'M' : 'L'}${((i / SAMPLES) * w).toFixed(1)} ${y(v).toFixed(1)}`)
    .join('');
}

const sampled = new Float64Array(3);
function sampledAt(data: ClipData, track: number, t: number): number {
  sampleTrack(data, track, t, sampled, 0);
  return sampled[0] as number;
}

function corners(w: number, h: number): string {
  return `M1 12V1H12M${w - 12} 1H${w - 1}V12M${w - 1} ${h - 12}V${h - 1}H${w - 12}M12 ${h - 1}H1V${h - 12}`;
}
