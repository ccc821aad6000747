/** What types cannot say: references that lead somewhere, a tree without cycles, names that are unique. */
import type { Problem } from '../base/result.ts';
import { type Form, visitProperties } from '../grammar/index.ts';
import {
  type AnyRecord,
  type Asset,
  type Clip,
  type Collider,
  canOffset,
  type Effect,
  fitsProperty,
  fitsSignal,
  type Lane,
  type Look,
  type On,
  type Piece,
  planOf,
  propertyInfo,
  RECORDS,
  type RefKind,
  type SceneObject,
  type SheetCue,
  sceneObjectForm,
  TABLES,
  visitOwnIds,
  visitReferences,
  withWholeLook,
} from '../model/index.ts';
import { toZod } from './to-zod.ts';

const KIND_WORD: Record<RefKind, string> = {
  objects: 'object',
  tags: 'tag',
  clips: 'clip',
  signals: 'signal',
  messages: 'message',
  machines: 'machine',
  reactions: 'reaction',
  follows: 'follow',
  sounds: 'sound',
  colliders: 'zone',
  effects: 'effect',
  cueSheets: 'cue sheet',
  answers: 'answer',
  lanes: 'lane',
  states: 'state',
  transitions: 'transition',
  cues: 'cue',
  looks: 'look',
  assets: 'asset',
};

const ASSET_WORD: Record<Asset['kind'], string> = { image: 'picture', sound: 'sound', mesh: 'mesh' };

/** All problems of a piece that already has the right types, in the order of the file. */
export function checkIntegrity(piece: Piece): Problem[] {
  const problems: Problem[] = [];
  const add = (code: string, path: string, message: string) => problems.push({ code, path, message });
  const count = Object.keys(piece.objects).length;
  if (count > MAX_OBJECTS)
    add('size', 'objects', `The piece holds ${count} objects; at most ${MAX_OBJECTS} can be worked on.`);
  const known = collectIds(piece, add);
  for (const table of TABLES) {
    for (const [key, record] of Object.entries(piece[table]) as [string, AnyRecord][]) {
      const at = `${table}.${key}`;
      if (record.id !== key)
        add('id', `${at}.id`, `The id "${record.id}" differs from the key "${key}" it is stored under.`);
      visitReferences(table, record as never, (kind, id, path, only) => {
        if (!known[kind].has(id))
          add('reference', `${at}${path}`, `There is no ${KIND_WORD[kind]} with the id "${id}".`);
        else if (kind === 'colliders' && !path.startsWith('.colliders'))
          checkRole(piece.colliders[id] as Collider, eventAt(record, path), `${at}${path}`, add);
        else if (only !== undefined) checkOnly(piece, kind, id, only, `${at}${path}`, add);
      });
      visitProperties(RECORDS[table] as Form, record, (name, path) =>
        checkProperty(name, `${at}${path}`, add),
      );
    }
  }
  checkTree(piece, add);
  checkZones(piece, add);
  for (const o of Object.values(piece.objects))
    o.looks?.forEach((l, i) => {
      const problem = lookProblem(o, l);
      if (problem)
        add(
          'look',
          `objects.${o.id}.looks[${i}]`,
          `The look "${l.name}" does not suit its object: ${problem}.`,
        );
    });
  checkNames(piece, add);
  for (const c of Object.values(piece.clips)) checkClip(c, add);
  checkLanes(piece, add);
  checkSignals(piece, add);
  for (const { id, target } of Object.values(piece.follows)) {
    const info = 'object' in target ? propertyInfo(target.property) : undefined;
    if (info && !canOffset(info) && info.kind !== 'text')
      add('property', `follows.${id}.target.property`, `The property "${info.name}" cannot follow a number.`);
  }
  checkSheets(piece, add);
  checkVisitor(piece, add);
  for (const r of Object.values(piece.reactions)) {
    checkOn(r.on, `reactions.${r.id}.on`, true, add);
  }
  return problems;
}

