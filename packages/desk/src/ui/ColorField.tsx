import { fillColor } from '@apple-tick/core/model';
import { Pipette } from 'lucide-react';
import { Popover, Slider } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { useSession } from '../session/hooks.ts';
import { isBare } from '../session/model-help.ts';
import type { Gesture, Session } from '../session/session.ts';
import { readHex, type Shade, shadeHex, shadeOf } from './shades.ts';
import { useDraft } from './use-draft.ts';

/** A colour. All that is tried while its picker is open is one step, of the name `step`; Escape takes it back. */
export function ColorField(props: {
  label: string;
  step: string;
  value: string;
  onChange: (color: string) => void;
}) {
  const s = useSession();
  const [open, setOpen] = useState(false);
  const gesture = useRef<Gesture | null>(null);
  useEffect(() => () => gesture.current?.end(), []);
  const show = (to: boolean) => {
    setOpen(to);
    if (!to) gesture.current?.end();
  };
  const change = (color: string) => {
    if (color === props.value) return;
    gesture.current ??= s.beginGesture(props.step, () => {
      gesture.current = null;
    });
    props.onChange(color);
  };
  return (
    <Popover.Root open={open} onOpenChange={show}>
      <Popover.Trigger
        aria-label={props.label}
        title={props.value}
        className="w-10 h-6 flex-none rounded-md border border-line cursor-pointer"
        style={{ background: props.value }}
      />
      <Popover.Portal>
        <Popover.Content
          className="menu w-[240px] space-y-2"
          style={{ padding: 12 }}
          align="start"
          collisionPadding={8}
          aria-label={props.label}
          onEscapeKeyDown={() => gesture.current?.cancel()}
        >
          <Picker value={props.value} label={props.label} onChange={change} onDone={() => show(false)} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Picker(props: { value: string; label: string; onChange: (c: string) => void; onDone: () => void }) {
  const { value, onChange } = props;
  const s = useSession();
  const [before] = useState(value);
  const [own] = useState(() => colorsOf(s));
  // What is at hand, so that the hue of a grey and the strength of black are not forgotten.
  const [kept, setKept] = useState(() => shadeOf(value));
  const shade = shadeHex(kept) === value ? kept : shadeOf(value, kept);
  const take = (part: Partial<Shade>) => {
    const next = { ...shade, ...part };
    setKept(next);
    onChange(shadeHex(next));
  };
  const hex = useDraft(value, (text) => {
    const c = readHex(text);
    if (c) onChange(c);
  });
  return (
    <>
      <div className="flex items-center gap-2">
        <div className="flex rounded-md overflow-hidden border border-line flex-none">
          <button
            type="button"
            className="w-7 h-7"
            style={{ background: before }}
            aria-label="As it was"
            title="As it was"
            onClick={() => onChange(before)}
          />
          <span className="w-7 h-7" style={{ background: value }} />
        </div>
        <input
          className="field num flex-1 min-w-0"
          aria-label={`${props.label}, as a number`}
          value={hex.text}
          spellCheck={false}
          onFocus={(e) => e.currentTarget.select()}
          onChange={(e) => hex.type(e.target.value)}
          onBlur={hex.settle}
          onKeyDown={(e) => {
            if (e.key !== 'Enter') return;
            hex.settle();
            props.onDone();
          }}
        />
        {'EyeDropper' in window && (
          <button
            type="button"
            className="btn px-1.5"
            aria-label="Take it from the screen"
            title="Take it from the screen"
            onClick={() => void fromScreen(onChange)}
          >
            <Pipette size={14} />
          </button>
        )}
      </div>
      <Bar
        name="Light"
        value={shade.light * 100}
        of={(x) => ({ ...shade, light: x / 100 })}
        onTake={(x) => take({ light: x / 100 })}
      />
      <Bar
        name="Strength"
        value={shade.strength * 100}
        of={(x) => ({ ...shade, strength: x / 100 })}
        onTake={(x) => take({ strength: x / 100 })}
      />
      <Bar
        name="Hue"
        most={359}
        value={shade.hue}
        of={(x) => ({ ...shade, hue: x })}
        onTake={(x) => take({ hue: x })}
      />
      {own.length > 0 && (
        <div role="group" aria-label="Colours of this piece" className="flex flex-wrap gap-1 pt-1">
          {own.map((c) => (
            <button
              key={c}
              type="button"
              aria-label={c}
              title={c}
              aria-pressed={c === value}
              className={`w-[18px] h-[18px] rounded border ${c === value ? 'border-brass outline outline-2 outline-brass' : 'border-line'}`}
              style={{ background: c }}
              onClick={() => onChange(c)}
            />
          ))}
        </div>
      )}
    </>
  );
}

/** Stops at which a bar's colours are worked out. */
const STOPS = 12;

/** One of the three numbers of a shade, on the colours that it leads to. */
function Bar(props: {
  name: string;
  value: number;
  most?: number;
  of: (x: number) => Shade;
  onTake: (x: number) => void;
}) {
  const { most = 100 } = props;
  const colors = Array.from({ length: STOPS + 1 }, (_, i) => shadeHex(props.of((i / STOPS) * most)));
  return (
    <div className="flex items-center gap-2">
      <span className="w-14 text-ink-2 text-[11.5px]">{props.name}</span>
      <Slider.Root
        className="relative flex items-center flex-1 h-5 touch-none select-none"
        min={0}
        max={most}
        step={1}
        value={[props.value]}
        onValueChange={([x]) => x !== undefined && props.onTake(x)}
      >
        <Slider.Track
          className="relative flex-1 h-3 rounded-full border border-line"
          style={{ background: `linear-gradient(to right, ${colors.join(', ')})` }}
        />
        <Slider.Thumb
          aria-label={props.name}
          className="block w-3 h-5 rounded-[4px] border-2 border-ink bg-card"
        />
      </Slider.Root>
    </div>
  );
}

/** So many colours of the piece are offered, those that most objects have first. */
const OFFERED = 22;

function colorsOf(s: Session): string[] {
  const uses = new Map<string, number>();
  for (const o of s.store.all('objects')) {
    const c = isBare(o) ? null : fillColor(o.base.fill);
    if (c) uses.set(c, (uses.get(c) ?? 0) + 1);
  }
  return [...uses]
    .sort((a, b) => b[1] - a[1])
    .slice(0, OFFERED)
    .map(([c]) => c)
    .sort((a, b) => order(a) - order(b));
}

/** Greys first, then round the hues. */
function order(color: string): number {
  const { light, strength, hue } = shadeOf(color);
  return strength < 0.12 ? light - 1 : Math.round(hue / 30) * 10 + light;
}

async function fromScreen(take: (color: string) => void): Promise<void> {
  const Dropper = (
    window as unknown as { EyeDropper: new () => { open: () => Promise<{ sRGBHex: string }> } }
  ).EyeDropper;
  try {
    take(readHex((await new Dropper().open()).sRGBHex) ?? '#000000');
  } catch {
    // Given up with Escape.
  }
}
