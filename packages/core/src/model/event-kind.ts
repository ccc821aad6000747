/** What the descriptors of events are made with. */
import type { Said } from './common.ts';

export interface EventKind<By extends string = string> extends Said {
  /** The heading under which it is picked. */
  readonly group: string;
  /** What tells one such event from another; the first that is given stands for it in sentences. */
  readonly by: readonly By[];
  /** Of a collider: the role of those that it can happen to. */
  readonly role?: string;
}
type EventRow = readonly [pick: string, says: string, ...by: string[]];
/** Events of one group. `{it}` stands for what the event happens to, `{thing}` for what a zone notices. */
export function events<const R extends Readonly<Record<string, EventRow>>>(
  group: string,
  rows: R,
  {
    role,
    told = {},
  }: Pick<EventKind, 'role'> & { readonly told?: { readonly [K in keyof R]?: string } } = {},
) {
  const made = Object.entries(rows).map(([name, [pick, says, ...by]]) => [
    name,
    { group, pick, says, by, ...(role && { role }), ...(told[name] && { told: told[name] }) },
  ]);
  return Object.fromEntries(made) as {
    readonly [K in keyof R]: EventKind<
      R[K] extends readonly [string, string, ...infer B extends string[]] ? B[number] : never
    >;
  };
}
