/** Failures that users cause are values: a place and one plain sentence each. Throwing is for our own mistakes. */
export interface Problem {
  /** Machine-readable kind, e.g. `type`, `reference`, `cycle`. */
  readonly code: string;
  /** Where in the file, e.g. `clips.cl_tip.tracks[0].object`; empty for the whole. */
  readonly path: string;
  /** One plain sentence. */
  readonly message: string;
}

export type Result<T> =
  | { readonly ok: true; readonly value: T }
  | { readonly ok: false; readonly problems: readonly Problem[] };

export function failed(...problems: readonly Problem[]): Result<never> {
  return { ok: false, problems };
}

/** A problem as one line: its place, then its sentence. */
export function problemLine(p: Problem): string {
  return p.path === '' ? p.message : `${p.path}: ${p.message}`;
}
