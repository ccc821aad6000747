/** How each property stands among the properties of an object or of several. A property that is not here does not compile. */
import {
  PROPERTIES,
  type PropertyField,
  type PropertyInfo,
  propertyOf,
  type SceneObject,
} from '@apple-tick/core/model';

export interface PropertyRow {
  readonly title: string;
  /** What a step of the history says: "Moved Door". */
  readonly what: string;
}

/** Null: it has an editor of its own. */
export const PROPERTY_ROWS: Readonly<Record<PropertyField, PropertyRow | null>> = {
  position: { title: 'Place', what: 'Moved' },
  rotation: { title: 'Turn °', what: 'Turned' },
  scale: { title: 'Scale', what: 'Scaled' },
  opacity: { title: 'Opacity', what: 'Changed' },
  pivot: null,
  shown: null,
  fill: null,
  look: null,
  text: null,
  dashStart: { title: 'Dashes from', what: 'Moved the dashes of' },
};

/** The numbers of a field: one, or one for each axis. */
export const propertiesOf = (field: PropertyField): readonly PropertyInfo[] =>
  PROPERTIES.filter((p) => p.field === field);

/** Whether an object has the property: what has no dashes has no place where they begin. */
export const hasField = (o: SceneObject, field: PropertyField): boolean =>
  propertiesOf(field).every((p) => propertyOf(o, p) !== null);

/** Fields with a row of numbers that stand nowhere in particular: they come after the others. */
export const FURTHER_ROWS: readonly PropertyField[] = (Object.keys(PROPERTY_ROWS) as PropertyField[]).filter(
  (f) => PROPERTY_ROWS[f] !== null && !['position', 'rotation', 'scale', 'opacity'].includes(f),
);
