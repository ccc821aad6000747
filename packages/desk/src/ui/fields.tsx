import { useRef } from 'react';
import { useSession } from '../session/hooks.ts';
import { dragGesture, track } from '../session/view/drag-gesture.ts';
import { useDraft } from './use-draft.ts';

interface NumberFieldProps {
  label: string;
  /** What stands before the number, and its unit after it. */
  axis?: string;
  unit?: string;
  value: number;
  step?: number;
  keyed?: boolean;
  /** Several things are meant and they differ: the field is empty until something is typed. */
  mixed?: boolean;
  onChange?: (n: number) => void;
  /** Told when the pointer comes over the field or the focus comes to it, and when both have left. */
  onPoint?: (on: boolean) => void;
  /** Instead of `onChange`: what was typed, for who works it out on several values. */
  onText?: (text: string) => void;
  /** What is typed beyond these comes out as these; a file could not hold more. */
  least?: number;
  most?: number;
  /** For times: frame numbers a second, so that "180f" can be typed. */
  fps?: number;
  /** One of three in a row: there is room for six characters, so large numbers show fewer decimals. */
  short?: boolean;
}

/** A number typed (with + − × ÷ and brackets), stepped with the arrow keys; "+15" adds to what is there. */
export function NumberField(props: NumberFieldProps) {
  const { least = -MOST, most = MOST } = props;
  const put = (n: number) => {
    const to = Math.max(least, Math.min(most, n));
    if (to !== props.value) props.onChange?.(to);
  };
  const shown = props.mixed ? '' : written(props.value, props.short ?? false);
  const field = useDraft(shown, (text) => {
    if (props.onText) return props.onText(text);
    // Of what goes from 0 to 1 per cent can be typed.
    const plain = text.trim().replace(/%$/, most === 1 ? '/100' : '');
    const n = arithmetic(plain, props.value, props.fps);
    if (n !== null && String(n) !== shown) put(n);
  });
  const input = useRef<HTMLInputElement>(null);
  const s = useSession();
  const latest = useRef(props);
  latest.current = props;
  /** From a press on a field that one does not type in: a drag changes its number, as one step. */
  const press = (x0: number) => {
    const from = props.value;
    const step = props.step ?? 1;
    let last = 0;
    let dragged = false;
    const move = (e: PointerEvent) => {
      const far = Math.round((e.clientX - x0) / PER_STEP) * (e.shiftKey ? 10 : e.altKey ? 0.1 : 1);
      if (far === last) return;
      const { onText, onChange } = latest.current;
      const to = (n: number) => Math.round(n * 1000) / 1000;
      if (onText) onText(`+(${to((far - last) * step)})`);
      else onChange?.(Math.max(least, Math.min(most, to(from + far * step))));
      last = far;
    };
    track(
      (e) => {
        if (dragged || Math.abs(e.clientX - x0) < SETS_OUT) return;
        dragged = true;
        // What is half typed elsewhere is a step of its own.
        (document.activeElement as HTMLElement | null)?.blur();
        dragGesture(s, `Changed ${props.label.toLowerCase()}`, { move });
      },
      () => !dragged && input.current?.select(),
    );
  };
  return (
    <div
      className="field flex items-center gap-1 relative flex-1 cursor-ew-resize focus-within:cursor-text"
      // A press that goes sideways changes the number; one that does not is a click into the field.
      onMouseDown={(e) => {
        if (document.activeElement !== input.current) e.preventDefault();
      }}
      onPointerDown={(e) => {
        if (e.button === 0 && document.activeElement !== input.current) press(e.clientX);
      }}
      onPointerEnter={() => props.onPoint?.(true)}
      onPointerLeave={() => props.onPoint?.(false)}
      onFocus={() => props.onPoint?.(true)}
      onBlur={() => props.onPoint?.(false)}
    >
      {props.axis && <span className="text-ink-3 num text-[11px]">{props.axis}</span>}
      <input
        ref={input}
        aria-label={props.label}
        className="num w-full min-w-0 text-right bg-transparent outline-none cursor-[inherit]"
        value={field.text}
        placeholder={props.mixed ? '–' : undefined}
        data-clean={field.clean}
        onChange={(e) => field.type(e.target.value)}
        onBlur={field.settle}
        onKeyDown={(e) => {
          if (e.key === 'Enter') doneTyping(field, e.currentTarget);
          if (e.key === 'Escape') leaveOrForget(field, e.currentTarget);
          if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
            e.preventDefault();
            field.forget();
            const by = (props.step ?? 1) * (e.shiftKey ? 10 : 1) * (e.key === 'ArrowUp' ? 1 : -1);
            if (props.onText) props.onText(by < 0 ? `+(${by})` : `+${by}`);
            else put(Math.round((props.value + by) * 1000) / 1000);
          }
        }}
      />
      {props.unit && <span className="text-ink-3 num text-[11px] flex-none">{props.unit}</span>}
      {props.keyed && (
        <svg width="9" height="11" className="absolute -top-1.5 -right-1" aria-label="keyed" role="img">
          <path d="M4.5 0C7 4 9 5 9 7.2a4.5 3.8 0 0 1-9 0C0 5 2 4 4.5 0z" fill="var(--ink)" />
        </svg>
      )}
    </div>
  );
}

/** Enter keeps what is typed; the keyboard is the desk's again. */
function doneTyping(field: ReturnType<typeof useDraft>, input: HTMLElement): void {
  field.settle();
  input.blur();
}

