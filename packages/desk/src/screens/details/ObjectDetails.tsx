import {
  boundsOf,
  CH_LOOK,
  CHANNELS,
  drawn,
  editDrawing,
  fillColor,
  isSolid,
  lookName,
  type PropertyField,
  type PropertyValue,
  propertyInfo,
  propertyStep,
  type SceneObject,
  sizeOf,
  type Vec3,
} from '@apple-tick/core/model';
import { poseClip, propertyValue } from '@apple-tick/core/run';
import { memo, type ReactNode } from 'react';
import { DragDetails, FollowDetails } from '../../features/follows/Details.tsx';
import { InstanceDetails } from '../../features/templates/InstanceDetails.tsx';
import { VisitorDetails } from '../../features/visitor/Details.tsx';
import { ZoneDetails } from '../../features/zones/Details.tsx';
import { useOpen, useSession, useUi, useVersion } from '../../session/hooks.ts';
import { isBare, KIND_WORDS } from '../../session/model-help.ts';
import { addMachine } from '../../session/motion/machines.ts';
import type { Session } from '../../session/session.ts';
import { renameObject } from '../../session/things/arrange.ts';
import { keyMoves, setProperties } from '../../session/things/properties.ts';
import { FURTHER_ROWS, PROPERTY_ROWS, propertiesOf } from '../../session/things/property-rows.ts';
import { resizedAboutPivot } from '../../session/things/resize.ts';
import { Heading, NumberField, Row, TextField } from '../../ui/fields.tsx';
import { Rest } from '../../ui/Rest.tsx';
import { ByHand } from './ByHand.tsx';
import { FacesDetails } from './FacesDetails.tsx';
import { LooksDetails } from './LooksDetails.tsx';
import { HitDetails, MaskDetails, OverlayDetails } from './MaskDetails.tsx';
import { Outside } from './Outside.tsx';
import { PaintDetails } from './PaintDetails.tsx';
import { Parent } from './Parent.tsx';
import { Reactions } from './Reactions.tsx';
import { ShapeDetails } from './ShapeDetails.tsx';
import { Tags } from './Tags.tsx';
import { Written } from './Written.tsx';

/** The object as it is posed where the playhead stands: what its fields show, and what of it the open clip keys. */
function usePosed(object: SceneObject) {
  const s = useSession();
  const clip = useOpen()?.clip;
  const playhead = useUi((u) => u.playhead);
  useVersion();
  const { program } = s;
  const values = program.base.slice();
  poseClip(program, clip?.id ?? null, playhead, values);
  const at = program.objectIndex.get(object.id) ?? 0;
  const own = new Set(clip?.tracks.flatMap((t) => (t.object === object.id ? [t.property] : [])));
  return {
    isKeyed: (property: string) => own.has(property),
    number: (property: string) => values[at * CHANNELS + (propertyInfo(property)?.channel ?? 0)] as number,
    /** A keyed colour or text is shown as it is there; null while it is not keyed. */
    keyed: (property: string) => (own.has(property) ? propertyValue(values, at, property) : null),
    look: lookName(values[at * CHANNELS + CH_LOOK] as number),
  };
}
type Posed = ReturnType<typeof usePosed>;

