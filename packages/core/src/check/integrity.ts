/** What types cannot say: references that lead somewhere, a tree without cycles, names that are unique. */
import type { Problem } from '../base/result.ts';
import { type Schema, visitProperties } from '../grammar/index.ts';
import {
  type AnyRecord,
  type Asset,
  CONTENTS,
  type Collider,
  canOffset,
  EVENTS,
  type EventName,
  type Look,
  MAX_NESTING,
  MAX_WRITTEN_OUT,
  type Piece,
  planOf,
  RECORDS,
  type RefKind,
  type SceneObject,
  type SheetCue,
  sceneObjectSchema,
  TABLES,
  type TableName,
  type Template,
  valueInfo,
  visitReferences,
  withWholeLook,
} from '../model/index.ts';
import { checkClip, checkProperty } from './integrity-clips.ts';
import { checkLanes, checkOn, checkSignals } from './integrity-lanes.ts';
import { type Add, ASSET_WORD, contentsOf, KIND_WORD, Known, type Scope } from './known.ts';
import { toZod } from './to-zod.ts';

/** All problems of a piece that already has the right types, in the order of the file. */
export function checkIntegrity(piece: Piece): Problem[] {
  const problems: Problem[] = [];
  const add: Add = (code, path, message) => problems.push({ code, path, message });
  const count = Object.keys(piece.objects).length;
  if (count > MAX_OBJECTS)
    add('size', 'objects', `The piece holds ${count} objects; at most ${MAX_OBJECTS} can be worked on.`);
  const known = new Known(piece, add);
  checkScope({ piece, all: piece, template: null, known, at: '' }, TABLES, add);
  for (const t of Object.values(piece.templates)) {
    // What lies in a template knows of the piece besides: but for the tables that are its own.
    const all = { ...piece, ...contentsOf(t), signals: { ...piece.signals, ...t.signals } };
    const scope = { piece, all, template: t, known, at: `templates.${t.id}.` };
    checkScope(scope, CONTENTS, (code, path, message) => add(code, `templates.${t.id}.${path}`, message));
  }
  checkTemplates(piece, add);
  checkVisitor(piece, add);
  return problems;
}

/** What is wrong in the tables of the piece, or of a template; paths begin there. */
function checkScope(scope: Scope, tables: readonly TableName[], add: Add): void {
  const { piece, template, known } = scope;
  const own = template === null ? piece : { ...piece, ...contentsOf(template) };
  for (const table of tables) {
    for (const [key, record] of Object.entries(own[table]) as [string, AnyRecord][]) {
      const at = `${table}.${key}`;
      if (record.id !== key)
        add('id', `${at}.id`, `The id "${record.id}" differs from the key "${key}" it is stored under.`);
      visitReferences(table, record as never, (kind, id, path, only) => {
        const home = known.homeOf(kind, id, template?.id ?? null);
        if (home === undefined)
          add('reference', `${at}${path}`, `There is no ${KIND_WORD[kind]} with the id "${id}".`);
        else if (kind === 'colliders' && !path.startsWith('.colliders'))
          checkRole(known.record('colliders', id, home), eventAt(record, path), `${at}${path}`, add);
        else if (only !== undefined) checkOnly(known, kind, id, home, only, `${at}${path}`, add);
      });
      visitProperties(RECORDS[table] as Schema, record, (name, path) =>
        checkProperty(scope, name, holderAt(record, path), `${at}${path}`, add),
      );
    }
  }
  checkTree(own, add);
  checkZones(own, add);
  for (const o of Object.values(own.objects))
    o.looks?.forEach((l, i) => {
      const problem = lookProblem(o, l);
      if (problem)
        add(
          'look',
          `objects.${o.id}.looks[${i}]`,
          `The look "${l.name}" does not suit its object: ${problem}.`,
        );
    });
  checkNames(own, template === null ? ['signals', 'messages', 'tags', 'templates'] : ['signals'], add);
  for (const c of Object.values(own.clips)) checkClip(scope, c, add);
  checkLanes(own, add);
  checkSignals(own, add);
  for (const { id, target } of Object.values(own.follows)) {
    const info = 'object' in target ? valueInfo(target.property) : undefined;
    if (info && !canOffset(info) && info.kind !== 'text')
      add('property', `follows.${id}.target.property`, `The property "${info.name}" cannot follow a number.`);
  }
  checkSheets(scope, own, add);
  for (const r of Object.values(own.reactions)) checkOn(r.on, `reactions.${r.id}.on`, true, add);
  for (const o of Object.values(own.objects)) {
    if (o.parent !== null && own.objects[o.parent]?.kind === 'instance')
      add('parent', `objects.${o.id}.parent`, 'An instance holds what its template does, and nothing else.');
  }
}

