import { boundsOf, editDrawing, type SceneObject, type Stroke } from '@apple-tick/core/model';
import { X } from 'lucide-react';
import { useSession } from '../../session/hooks.ts';
import { NumberField, Pick, Row, TextField } from '../../ui/fields.tsx';
import { FillFields } from './FillFields.tsx';
import { useStops } from './stops.ts';

const CAPS = [
  ['butt', 'flat'],
  ['round', 'round'],
  ['square', 'square'],
] as const;
const JOINS = [
  ['miter', 'sharp'],
  ['round', 'round'],
  ['bevel', 'cut'],
] as const;
/** How a line begins that is given dashes, in widths of the stroke: line, gap. */
const FIRST_DASHES = [3, 2];

/** The stroke of what is shown: its colour or gradient, its line, its dashes. */
export function StrokeFields({ object }: { object: SceneObject }) {
  const s = useSession();
  const stops = useStops(object, 'stroke');
  const stroke = object.stroke ?? null;
  const [a, b] = boundsOf(object);
  const set = (to: Stroke | null) =>
    s.edit(`Stroked ${object.name}`, (e) =>
      e.update('objects', object.id, (o) => editDrawing(o, (d) => ({ ...d, stroke: to }))),
    );
  if (!stroke)
    return (
      <Row title="Stroke">
        <button
          type="button"
          className="btn"
          onClick={() => set({ color: '#20302a', width: 2, cap: 'round', join: 'round' })}
        >
          Add a stroke
        </button>
      </Row>
    );
  const paint = (color: Stroke['color'] | 'none') =>
    color === 'none' ? set(null) : set({ ...stroke, color });
  return (
    <>
      <FillFields
        label="Stroke"
        step={`Stroked ${object.name}`}
        fill={stroke.color}
        kinds={['color', 'linear', 'radial']}
        box={[a[0], a[1], b[0], b[1]]}
        stops={stops}
        onColor={paint}
        onFill={paint}
      />
      <Row title="Width">
        <NumberField
          label="Width of the stroke"
          unit="px"
          step={0.5}
          value={stroke.width}
          onChange={(n) => set({ ...stroke, width: Math.max(0.01, Math.min(1000, n)) })}
        />
        <button type="button" aria-label="Delete the stroke" onClick={() => set(null)}>
          <X size={13} />
        </button>
      </Row>
      <Line stroke={stroke} set={set} />
      <Dashes stroke={stroke} set={set} />
    </>
  );
}

interface LineProps {
  stroke: Stroke;
  set: (to: Stroke) => void;
}

function Line({ stroke, set }: LineProps) {
  return (
    <>
      <Row title="Ends">
        <Pick
          label="Ends of the stroke"
          value={stroke.cap}
          options={CAPS}
          onChange={(v) => set({ ...stroke, cap: v as Stroke['cap'] })}
        />
        corners
        <Pick
          label="Corners of the stroke"
          value={stroke.join}
          options={JOINS}
          onChange={(v) => set({ ...stroke, join: v as Stroke['join'] })}
        />
      </Row>
      <Row title="">
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={stroke.under ?? false}
            onChange={() => set({ ...stroke, under: !stroke.under })}
          />
          below the fill
        </label>
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={stroke.fixed ?? false}
            onChange={() => set({ ...stroke, fixed: !stroke.fixed })}
          />
          width fixed
        </label>
      </Row>
    </>
  );
}

/** Lengths of lines and gaps in turn, typed with blanks between; where the line begins in them. */
function Dashes({ stroke, set }: LineProps) {
  const { dashes } = stroke;
  if (!dashes)
    return (
      <Row title="Dashes">
        <button
          type="button"
          className="btn"
          onClick={() => set({ ...stroke, dashes: FIRST_DASHES.map((n) => n * stroke.width) })}
        >
          Dash it
        </button>
      </Row>
    );
  return (
    <Row title="Dashes">
      <TextField
        label="Lengths of lines and gaps, px"
        className="field w-20"
        value={dashes.join(' ')}
        onChange={(text) => {
          const typed = dashesIn(text);
          if (typed) set({ ...stroke, dashes: typed });
        }}
      />
      <button
        type="button"
        aria-label="Take the dashes off"
        onClick={() => {
          const { dashes: _, dashStart: __, ...rest } = stroke;
          set(rest);
        }}
      >
        <X size={13} />
      </button>
    </Row>
  );
}

/** The lengths in a text; null where they are none, or all 0. */
function dashesIn(text: string): number[] | null {
  const all = text
    .trim()
    .split(/[\s,;]+/)
    .map(Number);
  const isSound = all.length <= 64 && all.every((n) => n >= 0 && n <= 1e7) && all.some((n) => n > 0);
  return isSound ? all : null;
}