export function ObjectDetails({ object }: { object: SceneObject }) {
  const s = useSession();
  const posed = usePosed(object);
  const shown = drawn(object);
  const color = posed.keyed('fill');
  const keyedWords = posed.keyed('text');
  const words = keyedWords === null ? null : String(keyedWords);
  const filled = typeof color === 'string' ? { ...shown, base: { ...shown.base, fill: color } } : shown;
  const set = (property: string, value: PropertyValue, what: string, was: PropertyValue) =>
    setProperty(s, object.id, property, value, what, was);
  return (
    <div className="p-3.5 space-y-1.5">
      <Rest>
        <Heading
          label="Name"
          name={object.name}
          kind={KIND_WORDS[object.kind]}
          onRename={(name) => renameObject(s, object.id, name)}
        />
        <Written object={object.id} />
        <ByHand object={object.id} />
      </Rest>
      {object.kind === 'instance' && <InstanceDetails instance={object} />}
      <Rest>
        <Reactions objects={[object]} />
        <FollowDetails object={object} />
        <ZoneDetails objects={[object]} />
        <VisitorDetails object={object} />
      </Rest>
      <hr className="border-line" />
      <Placement object={object} posed={posed} />
      <Pivot object={object} />
      <Visible object={object} posed={posed} />
      {FURTHER_ROWS.map((field) => (
        <PropertyRow key={field} object={object.id} field={field} posed={posed} />
      ))}
      {!isBare(object) && <Paint object={filled} />}
      <Rest>
        <ShapeDetails
          object={shown}
          words={words}
          onWords={
            s.keying || words !== null
              ? (text) =>
                  set(
                    'text',
                    text,
                    'Changed the words of',
                    words ?? (shown.kind === 'text' ? shown.text : ''),
                  )
              : null
          }
        />
      </Rest>
      <Rest>
        {!isBare(object) && (
          <LooksDetails
            object={object}
            now={posed.look}
            onLook={(id) => set('look', id, 'Gave a look to', object.base.look ?? '')}
          />
        )}
        <FacesDetails object={shown} />
        <MaskDetails objects={[object]} />
      </Rest>
      <Rest>
        <DragDetails object={object} />
        <OverlayDetails object={object} />
        <HitDetails object={object} />
        <Parent objects={[object]} />
        <Making object={object} />
      </Rest>
    </div>
  );
}

/** The numbers of a property, each in its field; before them what is set of all at once. */
function PropertyRow(props: { object: string; field: PropertyField; posed: Posed; children?: ReactNode }) {
  const { object, field, posed } = props;
  const row = PROPERTY_ROWS[field];
  if (!row) return null;
  return (
    <Row title={row.title}>
      {props.children}
      {propertiesOf(field).map((p) => (
        <AxisField
          key={p.name}
          object={object}
          property={p.name}
          label={p.axis === null ? row.title : `${row.title} ${'xyz'[p.axis]}`}
          what={row.what}
          value={posed.number(p.name)}
          keyed={posed.isKeyed(p.name)}
        />
      ))}
    </Row>
  );
}

/** Where it is, how it is turned, how large it is. */
function Placement({ object, posed }: { object: SceneObject; posed: Posed }) {
  const s = useSession();
  const shown = drawn(object);
  const scaleNow = AXES.map((axis) => posed.number(`scale.${axis}`)) as unknown as Vec3;
  return (
    <>
      <PropertyRow object={object.id} field="position" posed={posed} />
      <PropertyRow object={object.id} field="rotation" posed={posed} />
      {!isBare(object) && (
        <Row title="Size">
          {sizeOf(shown)
            .slice(0, isSolid(shown) ? 3 : 2)
            .map((n, k) => (
              <NumberField
                // biome-ignore lint/suspicious/noArrayIndexKey: the axes are fixed
                key={k}
                short
                axis={'whd'[k] as string}
                label={`Size ${'whd'[k]}`}
                value={n}
                onChange={(to) =>
                  s.edit(`Sized ${object.name}`, (e) =>
                    e.update('objects', object.id, (o) =>
                      editDrawing(o, (d) => resizedAboutPivot(d, k, Math.max(0, to))),
                    ),
                  )
                }
              />
            ))}
        </Row>
      )}
      <PropertyRow object={object.id} field="scale" posed={posed}>
        <ScaleAll object={object} now={scaleNow} />
      </PropertyRow>
      {object.parent === null && !object.overlay && s.store.scope === null && (
        <Rest>
          <Outside
            object={object}
            onPlace={(to) =>
              s.step(`Moved ${object.name}`, () => {
                for (const [k, name] of (['position.x', 'position.y'] as const).entries()) {
                  const was = posed.number(name);
                  if (to[k] !== was) setProperty(s, object.id, name, to[k] as number, 'Moved', was);
                }
              })
            }
          />
        </Rest>
      )}
      {s.keying && (
        <p className="text-ink-3 text-[11.5px]">Size, pivot and shape are not keyed: they change the base.</p>
      )}
    </>
  );
}

