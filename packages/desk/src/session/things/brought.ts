/** What was read from files, put into the piece; and drawings that know which file they came from. */
import {
  addTemplates,
  asInstances,
  Copies,
  type NewerPlan,
  takeNewer,
  type Uses,
} from '@apple-tick/core/formats';
import {
  type Asset,
  type BroughtFile,
  type Clip,
  compareSiblings,
  namer,
  orderBetween,
  removeWithReferences,
  type SceneObject,
  subtreeOf,
  uniqueName,
  type Vec3,
} from '@apple-tick/core/model';
import { ancestorsOf, type PieceStore, topOf } from '../model-help.ts';
import type { Session } from '../session.ts';
import { inParent } from './arrange.ts';
import { type Box, drawnBox } from './box.ts';

/** What one file holds: parents before children, the first holding all; none when it is a sound. */
export interface BroughtThings {
  readonly objects: readonly SceneObject[];
  readonly assets: readonly Asset[];
  readonly clips?: readonly Clip[];
  readonly uses?: readonly Uses[];
  readonly notes: readonly string[];
  readonly file: Pick<BroughtFile, 'name' | 'scaledFrom'>;
}

/** Px between drawings that are laid side by side. */
const APART = 20;

/** Puts what several files hold into the piece, side by side about `at` (px of the piece), as one step. */
export function addBrought(s: Session, all: readonly BroughtThings[], at: Vec3 | null): void {
  if (s.state.readOnly)
    return s.set({ notice: 'This tab only looks on: bring it in where the piece is edited.' });
  const [first] = all;
  if (!first) return;
  const drawings = all.filter((x) => x.objects.length > 0);
  const [name] = first.objects[0] ? [first.objects[0].name] : [first.assets[0]?.name ?? first.file.name];
  const roots: string[] = [];
  const sounds: string[] = [];
  s.step(all.length === 1 ? `Brought in ${name}` : `Brought in ${all.length} files`, () => {
    for (const things of all) {
      const root = things.objects[0];
      if (root) roots.push(addDrawing(s, root, things));
      else sounds.push(...addSound(s, things.assets));
    }
    if (at || roots.length > 1) layOut(s, roots, at ?? [0, 0, 0]);
  });
  const [sound] = sounds;
  if (roots.length > 0) s.selectMany(roots);
  else if (sound !== undefined) s.select({ kind: 'sound', id: sound });
  s.set({ notice: drawings.length === 0 && all.length === 1 ? '' : told(all) });
}

/** What came in, and what of it was left out or taken otherwise: which of the drawings keeps. */
function told(all: readonly BroughtThings[]): string {
  const n = all.reduce((sum, x) => sum + (x.objects.length === 0 ? 1 : Math.max(1, x.objects.length - 1)), 0);
  const things = all.some((x) => x.objects.length === 0) ? 'thing' : 'object';
  const made = `${n === 1 ? `One ${things} was` : `${n} ${things}s were`} brought in${all.length > 1 ? `, of ${all.length} files` : ''}.`;
  const moves = clipsWords(all.flatMap((x) => x.clips ?? []));
  const smaller = all.some((x) => x.file.scaledFrom)
    ? ' A large picture is kept smaller; its section File keeps it as it is.'
    : '';
  const noted = all.filter((x) => x.notes.length > 0);
  if (noted.length === 0) return made + moves + smaller;
  const notes = noted.map((x) => (all.length > 1 ? `${x.file.name}: ` : '') + x.notes.join(', '));
  return `${made}${moves}${smaller} Left out or taken otherwise: ${notes.join('; ')}.`;
}

const clipsWords = (clips: readonly Clip[]) =>
  clips.length === 0
    ? ''
    : ` ${clips.map((c) => c.name).join(', ')} came as ${clips.length === 1 ? 'a clip' : 'clips'}.`;

