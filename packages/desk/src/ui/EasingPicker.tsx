import { easeAt } from '@apple-tick/core/anim';
import {
  EASING_PRESETS,
  type Easing,
  type EasingPreset,
  FAMILIES,
  STEP_POSITIONS,
  WAYS,
} from '@apple-tick/core/model';
import { memo, useEffect, useRef, useState } from 'react';
import { NumberField, Pick, Row } from './fields.tsx';

/** What the ready-made curves do, in words. */
const PRESET_WORDS: Record<EasingPreset, string> = {
  ease: 'ease',
  'ease-in': 'ease in',
  'ease-out': 'ease out',
  'ease-in-out': 'ease in out',
  overshoot: 'swings past',
  'anticipate-and-overshoot': 'draws back, swings past',
};

type Kind = 'curve' | 'family' | 'spring' | 'bounce' | 'elastic' | 'steps' | 'stops';
const KINDS: readonly (readonly [Exclude<Kind, 'curve' | 'stops'>, string, Easing])[] = [
  ['family', 'by formula', { family: 'cubic', way: 'in-out' }],
  ['spring', 'spring', { spring: { damping: 0.35 } }],
  ['bounce', 'bounce', { bounce: 3 }],
  ['elastic', 'elastic', { elastic: { amplitude: 1, period: 0.3 } }],
  ['steps', 'steps', { steps: 4, position: 'jump-end' }],
];

const READY: readonly Easing[] = [
  'hold',
  'linear',
  'auto',
  ...(Object.keys(EASING_PRESETS) as EasingPreset[]).map((n): Easing => ({ bezier: [...EASING_PRESETS[n]] })),
];

function kindOf(e: Easing): Kind | null {
  if (typeof e === 'string' || 'bezier' in e) return 'curve';
  if ('linear' in e) return 'stops';
  return KINDS.find(([k]) => (k === 'family' ? 'family' in e : k in e))?.[0] ?? null;
}

function easingWords(e: Easing): string {
  if (e === 'hold' || e === 'linear') return e;
  if (e === 'auto') return 'smooth';
  if ('bezier' in e) {
    const names = Object.keys(EASING_PRESETS) as EasingPreset[];
    const preset = names.find((n) => EASING_PRESETS[n].every((x, i) => x === e.bezier[i]));
    return preset ? PRESET_WORDS[preset] : 'shaped by hand';
  }
  if ('family' in e) return `${e.family} ${e.way.replaceAll('-', ' ')}`;
  if ('linear' in e) return 'through stops';
  return KINDS.find(([k]) => k in e)?.[1] ?? '';
}

/** All easings as pictures that move under the pointer; `value` is null when several differ. */
export function EasingPicker(props: {
  value: Easing | null;
  onChange: (easing: Easing, words: string) => void;
}) {
  const { value, onChange } = props;
  const [beside, setBeside] = useState<Easing | null>(null);
  const chosen = value === null ? '' : easingWords(value);
  const kind = value === null ? null : kindOf(value);
  const choose = (e: Easing) => onChange(e, easingWords(e));
  const picture = (words: string, easing: Easing, isChosen: boolean) => (
    <EasingButton key={words} words={words} easing={easing} chosen={isChosen} onPick={() => choose(easing)} />
  );
  return (
    <div className="space-y-2.5">
      <div className="grid grid-cols-3 gap-1.5">
        {READY.map((e) => picture(easingWords(e), e, easingWords(e) === chosen))}
        {KINDS.map(([k, words, e]) => picture(words, kind === k && value !== null ? value : e, kind === k))}
      </div>
      {value !== null && <Numbers value={value} onChange={choose} />}
      {value !== null && <Compare value={value} beside={beside} onBeside={setBeside} onSwap={choose} />}
    </div>
  );
}