/** How much of it is seen, and whether. */
function Visible({ object, posed }: { object: SceneObject; posed: Posed }) {
  const s = useSession();
  const set = (property: string, value: PropertyValue, what: string, was: PropertyValue) =>
    setProperty(s, object.id, property, value, what, was);
  return (
    <Row title="Opacity">
      <NumberField
        label="Opacity"
        step={propertyStep('opacity')}
        least={0}
        most={1}
        value={posed.number('opacity')}
        onChange={(n) => set('opacity', n, 'Changed', posed.number('opacity'))}
      />
      <label className="flex items-center gap-1.5 flex-1">
        <input
          type="checkbox"
          checked={posed.number('shown') >= 0.5}
          onChange={(e) =>
            set('shown', e.target.checked, e.target.checked ? 'Showed' : 'Hid', object.base.shown)
          }
        />
        shown
      </label>
    </Row>
  );
}

/** What it says to who points at it, its tags, and what holds while one works on it. */
function Making({ object }: { object: SceneObject }) {
  const s = useSession();
  const toggleOwn = (field: 'locked' | 'guide') =>
    s.edit(`Changed ${object.name}`, (e) =>
      e.update('objects', object.id, (o) => ({ ...o, [field]: !o[field] })),
    );
  return (
    <>
      <label className="flex items-center gap-2">
        <span className="w-16 flex-none">Hint</span>
        <TextField
          label="Hint"
          value={object.hint}
          onChange={(hint) =>
            s.edit(`Changed the hint of ${object.name}`, (e) =>
              e.update('objects', object.id, (o) => ({ ...o, hint })),
            )
          }
        />
      </label>
      <Tags objects={[object]} />
      <Row title="Making">
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={object.locked ?? false} onChange={() => toggleOwn('locked')} />
          locked
        </label>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={object.guide ?? false} onChange={() => toggleOwn('guide')} />
          guide
        </label>
      </Row>
      <button type="button" className="btn" onClick={() => addMachine(s, object.id)}>
        Add a machine to {object.name}
      </button>
    </>
  );
}

const AXES = ['x', 'y', 'z'] as const;

const sameScale = (a: { object: SceneObject; now: Vec3 }, b: { object: SceneObject; now: Vec3 }) =>
  a.object.id === b.object.id &&
  a.object.kind === b.object.kind &&
  a.object.name === b.object.name &&
  a.now.every((n, k) => n === b.now[k]);

/** All axes of the scale at once, which keep their proportions. What is flat has no depth to scale. */
const ScaleAll = memo(function ScaleAll({ object, now }: { object: SceneObject; now: Vec3 }) {
  const s = useSession();
  const scaled =
    isSolid(object) || object.kind === 'group' || object.kind === 'instance' ? now : now.slice(0, 2);
  const [first] = now;
  return (
    <NumberField
      short
      axis="all"
      label="Scale, all"
      step={0.1}
      value={first}
      mixed={scaled.some((n) => n !== first)}
      onChange={(to) => {
        const scale = (n: number) => (first === 0 ? to : Math.round((n * to * 1e6) / first) / 1e6);
        const changes = (of: (n: number) => number) =>
          scaled.map((n, k) => [`scale.${AXES[k]}`, of(n)] as const);
        s.step(`Scaled ${object.name}`, () => {
          keyMoves(s, [{ object: object.id, changes: changes((n) => n) }]);
          setProperties(
            s,
            `Scaled ${object.name}`,
            [{ object: object.id, changes: changes(scale) }],
            'fields',
          );
        });
      }}
    />
  );
}, sameScale);

/** A property is set in its field: in the base, or keyed, with what it was at the clip's start. One step. */
function setProperty(
  s: Session,
  object: string,
  property: string,
  value: PropertyValue,
  what: string,
  was: PropertyValue,
): void {
  const name = `${what} ${s.store.get('objects', object)?.name}`;
  s.step(name, () => {
    keyMoves(s, [{ object, changes: [[property, was]] }]);
    setProperties(s, name, [{ object, changes: [[property, value]] }], 'fields');
  });
}