function addDrawing(s: Session, root: SceneObject, things: BroughtThings): string {
  const parent = topOf(s.store);
  const siblings = s.store.all('objects').filter((o) => o.parent === parent);
  const name = uniqueName(root.name, new Set(siblings.map((o) => o.name)));
  const order = orderBetween(siblings.sort(compareSiblings).at(-1)?.order ?? null, null);
  s.edit(`Brought in ${name}`, (e) => {
    for (const a of things.assets) e.add('assets', a);
    const copies = new Copies(things.objects, things.assets);
    const lists = copies.alike(things.uses ?? []);
    const { objects, templates } = asInstances(things.objects, copies, lists, (kind) => s.newId(kind));
    addTemplates(e, templates);
    for (const o of objects) e.add('objects', o === root ? { ...o, name, order, parent } : o);
    const free = namer(s.store.all('clips').map((c) => c.name));
    for (const c of things.clips ?? []) e.add('clips', { ...c, name: free(c.name) });
  });
  return root.id;
}

function addSound(s: Session, assets: readonly Asset[]): string[] {
  const [asset] = assets;
  if (!asset) return [];
  const id = s.newId('sounds');
  const name = uniqueName(asset.name, new Set(s.store.all('sounds').map((o) => o.name)));
  s.edit(`Brought in ${name}`, (e) => {
    e.add('assets', asset);
    e.add('sounds', { id, name, asset: asset.id });
  });
  return [id];
}

/** Moves drawings into a row whose middle is at a point of the piece. */
function layOut(s: Session, roots: readonly string[], at: Vec3): void {
  const to = inParent(s, topOf(s.store), at);
  const boxes = roots.map((id): Box => drawnBox(s.store, id, topOf(s.store)) ?? { least: to, most: to });
  const width = boxes.reduce((w, b) => w + b.most[0] - b.least[0], APART * (boxes.length - 1));
  let x = to[0] - width / 2;
  s.edit('Laid side by side', (e) => {
    for (const [i, id] of roots.entries()) {
      const { least, most } = boxes[i] as Box;
      const by = [x - least[0], to[1] - (least[1] + most[1]) / 2, 0];
      x += most[0] - least[0] + APART;
      e.update('objects', id, (o) => ({
        ...o,
        base: { ...o.base, position: o.base.position.map((n, k) => whole(n + (by[k] as number))) as Vec3 },
      }));
    }
  });
}

const whole = (n: number) => Math.round(n * 10) / 10;

/** The object that holds the drawing which an object is of; undefined where it came from no file. */
export function drawingOf(store: PieceStore, id: string | null): SceneObject | undefined {
  if (id === null) return undefined;
  for (const at of [id, ...ancestorsOf(store, id)]) {
    const o = store.get('objects', at);
    if (o?.brought?.file) return o;
  }
  return undefined;
}

/** Pictures that were painted of parts of a file, at an object and below it. */
export function paintedIn(s: Session, id: string): SceneObject[] {
  const inside = subtreeOf(s.store, id);
  return s.store.everywhere('objects').filter((o) => inside.has(o.id) && o.brought?.painted !== undefined);
}

/** Takes them out, as one step; what was taken out stays so with newer versions. */
export function takeOutPainted(s: Session, of: SceneObject, painted: readonly SceneObject[]): void {
  s.edit(`Took out what was painted of ${of.name}`, (e) =>
    removeWithReferences(
      e,
      painted.map((o) => o.id),
    ),
  );
}

/** Takes a newer version of a drawing, but for the rows `left`, as one step. */
export function takeNewerFile(s: Session, plan: NewerPlan, left: ReadonlySet<string>, file: string): void {
  if (plan.rows.length > 0 || plan.clips.length > 0)
    s.edit(`Replaced with a newer ${file}`, (e) => takeNewer(e, plan, left));
  const n = plan.rows.filter((r) => !left.has(r.id) && (r.kind !== 'changed' || r.fields.length > 0)).length;
  s.set({
    notice:
      n === 0 && plan.clips.length === 0
        ? `Nothing in ${file} differs.`
        : `${file} was read again: ${n === 1 ? 'one part differs' : `${n} parts differ`}.${clipsWords(plan.clips)}`,
  });
}