/** Escape forgets what is half typed; where nothing is, it leaves the properties for the objects. */
function leaveOrForget(field: ReturnType<typeof useDraft>, input: HTMLElement): void {
  if (!field.clean) field.forget();
  else if (input.closest('[aria-label="Properties"]'))
    document.querySelector<HTMLElement>('[role="tree"]')?.focus();
}

/** Px that a press goes sideways before it is a drag, and those that a drag takes for one step. */
const SETS_OUT = 4;
const PER_STEP = 4;

/** A number as a field shows it; what it is to the last digit stays until something else is typed. */
export function written(n: number, short: boolean): string {
  const size = Math.abs(n);
  const decimals = !short || size < 10 ? 3 : size < 100 ? 2 : size < 1000 ? 1 : 0;
  return String(Math.round(n * 10 ** decimals) / 10 ** decimals + 0);
}

/** Times are at most a day. */
const DAY = 86_400;

/** A time, typed in seconds or, as "180f", in frame numbers. */
export function SecondsField(props: Parameters<typeof NumberField>[0]) {
  const { fps } = useSession().store.head;
  return <NumberField step={0.1} {...props} fps={fps} least={0} most={DAY} />;
}

/** A file holds no number beyond this, nor below its opposite. */
const MOST = 1e6;

/**
 * A sum typed by hand, read by a small parser of its own: never evaluated as code. Null when it is not one. With `fps`,
 * "180f" is the time of frame number 180.
 */
export function arithmetic(text: string, now: number, fps?: number): number | null {
  const s = text
    .replace(/\s|°|px/g, '')
    // Seconds may say that they are.
    .replace(/s$/, '')
    .replace(/,/g, '.')
    .replace(/×/g, '*')
    .replace(/÷/g, '/')
    .replace(/−/g, '-');
  let at = 0;
  const atom = (): number => {
    if (s[at] === '(') {
      at++;
      const v = sum();
      if (s[at++] !== ')') return Number.NaN;
      return v;
    }
    if (s[at] === '-') {
      at++;
      return -atom();
    }
    const m = /^\d*\.?\d+|^\d+\./.exec(s.slice(at));
    if (!m) return Number.NaN;
    at += m[0].length;
    if (s[at] !== 'f' || fps === undefined) return Number(m[0]);
    at++;
    return Number(m[0]) / fps;
  };
  const product = (): number => {
    let v = atom();
    while (s[at] === '*' || s[at] === '/') v = s[at++] === '*' ? v * atom() : v / atom();
    return v;
  };
  const sum = (): number => {
    let v = product();
    while (s[at] === '+' || s[at] === '-') v = s[at++] === '+' ? v + product() : v - product();
    return v;
  };
  const relative = s.startsWith('+');
  if (relative) at = 1;
  const v = sum();
  if (at !== s.length || !Number.isFinite(v)) return null;
  return Math.max(-MOST, Math.min(MOST, relative ? now + v : v));
}

export function TextField(props: {
  label: string;
  value: string;
  className?: string;
  /** Characters at most; a name holds 200. */
  most?: number;
  readOnly?: boolean;
  onChange: (s: string) => void;
}) {
  const field = useDraft(props.value, props.onChange);
  return (
    <input
      aria-label={props.label}
      className={props.className ?? 'field w-full'}
      maxLength={props.most ?? 200}
      readOnly={props.readOnly}
      value={field.text}
      data-clean={field.clean}
      onChange={(e) => field.type(e.target.value)}
      onBlur={field.settle}
      onKeyDown={(e) => {
        if (e.key === 'Escape') leaveOrForget(field, e.currentTarget);
        if (e.key === 'Enter') e.currentTarget.blur();
      }}
    />
  );
}

export type Option = readonly [value: string, name: string];
export interface OptionGroup {
  readonly group: string;
  readonly options: readonly Option[];
}

const namesOf = (options: readonly (Option | OptionGroup)[]) =>
  new Map(options.flatMap((o) => ('group' in o ? o.options : [o])));

/** A choice from a list, whole on hover where it is cut; groups without options are left out. */
export function Pick(props: {
  label: string;
  value: string;
  options: readonly (Option | OptionGroup)[];
  onChange: (v: string) => void;
}) {
  const one = ([v, name]: Option) => (
    <option key={v} value={v}>
      {name}
    </option>
  );
  return (
    <select
      aria-label={props.label}
      title={namesOf(props.options).get(props.value)}
      className="field max-w-full"
      value={props.value}
      onChange={(e) => props.onChange(e.target.value)}
    >
      {props.options.map((o) =>
        'group' in o
          ? o.options.length > 0 && (
              <optgroup key={o.group} label={o.group}>
                {o.options.map(one)}
              </optgroup>
            )
          : one(o),
      )}
    </select>
  );
}

/** The name at the top of the properties, changed in place, with what kind of thing it is beside it. */
export function Heading(props: {
  label: string;
  name: string;
  kind: string;
  onRename?: (name: string) => void;
}) {
  const { onRename } = props;
  return (
    <div className="flex items-baseline gap-2 pb-0.5">
      {onRename ? (
        <TextField
          label={props.label}
          className="font-serif text-[16px] font-semibold bg-transparent flex-1 min-w-0"
          value={props.name}
          onChange={(n) => n.trim() !== '' && onRename(n.trim())}
        />
      ) : (
        <h2 className="text-[16px] flex-1">{props.name}</h2>
      )}
      <span className="text-ink-2">{props.kind}</span>
    </div>
  );
}

/** A row of the properties: a title, and what is set there. */
export function Row({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <div className="flex items-center gap-1.5">
      <span className="w-16 flex-none">{title}</span>
      {children}
    </div>
  );
}