/** The event of what a reference lies in, where it is listened to. */
function eventAt(record: AnyRecord, path: string): string {
  let holder: unknown = record;
  const keys = path.split(/[.[\]]+/).filter((k) => k !== '');
  for (const key of keys.slice(0, -1)) holder = (holder as Record<string, unknown>)[key];
  return (holder as { event?: string }).event ?? '';
}

/** Blockers are touched, and only they are. */
function checkRole({ name, role }: Collider, event: string, path: string, add: Add): void {
  const touch = event.startsWith('touch.');
  if (role === 'blocker' && !touch)
    add('zone', path, `"${name}" is a blocker: it stops things, and notices none.`);
  if (role !== 'blocker' && touch) add('zone', path, `"${name}" stops nothing, so nothing touches it.`);
}

/** Whether what is named is of the type, or kind, that it must be there. */
function checkOnly(piece: Piece, kind: RefKind, id: string, only: string, path: string, add: Add): void {
  if (kind === 'assets') {
    const asset = piece.assets[id] as Asset;
    const is = `The asset "${asset.name}" is a ${ASSET_WORD[asset.kind]}`;
    if (asset.kind !== only) add('asset', path, `${is}, not a ${ASSET_WORD[only as Asset['kind']]}.`);
  }
  if (kind === 'effects') {
    const effect = piece.effects[id] as Effect;
    if (effect.kind !== only)
      add('effect', path, `The effect "${effect.name}" is a ${effect.kind}, not a ${only}.`);
  }
  // What an action makes of another type of signal is defined; a speed or an amount must be a number.
  if (kind === 'signals' && only === 'number' && !path.includes('ctions') && !/on(Entry|Exit)/.test(path)) {
    const s = piece.signals[id];
    if (s && s.type !== 'number') add('type', path, `The signal "${s.name}" must be a number here.`);
  }
}

/** What is wrong with a look of this object, in words, or null. */
function lookProblem(o: SceneObject, look: Look): string | null {
  const { looks: _, ...bare } = withWholeLook(o, look);
  const read = toZod(sceneObjectForm).safeParse(bare);
  if (read.success) return null;
  const issue = read.error.issues[0];
  return issue ? `${issue.path.join('.')} ${issue.message}`.trim() : 'it is not sound';
}

type Add = (code: string, path: string, message: string) => void;

