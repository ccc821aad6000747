import { type Fill, fillColor, type Gradient } from '@apple-tick/core/model';
import { Plus, X } from 'lucide-react';
import { ColorField } from '../../ui/ColorField.tsx';
import { NumberField, Pick, Row } from '../../ui/fields.tsx';
import type { StopFields } from './stops.ts';

export const FILL_KINDS = [
  ['color', 'a colour'],
  ['linear', 'along a line'],
  ['radial', 'from a spot'],
  ['none', 'nothing'],
] as const;

type FillKind = (typeof FILL_KINDS)[number][0];

type Box = readonly [x0: number, y0: number, x1: number, y1: number];

/** A fill: its colour, or a gradient's stops. Another of `kinds` begins within `box`, px of what is filled. */
export function FillFields(props: {
  label: string;
  /** The name of the step that a colour is. */
  step: string;
  fill: Fill;
  kinds: readonly FillKind[];
  box: Box;
  onColor: (color: string) => void;
  onFill: (fill: Fill) => void;
  /** Where stops can be keyed. */
  stops?: StopFields;
}) {
  const { label, fill, kinds, box, onFill } = props;
  const kind: FillKind = typeof fill === 'object' ? fill.gradient : fill === 'none' ? 'none' : 'color';
  return (
    <>
      <Row title={label}>
        {kind === 'color' && (
          <ColorField
            label={label}
            step={props.step}
            value={fillColor(fill) ?? '#000000'}
            onChange={props.onColor}
          />
        )}
        {kinds.length > 0 && (
          <Pick
            label={`Kind of ${label.toLowerCase()}`}
            value={kind}
            options={FILL_KINDS.filter(([k]) => kinds.includes(k))}
            onChange={(v) => onFill(filled(fill, box, v as FillKind))}
          />
        )}
      </Row>
      {typeof fill === 'object' && (
        <Stops gradient={fill} fields={props.stops} step={props.step} onChange={onFill} />
      )}
    </>
  );
}

/** The fill of another kind that looks most like the present one. */
function filled(old: Fill, [x0, y0, x1, y1]: Box, kind: FillKind): Fill {
  const color = fillColor(old) ?? '#c9c2ae';
  if (kind === 'color') return color;
  if (kind === 'none') return 'none';
  const stops =
    typeof old === 'object'
      ? old.stops
      : [
          { at: 0, color },
          { at: 1, color: '#fffcf5' },
        ];
  const [x, y] = [(x0 + x1) / 2, (y0 + y1) / 2];
  return kind === 'linear'
    ? { gradient: 'linear', from: [x, y1], to: [x, y0], stops }
    : { gradient: 'radial', centre: [x, y], radius: Math.max(1, (x1 - x0) / 2, (y1 - y0) / 2), stops };
}

const SPREADS = [
  ['pad', 'ends there'],
  ['reflect', 'goes back and forth'],
  ['repeat', 'begins again'],
] as const;

function Stops(props: {
  gradient: Gradient;
  fields: StopFields | undefined;
  step: string;
  onChange: (g: Gradient) => void;
}) {
  const { gradient, fields, step, onChange } = props;
  const put = (i: number, field: 'color' | 'at', to: string | number) => {
    if (fields?.put(i, field, to)) return;
    const stops = gradient.stops.map((x, n) => (n === i ? { ...x, [field]: to } : x));
    onChange({ ...gradient, stops });
  };
  return (
    <fieldset className="space-y-1.5" aria-label="Stops of the gradient">
      {gradient.stops.map((stop, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: stops have no ids and are few
        <div key={i} className="flex gap-1.5 items-center pl-16">
          <ColorField
            label={`Colour of stop ${i + 1}`}
            step={step}
            value={String(fields?.value(i, 'color') ?? stop.color)}
            onChange={(color) => put(i, 'color', color)}
          />
          <NumberField
            label={`Place of stop ${i + 1}, per cent`}
            axis="%"
            step={5}
            value={Number(fields?.value(i, 'at') ?? stop.at) * 100}
            keyed={fields?.isKeyed(i, 'at') ?? false}
            onChange={(n) => put(i, 'at', Math.max(0, Math.min(100, n)) / 100)}
          />
          {gradient.stops.length > 2 && (
            <button
              type="button"
              aria-label={`Delete stop ${i + 1}`}
              onClick={() => onChange({ ...gradient, stops: gradient.stops.filter((_, n) => n !== i) })}
            >
              <X size={13} />
            </button>
          )}
        </div>
      ))}
      <div className="pl-16">
        <Pick
          label="Beyond its ends"
          value={gradient.spread ?? 'pad'}
          options={SPREADS}
          onChange={(to) => onChange({ ...gradient, spread: to as NonNullable<Gradient['spread']> })}
        />
      </div>
      <div className="pl-16 flex gap-1.5">
        <button
          type="button"
          className="btn inline-flex items-center gap-1"
          onClick={() => {
            const last = gradient.stops.at(-1) ?? { at: 1, color: '#fffcf5' };
            onChange({ ...gradient, stops: [...gradient.stops, { ...last, at: 1 }] });
          }}
        >
          <Plus size={12} aria-hidden="true" /> stop
        </button>
        {gradient.gradient === 'linear' && (
          <button
            type="button"
            className="btn"
            onClick={() => {
              // A quarter turn about the middle of its line.
              const [mx, my] = [
                (gradient.from[0] + gradient.to[0]) / 2,
                (gradient.from[1] + gradient.to[1]) / 2,
              ];
              const turn = ([x, y]: readonly [number, number]): [number, number] => [
                mx - (y - my),
                my + (x - mx),
              ];
              onChange({ ...gradient, from: turn(gradient.from), to: turn(gradient.to) });
            }}
          >
            Turn it 90°
          </button>
        )}
      </div>
    </fieldset>
  );
}