/** What holds the field at a path of a record. */
function holderAt(record: AnyRecord, path: string): Record<string, unknown> {
  let holder: unknown = record;
  const keys = path.split(/[.[\]]+/).filter((k) => k !== '');
  for (const key of keys.slice(0, -1)) holder = (holder as Record<string, unknown>)[key];
  return holder as Record<string, unknown>;
}

/** Templates that hold themselves, lie too deep in one another, or make too much of it. */
function checkTemplates(piece: Piece, add: Add): void {
  const { templates } = piece;
  const inside = (objects: Piece['objects']) =>
    Object.values(objects).flatMap((o) => (o.kind === 'instance' ? [o.template] : []));
  interface Measure {
    /** The objects that one of the template is written out to, with its group; and how deep templates lie in it, itself 1. */
    readonly size: number;
    readonly height: number;
  }
  const measured = new Map<string, Measure>();
  const told = new Set<string>();
  const tell = (outer: string, predicate: boolean) => {
    if (told.has(outer)) return;
    told.add(outer);
    add(
      'nesting',
      `templates.${outer}`,
      predicate
        ? `The template "${templates[outer]?.name}" holds itself.`
        : `Templates lie in one another at most ${MAX_NESTING} deep.`,
    );
  };
  /** Each template is gone into once, however often it lies in others. */
  const measure = (id: string, above: readonly string[]): Measure => {
    const [outer = id] = above;
    if (above.includes(id)) {
      tell(outer, true);
      return { size: 1, height: 1 };
    }
    const known = measured.get(id);
    if (known || above.length >= MAX_NESTING || !templates[id]) {
      const height = known?.height ?? 1;
      if (above.length + height > MAX_NESTING) tell(outer, false);
      return known ?? { size: 1, height };
    }
    const objects = (templates[id] as Template).objects;
    let size = Object.keys(objects).length + 1;
    let height = 1;
    for (const x of inside(objects)) {
      const m = measure(x, [...above, id]);
      size += m.size;
      height = Math.max(height, m.height + 1);
    }
    const made = { size, height };
    measured.set(id, made);
    return made;
  };
  for (const t of Object.values(templates)) {
    const roots = Object.values(t.objects).filter((o) => o.parent === null).length;
    if (roots !== 1)
      add('root', `templates.${t.id}.objects`, 'A template holds exactly one object that lies in no other.');
    measure(t.id, []);
  }
  const own = Object.keys(piece.objects).length;
  const all = inside(piece.objects).reduce((sum, id) => sum + measure(id, []).size, own);
  if (all > MAX_WRITTEN_OUT)
    add(
      'size',
      'templates',
      `With its instances the piece holds ${all} objects; at most ${MAX_WRITTEN_OUT} can be shown.`,
    );
}

/** The event of what a reference lies in, where it is listened to. */
function eventAt(record: AnyRecord, path: string): EventName | undefined {
  return (holderAt(record, path) as { event?: EventName }).event;
}

/** Blockers are touched, and only they are. */
function checkRole({ name, role }: Collider, event: EventName | undefined, path: string, add: Add): void {
  const touch = event !== undefined && EVENTS[event].role === 'blocker';
  if (role === 'blocker' && !touch)
    add('zone', path, `"${name}" is a blocker: it stops things, and notices none.`);
  if (role !== 'blocker' && touch) add('zone', path, `"${name}" stops nothing, so nothing touches it.`);
}

/** Whether what is named is of the type, or kind, that it must be there. */
function checkOnly(
  known: Known,
  kind: RefKind,
  id: string,
  home: string | null,
  only: string,
  path: string,
  add: Add,
): void {
  if (kind === 'assets') {
    const asset = known.record('assets', id, home);
    const is = `The asset "${asset.name}" is a ${ASSET_WORD[asset.kind]}`;
    if (asset.kind !== only) add('asset', path, `${is}, not a ${ASSET_WORD[only as Asset['kind']]}.`);
  }
  if (kind === 'effects') {
    const effect = known.record('effects', id, home);
    if (effect.kind !== only)
      add('effect', path, `The effect "${effect.name}" is a ${effect.kind}, not a ${only}.`);
  }
  // What an action makes of another type of signal is defined; a speed or an amount must be a number.
  if (kind === 'signals' && only === 'number' && !path.includes('ctions') && !/on(Entry|Exit)/.test(path)) {
    const s = known.record('signals', id, home);
    if (s.type !== 'number') add('type', path, `The signal "${s.name}" must be a number here.`);
  }
}

/** What is wrong with a look of this object, in words, or null. */
export function lookProblem(o: SceneObject, look: Look): string | null {
  const { looks: _, ...bare } = withWholeLook(o, look);
  const read = toZod(sceneObjectSchema).safeParse(bare);
  if (read.success) return null;
  const issue = read.error.issues[0];
  return issue ? `${issue.path.join('.')} ${issue.message}`.trim() : 'it is not sound';
}