/** One easing as a picture that moves under the pointer, with its words. */
export function EasingButton(props: { words: string; easing: Easing; chosen: boolean; onPick: () => void }) {
  const { words, easing, chosen, onPick } = props;
  const [moves, setMoves] = useState(false);
  return (
    <button
      type="button"
      aria-pressed={chosen}
      className={`border rounded-md p-1 flex flex-col items-center gap-0.5 ${chosen ? 'border-brass bg-chosen' : 'border-line bg-card hover:border-ink-3'}`}
      onClick={onPick}
      onPointerEnter={() => setMoves(true)}
      onPointerLeave={() => setMoves(false)}
      onFocus={() => setMoves(true)}
      onBlur={() => setMoves(false)}
    >
      <Curve easing={easing} moves={moves || chosen} />
      <span className="text-[11px] leading-tight">{words}</span>
    </button>
  );
}

const W = 56;
const H = 30;

/** The curve from the engine's own numbers, and a seed that goes along below it as fast as the curve says. */
const Curve = memo(function Curve({ easing, moves }: { easing: Easing; moves: boolean }) {
  const points = Array.from({ length: 57 }, (_, i) => [i / 56, easeAt(easing, i / 56)] as const);
  const low = Math.min(0, ...points.map((p) => p[1]));
  const high = Math.max(1, ...points.map((p) => p[1]));
  const y = (v: number) => 2 + (H - 4) * (1 - (v - low) / (high - low));
  const jumps = typeof easing === 'object' && 'steps' in easing;
  const d = points
    .map(([x, v], i) => {
      const before = points[i - 1]?.[1] ?? v;
      const across = jumps && v !== before ? `L${x * W} ${y(before)}` : '';
      return `${across}${i === 0 ? 'M' : 'L'}${(x * W).toFixed(1)} ${y(v).toFixed(1)}`;
    })
    .join('');
  return (
    <span className="block" style={{ width: W }}>
      <svg width={W} height={H} aria-hidden="true" className="overflow-visible block">
        <path
          d={easing === 'hold' ? `M0 ${H - 2}H${W}V2` : d}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="1.6"
        />
      </svg>
      <Mover easing={easing} moves={moves} width={W} />
    </span>
  );
});

/** A seed that goes there as the easing says, again and again while `moves`; it stands where people want no motion. */
function Mover({ easing, moves, width }: { easing: Easing; moves: boolean; width: number }) {
  const dot = useRef<HTMLSpanElement>(null);
  useEffect(() => {
    const el = dot.current;
    if (!el || !moves || matchMedia('(prefers-reduced-motion: reduce)').matches) return;
    const far = width - 7;
    // A pause at both ends, so that one sees how it sets out and arrives.
    const frames = Array.from({ length: 61 }, (_, i) => ({
      offset: 0.12 + (0.66 * i) / 60,
      transform: `translateX(${(easeAt(easing, i / 60) * far).toFixed(2)}px)`,
    }));
    const still = (at: number, to: number) => ({ offset: at, transform: `translateX(${to}px)` });
    const run = el.animate([still(0, 0), ...frames, still(1, easeAt(easing, 1) * far)], {
      duration: 1500,
      iterations: Number.POSITIVE_INFINITY,
    });
    return () => run.cancel();
  }, [easing, moves, width]);
  return (
    <span className="block h-[7px] relative" aria-hidden="true">
      <span className="absolute inset-x-0 top-[3px] h-px bg-line" />
      <span ref={dot} className="absolute left-0 top-0 w-[7px] h-[7px] rounded-full bg-brass" />
    </span>
  );
}

