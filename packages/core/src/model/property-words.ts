/** What properties are called, and what their numbers are told in: for who shows them, not for who runs a piece. */

const NAMES: Readonly<Record<string, readonly [label: string, unit: string]>> = {
  position: ['place', 'px'],
  rotation: ['turn', '°'],
  scale: ['scale', '×'],
  pivot: ['pivot', 'px'],
  text: ['words', ''],
};

/** The property in words: "place x". A name that is no property stays as it is. */
export function propertyLabel(name: string): string {
  const [field, axis] = name.split('.') as [string, string?];
  const label = NAMES[field]?.[0] ?? field;
  return axis === undefined ? label : `${label} ${axis}`;
}

/** The unit of its numbers; empty where they have none. */
export function propertyUnit(name: string): string {
  return NAMES[name.split('.')[0] as string]?.[1] ?? '';
}
