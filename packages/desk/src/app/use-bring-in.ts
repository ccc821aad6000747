/**
 * Files on their way into the piece: read one after the other; those that are newer versions of drawings that are there are
 * asked about, the others come in together, as one step.
 */

import type { Result } from '@apple-tick/core/base';
import { isUsual, type NewerPlan } from '@apple-tick/core/formats';
import { knownIds, type Vec3 } from '@apple-tick/core/model';
import type { Remote } from 'comlink';
import { useCallback, useMemo, useRef, useState } from 'react';
import { keepBytes } from '../session/keep/pictures.ts';
import type { Session } from '../session/session.ts';
import { noRoomFor } from '../session/things/arrange.ts';
import { addBrought, drawingOf, takeNewerFile } from '../session/things/brought.ts';
import type { Reader, ReadJob, ReadThings } from '../ui/import-worker.ts';
import { finished, PASTED } from './bring-in.ts';

/** Where files are to come in: a point of the piece, and the object under it. */
interface Place {
  readonly at: Vec3 | null;
  readonly over: string | null;
}

type ThingsJob = Extract<ReadJob, { as: 'things' }>;

/** `whole`: it is the very file, of which a picture is to be kept as large as it is. */
type Said = 'newer' | 'watched' | 'whole';

/** A file, and the object that holds the drawing which it may be a newer version of. */
interface Coming {
  readonly file: File;
  readonly place: Place;
  readonly root: string | null;
  /** It was said that it is newer; or its file is watched, and it is taken without a question where nothing is lost. */
  readonly said?: Said;
}

export interface ReadComing {
  readonly things: ReadThings;
  readonly plan: NewerPlan | null;
  /** The version of the store that the plan was made of. */
  readonly of: number;
}

/** A newer version that was read, and is asked about. */
export interface Asked extends ReadComing {
  readonly coming: Coming;
  readonly plan: NewerPlan;
}

const NOWHERE: Place = { at: null, over: null };

/** The files that are still to be read, the first being read. */
function useQueue(s: Session) {
  const [queue, setQueue] = useState<readonly Coming[]>([]);
  const bringIn = useCallback(
    (files: Iterable<File>, place: Place = NOWHERE) =>
      setQueue((now) => [
        ...now,
        ...[...files].map((file) => ({ file, place, root: mayBeOf(s, file, place) })),
      ]),
    [s],
  );
  const newer = useCallback(
    (root: string, file: File, said: Said = 'newer') =>
      setQueue((now) => [...now, { file, root, said, place: NOWHERE }]),
    [],
  );
  return { queue, setQueue, bringIn, newer };
}

/** Tells what is wrong with a watched file, and goes on without it. */
const useRefuse = (s: Session, skip: () => void) =>
  useCallback(
    (words: string) => {
      s.set({ notice: `The watched file cannot be read: ${words}` });
      skip();
    },
    [s, skip],
  );

/** Files of pictures that are kept smaller, by their hash; and what keeps one of a drawing whole: false where it is not known. */
function useWholes(s: Session, newer: (root: string, file: File, said: Said) => void) {
  const files = useRef(new Map<string, File>());
  const whole = useCallback(
    (root: string) => {
      const file = files.current.get(s.store.get('objects', root)?.brought?.file?.hash ?? '');
      if (file) newer(root, file, 'whole');
      return file !== undefined;
    },
    [s, newer],
  );
  return [files, whole] as const;
}

