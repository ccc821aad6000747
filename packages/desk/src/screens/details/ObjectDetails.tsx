import {
  drawn,
  editDrawing,
  fillColor,
  isSolid,
  type PropertyValue,
  propertyStep,
  type SceneObject,
  sizeOf,
  type Vec3,
} from '@apple-tick/core/model';
import { memo } from 'react';
import { DragDetails, FollowDetails } from '../../features/follows/Details.tsx';
import { FacesDetails } from '../../features/solids/Details.tsx';
import { InstanceDetails } from '../../features/templates/InstanceDetails.tsx';
import { VisitorDetails } from '../../features/visitor/Details.tsx';
import { ZoneDetails } from '../../features/zones/Details.tsx';
import { useSession } from '../../session/hooks.ts';
import { isBare, KIND_WORDS } from '../../session/model-help.ts';
import { addMachine } from '../../session/motion/machines.ts';
import { renameObject } from '../../session/things/arrange.ts';
import { FURTHER_ROWS, hasField } from '../../session/things/property-rows.ts';
import { resizedAboutPivot } from '../../session/things/resize.ts';
import { Heading, NumberField, Row, TextField } from '../../ui/fields.tsx';
import { Rest } from '../../ui/Rest.tsx';
import { ByHand } from './ByHand.tsx';
import { FileDetails } from './FileDetails.tsx';
import { LooksDetails } from './LooksDetails.tsx';
import { HitDetails, MaskDetails, OverlayDetails } from './MaskDetails.tsx';
import { Outside } from './Outside.tsx';
import { BlendField, PaintDetails } from './PaintDetails.tsx';
import { Parent } from './Parent.tsx';
import { Pivot } from './PivotDetails.tsx';
import { AXES, PropertyRow, ScaleAll, setProperty } from './PropertyFields.tsx';
import { type Posed, usePosed } from './posed.ts';
import { Reactions } from './Reactions.tsx';
import { ShapeDetails } from './ShapeDetails.tsx';
import { sameBut } from './same-but.ts';
import { Tags } from './Tags.tsx';
import { Written } from './Written.tsx';

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
      {FURTHER_ROWS.filter((field) => hasField(object, field)).map((field) => (
        <PropertyRow key={field} object={object.id} field={field} posed={posed} />
      ))}
      {!isBare(object) && <Paint object={filled} />}
      <BlendField object={object} />
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
        <FileDetails object={object} />
        <Making object={object} />
      </Rest>
    </div>
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
