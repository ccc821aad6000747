/** Copies as text, so that they reach other pieces and other tabs. Read back only when they are a sound piece. */
import { readPieceJson, toZod } from '@apple-tick/core/check';
import {
  DOINGS,
  type Doings,
  type Excerpt,
  emptyPiece,
  fitsProperty,
  type KeyCopy,
  type Piece,
  RECORDS,
  valueInfo,
} from '@apple-tick/core/model';

const MARK = 'apple-tick-copy';

export function excerptText(x: Excerpt): string {
  return JSON.stringify({ [MARK]: 1, ...x });
}

/** The excerpt in a pasted text, or null when there is none or it is not sound. */
export function readExcerpt(text: string): Excerpt | null {
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch {
    return null;
  }
  if (typeof json !== 'object' || json === null || !(MARK in json)) return null;
  const { roots, records, doings } = json as { roots?: unknown; records?: Partial<Piece>; doings?: unknown };
  if (!Array.isArray(roots) || typeof records !== 'object') return null;
  const objects = { ...records.objects };
  // What is copied out of a group is a piece of its own here: its roots have no parent.
  for (const id of roots) {
    const o = Object.hasOwn(objects, id) ? objects[id] : undefined;
    if (!o) return null;
    objects[id] = { ...o, parent: null };
  }
  const names = new Set<string>();
  for (const id of roots as string[]) {
    const o = objects[id] as Piece['objects'][string];
    let { name } = o;
    for (let n = 2; names.has(name); n++) name = `${o.name} ${n}`;
    names.add(name);
    objects[id] = { ...o, name };
  }
  const whole = { ...emptyPiece('copy', 'Copy'), ...records, objects };
  const read = readPieceJson(whole);
  // References that lead out of the copy are looked after when it is put in; all else must be right.
  const needed = /\.(parent|asset|root|object)$/;
  if (
    !read.ok &&
    read.problems.some(
      (p) => p.code !== 'reference' || (p.path.startsWith('objects.') && needed.test(p.path)),
    )
  )
    return null;
  return {
    roots,
    ...(isDoings(doings) ? { doings } : {}),
    records: read.ok ? read.value : (whole as Excerpt['records']),
  };
}

const isDoings = (x: unknown): x is Doings => (DOINGS as readonly unknown[]).includes(x);

/** Whether copied keys are what the tracks of a clip may hold. */
export function areSoundKeys({ tracks }: KeyCopy): boolean {
  const clip = { id: 'cl_copy', name: 'copy', root: 'ob_copy', duration: 0, loop: 'once', tracks, cues: [] };
  return (
    toZod(RECORDS.clips).safeParse(clip).success &&
    tracks.every((t) => {
      const info = valueInfo(t.property);
      return (
        info !== undefined &&
        t.keys.every(
          (k, i) =>
            fitsProperty(info, k.value) && (i === 0 || k.t > (t.keys[i - 1]?.t ?? Number.POSITIVE_INFINITY)),
        )
      );
    })
  );
}