export function useBringIn(s: Session) {
  const { queue, setQueue, bringIn, newer } = useQueue(s);
  const [got, setGot] = useState<readonly ReadThings[]>([]);
  const [asked, setAsked] = useState<Asked | null>(null);
  /** A model that is finer than can be drawn, as it was read. */
  const [fine, setFine] = useState<ReadThings | null>(null);
  const [files, whole] = useWholes(s, newer);
  const coming = queue[0];
  const job = useMemo<ThingsJob | null>(() => {
    if (!coming || asked) return null;
    const was = coming.root === null ? undefined : s.store.get('objects', coming.root)?.brought?.file;
    const known = [
      ...knownIds(s.store),
      ...got.flatMap((x) => [...x.objects, ...x.assets, ...(x.clips ?? [])].map((o) => o.id)),
    ];
    const of = { seen: was?.seen, faces: was?.faces, whole: coming.said === 'whole' };
    return { as: 'things', file: coming.file, known, room: s.store.head.frame, ...of };
  }, [s, coming, asked, got]);

  /** The next of the queue; with the last of it all that was read comes in. */
  const next = useCallback(
    (all: readonly ReadThings[]) => {
      setAsked(null);
      setFine(null);
      setQueue((now) => (now[0] === coming ? now.slice(1) : now));
      const isLast = queue.length <= 1;
      if (isLast && all.length > 0) addBrought(s, all, coming?.place.at ?? null);
      setGot(isLast ? [] : all);
    },
    [s, coming, queue.length, setQueue],
  );
  const skip = useCallback(() => next(got), [next, got]);
  const refuse = useRefuse(s, skip);
  /** It is read once more: the piece has changed since. */
  const again = useCallback(
    () => setQueue((now) => (now[0] ? [{ ...now[0] }, ...now.slice(1)] : now)),
    [setQueue],
  );
  /** The file comes in beside what is there, as another drawing. */
  const beside = useCallback(() => {
    setAsked(null);
    setQueue((now) => (now[0] ? [{ ...now[0], root: null }, ...now.slice(1)] : now));
  }, [setQueue]);
  const check = useCallback(
    (read: ReadThings, reader: Remote<Reader>) => compared(s, read, reader, coming?.root ?? null),
    [s, coming],
  );
  const take = useCallback(
    async ({ things, plan, of }: ReadComing) => {
      if (!coming) return null;
      const more = got.reduce((n, x) => n + x.objects.length, things.objects.length);
      const refused = (await keepBytes(things.bytes)) ?? noRoomFor(s, plan ? plan.adds.length : more);
      if (refused !== null) return refused;
      if (things.file.scaledFrom) files.current.set(things.file.hash, coming.file);
      if (!plan && things.faces && things.faces.has < things.faces.had) setFine(things);
      else if (!plan) next([...got, things]);
      else if (coming.said === undefined && !isNewer(s, coming, plan, things)) beside();
      else if (of !== s.store.version || s.gesture) again();
      else if (plan.rows.length === 0 || coming.said === 'watched' || coming.said === 'whole') {
        const left = plan.rows.filter((r) => !isUsual(r)).map((r) => r.id);
        takeNewerFile(s, plan, new Set(left), coming.file.name);
        if (coming.said === 'whole' && plan.rows.some((r) => r.fields.length > 0)) s.set({ notice: '' });
        skip();
      } else setAsked({ coming, things, plan, of });
      return null;
    },
    [s, coming, got, next, skip, beside, again, files.current.set],
  );
  const takeFine = useCallback((things: ReadThings) => next([...got, things]), [next, got]);
  const replace = useCallback(
    (left: ReadonlySet<string>) => {
      if (asked) takeNewerFile(s, asked.plan, left, asked.coming.file.name);
      skip();
    },
    [s, asked, skip],
  );
  return {
    bringIn,
    newer,
    whole,
    more: Math.max(0, queue.length - 1),
    /** A watched file is read without a word, unless something is wrong with it. */
    refuse: coming?.said === 'watched' ? refuse : undefined,
    job: fine ? null : job,
    /** What a model is asked about by, and as it was read. */
    fine: fine && job ? { job, things: fine } : null,
    takeFine,
    check,
    take,
    skip,
    asked,
    replace,
    beside,
  };
}

/** What was read with all that only the page can do of it, and what it would change of the drawing that `root` holds. */
async function compared(
  s: Session,
  read: ReadThings,
  reader: Remote<Reader>,
  root: string | null,
): Promise<Result<ReadComing>> {
  const things = await finished(read, reader);
  if (!things.ok) return things;
  const of = s.store.version;
  const isDrawing = root !== null && things.value.objects.length > 0;
  const plan = isDrawing ? await reader.newer(s.piece(), s.store.scope, root, things.value) : null;
  return { ok: true, value: { things: things.value, plan, of } };
}

/** The drawing that a file may be a newer version of: that which it is dropped on, or that came from a file of its name. */
function mayBeOf(s: Session, file: File, { over }: Place): string | null {
  const { object } = s.state;
  const isAlike = (id: string | null) => {
    const root = drawingOf(s.store, id);
    return root && endOf(root.brought?.file?.name ?? '') === endOf(file.name) ? root.id : null;
  };
  const chosen = isAlike(object);
  if (file.name === PASTED) return chosen;
  const ofName = s.store.all('objects').filter((o) => o.brought?.file?.name === file.name);
  return isAlike(over) ?? ofName.find((o) => o.id === chosen)?.id ?? ofName[0]?.id ?? null;
}

const endOf = (name: string) => name.replace(/^.*\./, '').toLowerCase();

/**
 * Whether a file that nobody said so of is a newer version: half of it was found again, and it differs. The very same file is
 * another copy, unless it is dropped on the drawing.
 */
function isNewer(s: Session, { place, root }: Coming, plan: NewerPlan, things: ReadThings): boolean {
  if (plan.found * 2 <= things.objects.length) return false;
  return plan.rows.length > 0 || drawingOf(s.store, place.over)?.id === root;
}
