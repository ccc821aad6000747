/** Numbers of an object as they are posed, each in its field. */
import {
  isSolid,
  type PropertyField,
  type PropertyValue,
  propertyStep,
  type SceneObject,
  type Vec3,
} from '@apple-tick/core/model';
import { memo, type ReactNode } from 'react';
import { useSession } from '../../session/hooks.ts';
import type { Session } from '../../session/session.ts';
import { keyMoves, setProperties } from '../../session/things/properties.ts';
import { PROPERTY_ROWS, propertiesOf } from '../../session/things/property-rows.ts';
import { NumberField, Row } from '../../ui/fields.tsx';
import type { Posed } from './posed.ts';

/** The numbers of a property, each in its field; before them what is set of all at once. */
export function PropertyRow(props: {
  object: string;
  field: PropertyField;
  posed: Posed;
  children?: ReactNode;
}) {
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

export const AXES = ['x', 'y', 'z'] as const;

const sameScale = (a: { object: SceneObject; now: Vec3 }, b: { object: SceneObject; now: Vec3 }) =>
  a.object.id === b.object.id &&
  a.object.kind === b.object.kind &&
  a.object.name === b.object.name &&
  a.now.every((n, k) => n === b.now[k]);

/** All axes of the scale at once, which keep their proportions. What is flat has no depth to scale. */
export const ScaleAll = memo(function ScaleAll({ object, now }: { object: SceneObject; now: Vec3 }) {
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
export function setProperty(
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
