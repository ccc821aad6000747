import {
  drawn,
  editDrawing,
  fillColor,
  isSolid,
  type PropertyField,
  type PropertyInfo,
  type PropertyValue,
  propertyInfo,
  propertyOf,
  propertyStep,
  type SceneObject,
  sizeOf,
} from '@apple-tick/core/model';
import { ZoneDetails } from '../../features/zones/Details.tsx';
import { useSession } from '../../session/hooks.ts';
import { isBare } from '../../session/model-help.ts';
import { type ObjectChange, setProperties } from '../../session/things/properties.ts';
import { FURTHER_ROWS, hasField, PROPERTY_ROWS, propertiesOf } from '../../session/things/property-rows.ts';
import { resizedAboutPivot } from '../../session/things/resize.ts';
import { ColorField } from '../../ui/ColorField.tsx';
import { arithmetic, Heading, NumberField, Row } from '../../ui/fields.tsx';
import { MaskDetails } from './MaskDetails.tsx';
import { Parent } from './Parent.tsx';
import { Reactions } from './Reactions.tsx';
import { Tags } from './Tags.tsx';

/** Several objects at once: a field shows what they share; what is typed is set on each ("+15" adds to each). */
export function ManyDetails({ objects }: { objects: readonly SceneObject[] }) {
  const s = useSession();
  const words = `${objects.length} objects`;
  const setAll = (name: string, list: readonly ObjectChange[]) =>
    setProperties(s, `${name} ${words}`, list, 'fields');
  const each = (property: string, value: PropertyValue): ObjectChange[] =>
    objects.map((o) => ({ object: o.id, changes: [[property, value]] }));
  const box = (label: string, on: (o: SceneObject) => boolean, set: (v: boolean) => void) => (
    <label className="flex items-center gap-1.5">
      <input type="checkbox" checked={objects.every(on)} onChange={(e) => set(e.target.checked)} />
      {label}
    </label>
  );
  const change = (name: string, part: Partial<SceneObject>) =>
    s.edit(`${name} ${words}`, (e) => {
      for (const o of objects) e.update('objects', o.id, (x) => ({ ...x, ...part }) as SceneObject);
    });
  const painted = objects.filter((o) => !isBare(o));
  return (
    <div className="p-3.5 space-y-2">
      <Heading label="" name={words} kind="chosen" />
      <Reactions objects={objects} />
      <ZoneDetails objects={objects} />
      <hr className="border-line" />
      <Parent objects={objects} />
      <SharedRow objects={objects} field="position" />
      <SharedRow objects={objects} field="rotation" />
      <Sizes objects={objects} />
      <SharedRow objects={objects} field="scale" />
      {FURTHER_ROWS.filter((f) => objects.every((o) => hasField(o, f))).map((f) => (
        <SharedRow key={f} objects={objects} field={f} />
      ))}
      <Row title="Opacity">
        <SharedField objects={objects} label="Opacity" property="opacity" what="Changed" />
        {box(
          'shown',
          (o) => o.base.shown,
          (v) => setAll(v ? 'Showed' : 'Hid', each('shown', v)),
        )}
        {painted.length > 0 && (
          <ColorField
            label="Fill"
            step={`Coloured ${words}`}
            value={fillColor((painted[0] as SceneObject).base.fill) ?? '#000000'}
            onChange={(color) =>
              setAll(
                'Coloured',
                each('fill', color).filter((c) => painted.some((o) => o.id === c.object)),
              )
            }
          />
        )}
      </Row>
      <Row title="">
        {box(
          'locked',
          (o) => o.locked ?? false,
          (locked) => change(locked ? 'Locked' : 'Unlocked', { locked }),
        )}
        {box(
          'guide',
          (o) => o.guide ?? false,
          (guide) => change('Changed', { guide }),
        )}
      </Row>
      <MaskDetails objects={objects} />
      <Tags objects={objects} />
    </div>
  );
}

/** Width, height and depth of those that have them; what is typed is set on each, about its own pivot. */
function Sizes({ objects }: { objects: readonly SceneObject[] }) {
  const s = useSession();
  const axes = [0, 1, 2].flatMap((k) => {
    const list = objects
      .map((o) => ({ o, size: sizeOf(drawn(o))[k] as number }))
      .filter(({ o, size }) => size > 0 || (isSolid(drawn(o)) && k === 2));
    return list.length > 0 ? [{ k, list }] : [];
  });
  if (axes.length === 0) return null;
  return (
    <Row title="Size">
      {axes.map(({ k, list }) => (
        <NumberField
          key={k}
          short
          axis={'whd'[k] as string}
          label={`Size ${'whd'[k]}`}
          value={list[0]?.size ?? 0}
          mixed={list.some((x) => x.size !== list[0]?.size)}
          onText={(text) =>
            s.edit(`Sized ${objects.length} objects`, (e) => {
              for (const { o, size } of list) {
                const to = arithmetic(text, size);
                if (to !== null)
                  e.update('objects', o.id, (x) =>
                    editDrawing(x, (d) => resizedAboutPivot(d, k, Math.max(0, Math.min(1e6, to)))),
                  );
              }
            })
          }
        />
      ))}
    </Row>
  );
}

/** The numbers of a property, each as far as the objects share it. */
function SharedRow({ objects, field }: { objects: readonly SceneObject[]; field: PropertyField }) {
  const row = PROPERTY_ROWS[field];
  if (!row) return null;
  return (
    <Row title={row.title}>
      {propertiesOf(field).map((p) => (
        <SharedField
          key={p.name}
          objects={objects}
          label={p.axis === null ? row.title : `${row.title} ${'xyz'[p.axis]}`}
          property={p.name}
          what={row.what}
        />
      ))}
    </Row>
  );
}

/** One number of several objects, empty where they differ; what is typed is worked out on each. */
function SharedField(props: {
  objects: readonly SceneObject[];
  label: string;
  property: string;
  what: string;
}) {
  const { objects, label, property, what } = props;
  const s = useSession();
  const info = propertyInfo(property) as PropertyInfo;
  const values = objects.map((o) => propertyOf(o, info) as number);
  const mixed = values.some((v) => v !== values[0]);
  return (
    <NumberField
      {...(info.axis === null ? {} : { axis: 'xyz'[info.axis] as string, short: true })}
      label={label}
      value={values[0] ?? 0}
      mixed={mixed}
      step={propertyStep(property)}
      onText={(text) => {
        const list = objects.flatMap((o, i): ObjectChange[] => {
          const n = arithmetic(text, values[i] ?? 0);
          if (n === null) return [];
          return [
            {
              object: o.id,
              changes: [[property, info.kind === 'amount' ? Math.max(0, Math.min(1, n)) : n]],
            },
          ];
        });
        if (list.length > 0) setProperties(s, `${what} ${objects.length} objects`, list, 'fields');
      }}
    />
  );
}
