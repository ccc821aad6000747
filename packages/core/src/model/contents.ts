/** The tables that a template has of its own: apart from the schemas, for who only runs a piece. */
export const CONTENTS = [
  'objects',
  'clips',
  'signals',
  'machines',
  'reactions',
  'follows',
  'colliders',
  'cueSheets',
] as const;
export type ContentName = (typeof CONTENTS)[number];
export const isContent = (table: string): table is ContentName =>
  (CONTENTS as readonly string[]).includes(table);
