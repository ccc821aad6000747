/** Half the height of a notch in a ticket's short edges, px. */
const NOTCH = 4;

/** A sentence on a ticket: notched edges, dashed while not yet set. */
export function Ticket(props: {
  words: string;
  label: string;
  /** Px; the place in the lane where it has one. */
  rect: { x?: number; y?: number; w: number; h: number };
  chosen: boolean;
  isSet: boolean;
  onSelect: () => void;
  /** Without its words, where there is no room for any. */
  short?: boolean;
  /** Set smaller. */
  small?: boolean;
  /** Over the others. */
  raised?: boolean;
  onPoint?: (on: boolean) => void;
}) {
  const { rect, chosen, isSet, short, small, raised, onPoint } = props;
  const { w, h } = rect;
  const m = h / 2;
  return (
    <button
      type="button"
      title={props.words}
      aria-label={props.label}
      aria-pressed={chosen}
      data-small
      className={`whitespace-nowrap ${short ? '' : 'px-3'} ${small ? 'text-[10.5px]' : 'text-[11.5px]'} ${raised ? 'z-10' : ''} ${rect.x === undefined ? 'relative block' : 'absolute'} ${isSet ? '' : 'text-ink-2'}`}
      style={{ left: rect.x, top: rect.y, width: w, height: h }}
      onClick={props.onSelect}
      onPointerEnter={() => onPoint?.(true)}
      onPointerLeave={() => onPoint?.(false)}
      onFocus={() => onPoint?.(true)}
      onBlur={() => onPoint?.(false)}
    >
      <svg className="absolute inset-0" width={w} height={h} aria-hidden="true">
        <path
          d={`M.7 .7H${w - 0.7}V${m - NOTCH}A${NOTCH} ${NOTCH} 0 0 0 ${w - 0.7} ${m + NOTCH}V${h - 0.7}H.7V${m + NOTCH}A${NOTCH} ${NOTCH} 0 0 0 .7 ${m - NOTCH}Z`}
          fill={chosen ? 'var(--chosen)' : 'var(--card)'}
          stroke={chosen ? 'var(--brass)' : 'var(--ink)'}
          strokeWidth={chosen ? 1.8 : 1.2}
          strokeDasharray={isSet ? undefined : '4 3'}
        />
      </svg>
      {!short && <span className="relative block truncate">{props.words}</span>}
    </button>
  );
}