/** The numbers of an easing that has some. */
function Numbers({ value, onChange }: { value: Easing; onChange: (e: Easing) => void }) {
  if (typeof value === 'string' || 'bezier' in value || 'linear' in value) return null;
  if ('family' in value)
    return (
      <Row title="Formula">
        <Pick
          label="Formula of the easing"
          value={value.family}
          options={FAMILIES.map((f) => [f, f] as const)}
          onChange={(f) => onChange({ ...value, family: f as (typeof FAMILIES)[number] })}
        />
        <Pick
          label="Way of the easing"
          value={value.way}
          options={WAYS.map((w) => [w, w.replaceAll('-', ' ')] as const)}
          onChange={(w) => onChange({ ...value, way: w as (typeof WAYS)[number] })}
        />
      </Row>
    );
  if ('spring' in value)
    return (
      <Row title="Damping">
        <NumberField
          label="Damping of the spring"
          value={value.spring.damping}
          step={0.05}
          least={0.02}
          most={10}
          onChange={(damping) => onChange({ spring: { damping } })}
        />
      </Row>
    );
  if ('bounce' in value)
    return (
      <Row title="Rebounds">
        <NumberField
          label="Rebounds"
          value={value.bounce}
          least={1}
          most={12}
          onChange={(n) => onChange({ bounce: Math.round(n) })}
        />
      </Row>
    );
  if ('elastic' in value)
    return (
      <Row title="Elastic">
        <NumberField
          label="Amplitude"
          axis="×"
          value={value.elastic.amplitude}
          step={0.1}
          least={1}
          most={10}
          onChange={(amplitude) => onChange({ elastic: { ...value.elastic, amplitude } })}
        />
        <NumberField
          label="Period"
          axis="p"
          value={value.elastic.period}
          step={0.05}
          least={0.05}
          most={4}
          onChange={(period) => onChange({ elastic: { ...value.elastic, period } })}
        />
      </Row>
    );
  return (
    <Row title="Steps">
      <NumberField
        label="Number of steps"
        value={value.steps}
        least={value.position === 'jump-none' ? 2 : 1}
        most={1000}
        onChange={(n) => onChange({ ...value, steps: Math.round(n) })}
      />
      <Pick
        label="Where it jumps"
        value={value.position}
        options={STEP_POSITIONS.map((p) => [p, JUMP_WORDS[p]] as const)}
        onChange={(p) =>
          onChange({
            steps: p === 'jump-none' ? Math.max(2, value.steps) : value.steps,
            position: p as (typeof STEP_POSITIONS)[number],
          })
        }
      />
    </Row>
  );
}

const JUMP_WORDS: Record<(typeof STEP_POSITIONS)[number], string> = {
  'jump-start': 'at the start',
  'jump-end': 'at the end',
  'jump-none': 'only between',
  'jump-both': 'at both ends',
};

/** Two easings that go at the same time, one below the other; either is taken with a click. */
function Compare(props: {
  value: Easing;
  beside: Easing | null;
  onBeside: (e: Easing | null) => void;
  onSwap: (e: Easing) => void;
}) {
  const { value, beside, onBeside, onSwap } = props;
  if (beside === null)
    return (
      <button type="button" className="btn" onClick={() => onBeside(value)}>
        Compare with another
      </button>
    );
  const line = (words: string, easing: Easing, act: React.ReactNode) => (
    <div className="flex items-center gap-2">
      <span className="w-20 truncate text-[11.5px]" title={words}>
        {words}
      </span>
      <Mover key={`${easingWords(value)} ${easingWords(beside)}`} easing={easing} moves width={96} />
      <span className="flex-1" />
      {act}
    </div>
  );
  return (
    <div className="border border-line rounded-md p-2 space-y-1.5" role="group" aria-label="Comparison">
      {line(easingWords(value), value, <span className="text-ink-3 text-[11px]">now</span>)}
      {line(
        easingWords(beside),
        beside,
        <button
          type="button"
          className="underline text-[11.5px]"
          onClick={() => {
            onBeside(value);
            onSwap(beside);
          }}
        >
          take
        </button>,
      )}
      <button type="button" className="text-ink-2 underline text-[11.5px]" onClick={() => onBeside(null)}>
        Stop comparing
      </button>
    </div>
  );
}