/** One axis of a vector: drawn anew only when its own number is another. */
const AxisField = memo(function AxisField(props: {
  object: string;
  property: string;
  label: string;
  what: string;
  value: number;
  keyed: boolean;
}) {
  const { object, property, label, what, value, keyed } = props;
  const s = useSession();
  return (
    <NumberField
      short
      {...(property.includes('.') ? { axis: property.slice(-1) } : {})}
      label={label}
      value={value}
      step={propertyStep(property)}
      keyed={keyed}
      onChange={(n) => setProperty(s, object, property, n, what, value)}
      onPoint={(on) => s.set({ axis: on ? property : null })}
    />
  );
});

/** Whether two records differ only in the base, and there not in this part of it. */
const sameBut = (part: 'pivot' | 'fill') => (a: { object: SceneObject }, b: { object: SceneObject }) => {
  const [x, y] = [
    a.object as unknown as Record<string, unknown>,
    b.object as unknown as Record<string, unknown>,
  ];
  return (
    a.object.base[part] === b.object.base[part] &&
    Object.keys({ ...x, ...y }).every((k) => k === 'base' || x[k] === y[k])
  );
};

/** Fill and stroke of what is shown. While keying, a colour is a key; else it belongs to the drawing that is shown. */
const Paint = memo(function Paint({ object }: { object: SceneObject }) {
  const s = useSession();
  return (
    <PaintDetails
      object={object}
      onFill={(v) => {
        const { id } = object;
        const o = s.store.get('objects', id);
        if (!o) return;
        const keyed = s.open?.clip.tracks.some((t) => t.object === id && t.property === 'fill');
        if (s.keying || keyed) setProperty(s, id, 'fill', v, 'Coloured', fillColor(o.base.fill) ?? '#000000');
        else
          s.edit(`Coloured ${o.name}`, (e) =>
            e.update('objects', id, (x) => editDrawing(x, (d) => ({ ...d, base: { ...d.base, fill: v } }))),
          );
      }}
    />
  );
}, sameBut('fill'));

const Pivot = memo(function Pivot({ object }: { object: SceneObject }) {
  const s = useSession();
  const [least, greatest] = boundsOf(object);
  /** The least side, the middle or the greatest side of an axis, for −1, 0, 1. */
  const side = (k: 0 | 1, way: number) => (least[k] * (1 - way) + greatest[k] * (1 + way)) / 2;
  const p = object.base.pivot;
  const move = (to: Vec3) => s.movePivot(object.id, to, 'fields');
  const words = [
    ['bottom', 'middle', 'top'],
    ['left', 'centre', 'right'],
  ] as const;
  return (
    <div className="flex gap-3 items-start">
      <div className="w-16 flex-none">
        <h3 className="text-[13px] mb-1">Pivot</h3>
        {!isBare(object) && (
          <fieldset className="grid grid-cols-3 w-11" aria-label="Pivot at">
            {[1, 0, -1].flatMap((y) =>
              [-1, 0, 1].map((x) => {
                const here = Math.abs(p[0] - side(0, x)) < 0.01 && Math.abs(p[1] - side(1, y)) < 0.01;
                return (
                  <button
                    key={`${x}${y}`}
                    type="button"
                    className="w-[14px] h-[14px] grid place-items-center"
                    aria-label={`Pivot ${words[0][y + 1]} ${words[1][x + 1]}`}
                    aria-pressed={here}
                    onClick={() => move([side(0, x), side(1, y), p[2]])}
                  >
                    <span
                      className={`rounded-full ${here ? 'w-2.5 h-2.5 bg-brass' : 'w-1.5 h-1.5 bg-ink-3'}`}
                    />
                  </button>
                );
              }),
            )}
          </fieldset>
        )}
      </div>
      <div className="flex-1 space-y-1.5">
        <div className="flex gap-1.5">
          {p.map((n, k) => (
            <NumberField
              // biome-ignore lint/suspicious/noArrayIndexKey: the axes are fixed
              key={k}
              short
              axis={'xyz'[k] as string}
              label={`Pivot ${'xyz'[k]}`}
              value={n}
              onChange={(to) => move(p.map((x, j) => (j === k ? to : x)) as Vec3)}
            />
          ))}
        </div>
        <button
          type="button"
          className="underline text-ink-2"
          onClick={() => s.set({ tool: 'pivot', swing: s.state.swing === object.id ? null : object.id })}
        >
          show the swing
        </button>
      </div>
    </div>
  );
}, sameBut('pivot'));