/** A zone belongs to one object alone. */
function checkZones(piece: Piece, add: Add): void {
  const owners = new Map<string, string>();
  for (const o of Object.values(piece.objects))
    o.colliders?.forEach((id, i) => {
      const other = owners.get(id);
      if (other !== undefined)
        add('owner', `objects.${o.id}.colliders[${i}]`, `The zone "${id}" belongs to "${other}" already.`);
      owners.set(id, o.name);
    });
}

/** Objects that a piece may hold: what more there is could not be worked on. */
export const MAX_OBJECTS = 10_000;
/** How deep objects may lie in one another; hands make a dozen. */
export const MAX_TREE_DEPTH = 200;

function checkTree(piece: Piece, add: Add): void {
  // 1: on the way up from here, 2: known to end at a root. Iterative, so that depth cannot overflow the stack.
  const mark = new Map<string, 1 | 2>();
  const depth = new Map<string, number>();
  let told = false;
  /** Notes how deep the objects on the way up lie, the last of them below `above`. */
  const depthOf = (way: readonly string[], above: string | null) => {
    for (let i = way.length - 1, d = above === null ? 0 : (depth.get(above) ?? 0); i >= 0; i--) {
      depth.set(way[i] as string, ++d);
      if (d <= MAX_TREE_DEPTH || told) continue;
      told = true;
      add('depth', `objects.${way[i]}.parent`, `Objects lie in one another at most ${MAX_TREE_DEPTH} deep.`);
    }
  };
  for (const start of Object.keys(piece.objects)) {
    const way: string[] = [];
    let id: string | null = start;
    while (id !== null && Object.hasOwn(piece.objects, id) && !mark.has(id)) {
      mark.set(id, 1);
      way.push(id);
      id = (piece.objects[id] as { parent: string | null }).parent;
    }
    depthOf(way, id);
    if (id !== null && mark.get(id) === 1)
      add('cycle', `objects.${id}.parent`, 'This object is its own ancestor: its parents form a circle.');
    for (const w of way) mark.set(w, 2);
  }
}

function checkNames(
  piece: Piece,
  tables: readonly ('signals' | 'messages' | 'tags' | 'templates')[],
  add: Add,
): void {
  const seen = new Map<string, Set<string>>();
  const check = (owner: string, name: string, path: string, what: string) => {
    const set = seen.get(owner) ?? new Set();
    seen.set(owner, set);
    if (set.has(name)) add('name', `${path}.name`, `Another ${what} here is already called "${name}".`);
    set.add(name);
  };
  for (const o of Object.values(piece.objects)) check(`o/${o.parent}`, o.name, `objects.${o.id}`, 'object');
  for (const c of Object.values(piece.clips)) check(`c/${c.root}`, c.name, `clips.${c.id}`, 'clip');
  for (const t of tables)
    for (const r of Object.values(piece[t])) check(t, r.name, `${t}.${r.id}`, KIND_WORD[t]);
  for (const m of Object.values(piece.machines))
    for (const [li, lane] of m.lanes.entries())
      for (const [i, s] of lane.states.entries())
        check(`s/${lane.id}`, s.name, `machines.${m.id}.lanes[${li}].states[${i}]`, 'state');
}

function checkVisitor({ visitor, objects, signals }: Piece, add: Add): void {
  if (!visitor) return;
  if (!Object.hasOwn(objects, visitor.object)) {
    add('reference', 'visitor.object', `There is no object with the id "${visitor.object}".`);
    return;
  }
  for (let o = objects[visitor.object]; o; o = o.parent === null ? undefined : objects[o.parent])
    if (o.overlay)
      return add(
        'visitor',
        'visitor.object',
        'The visitor walks in the piece, so it cannot be on top of the frame.',
      );
  const { speed } = visitor;
  if (typeof speed === 'object' && signals[speed.signal]?.type !== 'number')
    add('type', 'visitor.speed', `There is no number signal with the id "${speed.signal}".`);
}

function checkSheets({ all }: Scope, own: Piece, add: Add): void {
  for (const sheet of Object.values(own.cueSheets)) {
    const at = `cueSheets.${sheet.id}`;
    const checkCues = (cues: readonly SheetCue[], path: string) => {
      cues.forEach((c, i) => {
        if (c.wait?.event === 'timer')
          add('event', `${path}[${i}].wait`, 'A cue cannot wait for a timer: give it a time instead.');
        checkCues(c.then, `${path}[${i}].then`);
        checkCues(c.thenAfter, `${path}[${i}].thenAfter`);
      });
    };
    checkCues(sheet.cues, `${at}.cues`);
    if (sheet.end === 'stop' || sheet.end.loop > 0) continue;
    const plan = planOf(sheet, (id) => all.clips[id]);
    if (plan.every((x) => !x.waits && x.start + x.length === 0))
      add('loop', `${at}.end`, 'A cue sheet that takes no time cannot begin anew without a pause.');
  }
}
