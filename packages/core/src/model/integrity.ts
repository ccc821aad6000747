/** What types cannot say: references that lead somewhere, a tree without cycles, names that are unique. */
import type { Problem } from '../base/result.ts';
import type { Action } from './action.ts';
import type { Asset } from './asset.ts';
import type { Clip } from './clip.ts';
import type { On } from './event.ts';
import { lookProblem } from './look.ts';
import type { Lane } from './machine.ts';
import { type AnyRecord, type Piece, TABLES } from './piece.ts';
import { fitsProperty, propertyInfo } from './property.ts';
import { type RefKind, visitReferences } from './references.ts';
import { fitsSignal } from './signal.ts';

const KIND_WORD: Record<RefKind, string> = {
  objects: 'object',
  tags: 'tag',
  clips: 'clip',
  signals: 'signal',
  messages: 'message',
  machines: 'machine',
  reactions: 'reaction',
  sounds: 'sound',
  lanes: 'lane',
  states: 'state',
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
      visitReferences(table, record as never, (kind, id, path) => {
        if (!known[kind].has(id))
          add('reference', `${at}${path}`, `There is no ${KIND_WORD[kind]} with the id "${id}".`);
      });
    }
  }
  checkTree(piece, add);
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
  checkAssets(piece, add);
  checkNames(piece, add);
  for (const c of Object.values(piece.clips)) checkClip(c, add);
  checkLanes(piece, add);
  checkSignals(piece, add);
  for (const r of Object.values(piece.reactions)) {
    checkOn(r.on, `reactions.${r.id}.on`, true, add);
    checkActions(r.actions, `reactions.${r.id}.actions`, add);
  }
  return problems;
}

/** Whether each record that names an asset names one of the right kind. */
function checkAssets(piece: Piece, add: Add): void {
  const must = (id: string, kind: Asset['kind'], path: string) => {
    const asset = piece.assets[id];
    if (asset && asset.kind !== kind)
      add(
        'asset',
        path,
        `The asset "${asset.name}" is a ${ASSET_WORD[asset.kind]}, not a ${ASSET_WORD[kind]}.`,
      );
  };
  for (const o of Object.values(piece.objects))
    visitReferences('objects', o, (kind, id, path) => {
      const picture = o.kind !== 'mesh' || path.includes('.pictures.');
      if (kind === 'assets') must(id, picture ? 'image' : 'mesh', `objects.${o.id}${path}`);
    });
  for (const s of Object.values(piece.sounds))
    if (s.asset !== undefined) must(s.asset, 'sound', `sounds.${s.id}.asset`);
}

function checkActions(list: readonly Action[] | undefined, path: string, add: Add): void {
  list?.forEach((a, i) => {
    if (a.do === 'put' || a.do === 'release') checkProperty(a.property, `${path}[${i}]`, add);
  });
}

type Add = (code: string, path: string, message: string) => void;

function collectIds(piece: Piece, add: Add): Record<RefKind, Set<string>> {
  const known: Record<RefKind, Set<string>> = {
    lanes: new Set(),
    states: new Set(),
    cues: new Set(),
    looks: new Set(),
  } as Record<RefKind, Set<string>>;
  for (const t of TABLES) known[t] = new Set(Object.keys(piece[t]));
  const transitions = new Set<string>();
  const once = (set: Set<string>, id: string, path: string) => {
    if (set.has(id)) add('id', path, `The id "${id}" is used twice.`);
    set.add(id);
  };
  for (const m of Object.values(piece.machines)) {
    m.lanes.forEach((lane, li) => {
      const at = `machines.${m.id}.lanes[${li}]`;
      once(known.lanes, lane.id, `${at}.id`);
      lane.states.forEach((s, i) => {
        once(known.states, s.id, `${at}.states[${i}].id`);
      });
      lane.transitions.forEach((t, i) => {
        once(transitions, t.id, `${at}.transitions[${i}].id`);
      });
    });
  }
  for (const o of Object.values(piece.objects))
    o.looks?.forEach((l, i) => {
      once(known.looks, l.id, `objects.${o.id}.looks[${i}].id`);
    });
  for (const c of Object.values(piece.clips)) {
    c.cues.forEach((q, i) => {
      once(known.cues, q.id, `clips.${c.id}.cues[${i}].id`);
    });
  }
  return known;
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
  if (!propertyInfo(name)) add('property', `${path}.property`, `There is no property called "${name}".`);
}

function checkClip(clip: Clip, add: Add): void {
  const seen = new Set<string>();
  clip.tracks.forEach((track, i) => {
    const at = `clips.${clip.id}.tracks[${i}]`;
    checkProperty(track.property, at, add);
    const info = propertyInfo(track.property);
    const who = `${track.object} ${track.property}`;
    if (seen.has(who)) add('track', at, 'The clip has a second track for the same object and property.');
    seen.add(who);
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
    checkActions(q.actions, `clips.${clip.id}.cues[${i}].actions`, add);
  });
}

function checkLanes(piece: Piece, add: Add): void {
  for (const m of Object.values(piece.machines))
    m.lanes.forEach((lane, li) => {
      checkLane(lane, `machines.${m.id}.lanes[${li}]`, piece, add);
    });
}

function checkLane(lane: Lane, at: string, piece: Piece, add: Add): void {
  const own = new Set(lane.states.map((s) => s.id));
  const mustOwn = (id: string, path: string) => {
    if (!own.has(id)) add('reference', path, `The state "${id}" does not belong to this lane.`);
  };
  const mustBeNumber = (ref: unknown, path: string) => {
    if (typeof ref !== 'object' || ref === null) return;
    const s = piece.signals[(ref as { signal: string }).signal];
    if (s && s.type !== 'number') add('type', path, `The signal "${s.name}" must be a number here.`);
  };
  if (typeof lane.initial === 'string') mustOwn(lane.initial, `${at}.initial`);
  else for (const [i, d] of lane.initial.draw.entries()) mustOwn(d.state, `${at}.initial.draw[${i}].state`);
  mustBeNumber(lane.amount, `${at}.amount`);
  lane.states.forEach((s, i) => {
    if (typeof s.play === 'object') mustBeNumber(s.play.speed, `${at}.states[${i}].play.speed`);
    checkActions(s.onEntry, `${at}.states[${i}].onEntry`, add);
    checkActions(s.onExit, `${at}.states[${i}].onExit`, add);
  });
  lane.transitions.forEach((t, i) => {
    if (t.from !== '*') mustOwn(t.from, `${at}.transitions[${i}].from`);
    mustOwn(t.to, `${at}.transitions[${i}].to`);
    if (t.on) checkOn(t.on, `${at}.transitions[${i}].on`, false, add);
  });
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

/** A name that none of `taken` has: `name`, else `name 2`, `name 3`, … (an existing number at its end counts on). */
export function uniqueName(name: string, taken: ReadonlySet<string>): string {
  return namer(taken)(name);
}

/** Gives names as `uniqueName` does, one after the other, each taken from then on; quick also for thousands alike. */
export function namer(taken: Iterable<string>): (name: string) => string {
  const all = new Set(taken);
  const next = new Map<string, number>();
  return (name) => {
    let own = name;
    if (all.has(name)) {
      // Room for the number within the 200 characters that a name may have.
      const stem = name.replace(/ \d+$/, '').slice(0, 190);
      let n = next.get(stem) ?? 2;
      while (all.has(`${stem} ${n}`)) n++;
      next.set(stem, n + 1);
      own = `${stem} ${n}`;
    }
    all.add(own);
    return own;
  };
}