/** The ids that there are, by what has them; an id that is used twice is a problem. */
function collectIds(piece: Piece, add: Add): Record<RefKind, Set<string>> {
  const known = Object.fromEntries(Object.keys(KIND_WORD).map((kind) => [kind, new Set<string>()])) as Record<
    RefKind,
    Set<string>
  >;
  for (const t of TABLES) known[t] = new Set(Object.keys(piece[t]));
  for (const t of TABLES)
    for (const r of Object.values(piece[t]) as AnyRecord[])
      visitOwnIds(t, r as never, (kind, id, path) => {
        if (known[kind].has(id)) add('id', `${t}.${r.id}${path}`, `The id "${id}" is used twice.`);
        known[kind].add(id);
      });
  return known;
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

function checkNames(piece: Piece, add: Add): void {
  const seen = new Map<string, Set<string>>();
  const check = (owner: string, name: string, path: string, what: string) => {
    const set = seen.get(owner) ?? new Set();
    seen.set(owner, set);
    if (set.has(name)) add('name', `${path}.name`, `Another ${what} here is already called "${name}".`);
    set.add(name);
  };
  for (const o of Object.values(piece.objects)) check(`o/${o.parent}`, o.name, `objects.${o.id}`, 'object');
  for (const c of Object.values(piece.clips)) check(`c/${c.root}`, c.name, `clips.${c.id}`, 'clip');
  for (const t of ['signals', 'messages', 'tags'] as const)
    for (const r of Object.values(piece[t])) check(t, r.name, `${t}.${r.id}`, KIND_WORD[t]);
  for (const m of Object.values(piece.machines))
    for (const [li, lane] of m.lanes.entries())
      for (const [i, s] of lane.states.entries())
        check(`s/${lane.id}`, s.name, `machines.${m.id}.lanes[${li}].states[${i}]`, 'state');
}

function checkProperty(name: string, path: string, add: Add): void {
  if (!propertyInfo(name)) add('property', path, `There is no property called "${name}".`);
}

function checkClip(clip: Clip, add: Add): void {
  const seen = new Set<string>();
  clip.tracks.forEach((track, i) => {
    const at = `clips.${clip.id}.tracks[${i}]`;
    const info = propertyInfo(track.property);
    const who = `${track.object} ${track.property}`;
    if (seen.has(who)) add('track', at, 'The clip has a second track for the same object and property.');
    seen.add(who);
    if (track.mode === 'offset' && info && !canOffset(info))
      add('mode', `${at}.mode`, `The property "${track.property}" has no offset: it is not a number.`);
    let last = -1;
    track.keys.forEach((k, n) => {
      if (!(k.t > last)) add('order', `${at}.keys[${n}].t`, 'The keys must stand in order of time.');
      last = k.t;
      if (info && !fitsProperty(info, k.value))
        add('type', `${at}.keys[${n}].value`, `The value does not suit the property "${track.property}".`);
    });
  });
  clip.cues.forEach((q, i) => {
    if (q.t > clip.duration)
      add('time', `clips.${clip.id}.cues[${i}].t`, 'The cue lies after the end of its clip.');
  });
}

function checkLanes(piece: Piece, add: Add): void {
  for (const m of Object.values(piece.machines))
    m.lanes.forEach((lane, li) => {
      checkLane(lane, `machines.${m.id}.lanes[${li}]`, add);
    });
}

function checkLane(lane: Lane, at: string, add: Add): void {
  const own = new Set(lane.states.map((s) => s.id));
  const mustOwn = (id: string, path: string) => {
    if (!own.has(id)) add('reference', path, `The state "${id}" does not belong to this lane.`);
  };
  if (typeof lane.initial === 'string') mustOwn(lane.initial, `${at}.initial`);
  else for (const [i, d] of lane.initial.draw.entries()) mustOwn(d.state, `${at}.initial.draw[${i}].state`);
  lane.transitions.forEach((t, i) => {
    if (t.from !== '*') mustOwn(t.from, `${at}.transitions[${i}].from`);
    mustOwn(t.to, `${at}.transitions[${i}].to`);
    if (t.on) checkOn(t.on, `${at}.transitions[${i}].on`, false, add);
  });
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

function checkSheets(piece: Piece, add: Add): void {
  for (const sheet of Object.values(piece.cueSheets)) {
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
    const plan = planOf(sheet, (id) => piece.clips[id]);
    if (plan.every((x) => !x.waits && x.start + x.length === 0))
      add('loop', `${at}.end`, 'A cue sheet that takes no time cannot begin anew without a pause.');
  }
}

function checkOn(on: On, path: string, timers: boolean, add: Add): void {
  if (on.event !== 'timer') return;
  if (!timers) add('event', path, 'A transition cannot listen to a timer: give it a not-before instead.');
  else if (on.after === undefined && on.every === undefined)
    add('event', path, 'A timer needs "after", "every" or both.');
}

function checkSignals(piece: Piece, add: Add): void {
  for (const s of Object.values(piece.signals)) {
    const at = `signals.${s.id}`;
    if (s.type === 'choice' && !fitsSignal(s, s.initial))
      add('type', `${at}.initial`, 'The initial value is not one of the options.');
    if (s.type === 'number' && s.min !== undefined && s.max !== undefined && s.min > s.max)
      add('range', `${at}.min`, 'The least value is above the greatest.');
  }
}
