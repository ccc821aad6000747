/**
 * A piece compiled for running: records become numbers and flat arrays; names and ids stay for the trace. It is long since
 * every record is compiled against the same indices, which this one compiler holds.
 */
import { CurvePool, curveOf, HOLD as HOLD_CURVE, LINEAR, mixOf } from '../anim/index.ts';
import {
  type Action,
  CH_OPACITY,
  CH_SHOWN,
  CH_TEXT,
  CHANNELS,
  type Clip,
  clipsPlayed,
  type Expansion,
  type Lane,
  type On,
  onePlay,
  type Piece,
  type PlayFrom,
  type PropertyInfo,
  partOf,
  propertyInfo,
  type Reaction,
  type SceneObject,
  type Signal,
  type Speed,
  type State,
  type TableName,
  type Transition,
  type TweenEasing,
  treeOrder,
} from '../model/index.ts';
import { compileObjects } from '../world/index.ts';
import { NotInThisBuild } from './claims.ts';
import { compilePlaces } from './compile-places.ts';
import { clipData, guidesOf, isTilt, isTilted, NO_CUES, numbered, placesOf } from './compile-tables.ts';
import type { Compiled, Compiling, CompilingPart } from './compiling.ts';
import { allOf, compileTests, readsOf } from './conditions.ts';
import { compileFade } from './fade.ts';
import { type Feature, FeatureSet } from './feature.ts';
import type { Owner } from './hearing.ts';
import { findObject } from './input.ts';
import { askingOf, laneWritersOf, plainPlays } from './lane-tables.ts';
import type { Lasting } from './lasting.ts';
import { type Listeners, ListenerTable } from './listening.ts';
import type { CompilingParts, ProgramParts } from './parts.ts';
import {
  BLEND,
  type ClipProgram,
  type Driven,
  type Driver,
  HOLD,
  type LaneProgram,
  PLAY,
  type Program,
  REST,
  type ReactionProgram,
  type StateProgram,
  type TransitionProgram,
} from './program.ts';
import type { CompiledAction } from './run-actions.ts';
import { keyedSlots, NO_SLOTS, SlotTable } from './slots.ts';
import { spine } from './spine.ts';

/** Objects in the order of the tree, and their numbers. */
export interface Order {
  readonly objects: readonly SceneObject[];
  readonly objectIndex: ReadonlyMap<string, number>;
}

/** The spine with these features. */
export const withFeatures = (features: readonly Feature[]): FeatureSet => new FeatureSet(spine, features);

/**
 * Compiles a piece that `readPiece` or an editor has found sound. `moved`: the objects, by id or name, that inputs may move
 * over a time; without, such a move is made at once.
 */
export function compilePiece(piece: Piece, features: FeatureSet, moved: readonly string[] = []): Program {
  return compileExpansion(features.expand(piece, null), features, null, moved);
}

/** As `compilePiece`, when its templates are written out; `like`: a program whose objects have the same order, if one is known. */
export function compileExpansion(
  expansion: Expansion,
  features: FeatureSet,
  order: Order | null,
  moved: readonly string[] = [],
  like: Program | null = null,
): Program {
  return new Compiler(expansion, features, order).program(moved, order && like);
}

class Compiler implements Compiling {
  readonly piece: Piece;
  readonly expansion: Expansion;
  readonly objects: readonly SceneObject[];
  readonly parts: CompilingParts;
  readonly #features: FeatureSet;
  /** What features make, by their names. */
  readonly #made: Record<string, CompilingPart> = {};
  readonly #indexes = new Map<TableName, ReadonlyMap<string, number>>();
  readonly #objectIndex: ReadonlyMap<string, number>;
  readonly #signals: readonly Signal[];
  readonly #signalIndex: ReadonlyMap<string, number>;
  readonly #clipIndex: ReadonlyMap<string, number>;
  readonly #laneIndex = new Map<string, number>();
  readonly #stateIndex: ReadonlyMap<string, number>[] = [];
  readonly #streams: string[] = [];
  readonly #streamIndex = new Map<string, number>();
  readonly #lists = {
    ...{ keys: [] as string[], first: [0], delayed: [] as boolean[], place: [] as number[] },
    ...{ compiled: [] as CompiledAction[], after: [] as number[], goes: [] as boolean[] },
  };
  readonly #listIndex = new Map<string, number>();
  readonly #lanesOn = new ListenerTable();
  #slotCount = 0;
  #sourceCount = 0;
  #pulseCount = 0;

  constructor(expansion: Expansion, features: FeatureSet, order: Order | null) {
    const { piece } = expansion;
    features.claimed.check(piece);
    this.#features = features;
    this.parts = this.#made as CompilingParts;
    this.expansion = expansion;
    this.piece = piece;
    this.objects = order?.objects ?? treeOrder(Object.values(piece.objects));
    this.#objectIndex = order?.objectIndex ?? numbered(this.objects);
    this.#signals = Object.values(piece.signals);
    this.#signalIndex = numbered(this.#signals);
    this.#clipIndex = numbered(Object.values(piece.clips));
    for (const m of Object.values(piece.machines))
      for (const lane of m.lanes) {
        this.#laneIndex.set(lane.id, this.#stateIndex.length);
        this.#stateIndex.push(numbered(lane.states));
      }
  }

  // The numbers of what actions and conditions name.
  signal(id: string): number {
    return this.#signalIndex.get(id) ?? -1;
  }
  lane(id: string): number {
    return this.#laneIndex.get(id) ?? -1;
  }
  state(lane: number, id: string): number {
    return this.#stateIndex[lane]?.get(id) ?? -1;
  }
  clip(id: string): number {
    return this.#clipIndex.get(id) ?? -1;
  }
  object(id: string): number {
    return this.#objectIndex.get(id) ?? -1;
  }
  record(table: TableName, id: string): number {
    let index = this.#indexes.get(table);
    if (!index) {
      index = numbered(Object.values(this.piece[table]));
      this.#indexes.set(table, index);
    }
    return index.get(id) ?? -1;
  }
  get visitor(): number {
    return this.object(this.piece.visitor?.object ?? '');
  }
  clipOf(id: string): Clip | undefined {
    return this.piece.clips[id];
  }
  tagged(tag: string): readonly number[] {
    return this.objects.flatMap((o, i) => (o.tags.includes(tag) ? [i] : []));
  }

  readonly #tweenRows = new Map<number, number>();
  readonly #tweenModes: number[] = [];
  readonly #motorRows = new Map<number, number>();
  readonly #pool = new CurvePool();
  property(name: string): PropertyInfo | undefined {
    const info = propertyInfo(name);
    if (!info && partOf(name) && !this.#features.list.some((f) => f.expand))
      throw new NotInThisBuild(`the property "${name}"`, 'the piece');
    if (info && isTilt(info.channel)) this.#tilts = true;
    return info;
  }
  /** Whether anything may leave the planes that all face the viewer alike. */
  #tilts = false;
  tweens(object: number, property: PropertyInfo): void {
    if (isTilt(property.channel)) this.#tilts = true;
    for (let i = 0; i < property.width; i++) {
      const at = object * CHANNELS + property.channel + i;
      if (this.#tweenRows.has(at)) continue;
      this.#tweenRows.set(at, this.#tweenModes.push(mixOf(property)) - 1);
    }
  }
  tweenRow(at: number): number {
    return this.#tweenRows.get(at) ?? -1;
  }
  hears(on: On | undefined, place: string): void {
    this.#features.claimed.event(on, place);
  }
  lasting(action: Action): Lasting | null {
    return this.#features.lasting.get(action.do)?.(action as never, this) ?? null;
  }
  motors(object: number, property: PropertyInfo): void {
    const at = object * CHANNELS + property.channel;
    if (!this.#motorRows.has(at)) this.#motorRows.set(at, this.#motorRows.size);
  }
  curve(easing: TweenEasing): number {
    if (easing === 'hold') return HOLD_CURVE;
    return easing === 'linear' ? LINEAR : this.#pool.offset(JSON.stringify(easing), curveOf(easing));
  }

  /** The objects whose pivots are asked for at an instant. */
  readonly #standing = new Set<number>();
  stands(object: number): void {
    this.#standing.add(object);
  }
  #others: readonly number[] | null = null;
  get others(): readonly number[] {
    if (this.#others) return this.#others;
    const made = Object.values(this.#made);
    this.#others = this.objects.flatMap((o, i) => (made.some((x) => x.mayBeOther?.(o, i)) ? [i] : []));
    return this.#others;
  }

  /** Direct plays that actions ask for: in lanes of their own, after those of the machines. */
  readonly #directs: { clip: string; object: string; states: { speed: Speed; from: PlayFrom }[] }[] = [];
  direct(clip: string, object: string): number {
    if (this.clip(clip) < 0 || this.object(object) < 0) return -1;
    const id = `${clip}/${object}`;
    const known = this.#laneIndex.get(id);
    if (known !== undefined) return known;
    const lane = this.#stateIndex.length + this.#directs.length;
    this.#laneIndex.set(id, lane);
    this.#directs.push({ clip, object, states: [] });
    return lane;
  }
  directState(lane: number, speed: Speed, from: PlayFrom): number {
    const states = this.#directs[lane - this.#stateIndex.length]?.states ?? [];
    const text = JSON.stringify([speed, from]);
    const at = states.findIndex((x) => JSON.stringify([x.speed, x.from]) === text);
    return at < 0 ? states.push({ speed, from }) : at + 1;
  }

  /** What gives the place in a clip, by lane and clip; without a clip, the number by which the lane blends. */
  readonly #driven = new Map<string, Driven>();
  drive(lane: string, clip: string | null, by: Driven): void {
    this.#driven.set(`${lane}/${clip ?? ''}`, by);
  }

  /** What features make of the piece now that its lanes and places are known, the values that they read or drive, and by what. */
  #parts(known: Pick<Compiled, 'clips' | 'lanes' | 'firstDirect' | 'geometry' | 'spawns'>) {
    const asks: number[] = [];
    const drives: number[] = [];
    let driver: Driver | null = null;
    const switched = new Map(known.spawns.parts.map(({ part, at }) => [part.what, at]));
    const all: Compiled = Object.assign(Object.create(this) as Compiling, {
      ...known,
      switchOf: (collider: string) => switched.get(collider) ?? -1,
      asks: (ats: Iterable<number>) => {
        asks.push(...ats);
      },
      drives: (ats: Iterable<number>, by: Driver) => {
        drives.push(...ats);
        driver = by;
      },
    });
    const parts: Record<string, unknown> = {};
    for (const [name, x] of Object.entries(this.#made)) if (x.part) parts[name] = x.part(all);
    return { parts, asks, drives, driver: driver as Driver | null };
  }

  program(moved: readonly string[], like: Program | null): Program {
    const p = this.piece;
    for (const text of moved) {
      const object = this.object(findObject(p, text)?.id ?? '');
      for (const axis of ['x', 'y', 'z'])
        if (object >= 0) this.tweens(object, propertyInfo(`position.${axis}`) as PropertyInfo);
    }
    for (const f of this.#features.list) if (f.compile) this.#made[f.name] = f.compile(this) as CompilingPart;
    const clips = Object.values(p.clips).map((c) => this.#clipProgram(c));
    const stops = this.#features.list.find((f) => f.stops)?.stops;
    const { base, geometry } = compileObjects(
      this.objects,
      this.#objectIndex,
      (base) => stops?.(this.expansion.parts, this.#objectIndex, base) ?? null,
      p.assets,
      this.#features.solids,
      like && { ...like, assets: like.piece.assets },
    );
    const lanes: LaneProgram[] = [];
    for (const m of Object.values(p.machines))
      for (const lane of m.lanes) lanes.push(this.#laneProgram(lane, lanes.length, m.id, m.object, clips));
    const reactions = Object.values(p.reactions).map((r) => this.#reaction(r));
    for (const x of Object.values(this.#made)) x.lists?.();
    const firstDirect = lanes.length;
    for (const d of this.#directs) lanes.push(this.#directLane(d, clips));
    const reactionIndex = new Map(reactions.map((r, i) => [r.reaction.id, i]));
    const spawns = compilePlaces(this.expansion, {
      ...{ objectIndex: this.#objectIndex, parent: geometry.parent, signalIndex: this.#signalIndex },
      ...{ lanes, firstDirect, reactionIndex, streams: this.#streams },
    });
    const placed = spawns.places.flatMap(({ root }) =>
      [0, 1, 2, CH_SHOWN].map((channel) => root * CHANNELS + channel),
    );
    const { parts, asks, drives, driver } = this.#parts({ clips, lanes, firstDirect, geometry, spawns });
    const asked = [...this.#tweenRows.keys(), ...this.#motorRows.keys()];
    const slots = lanes.flatMap((l) => [...l.slots]);
    const written = Int32Array.from(new Set([...slots, ...asked, ...drives, ...placed]));
    if (!this.#features.solids && (this.#tilts || this.objects.some(isTilted)))
      throw new NotInThisBuild('what is turned about x or y', 'the piece');
    const program: Program = {
      piece: p,
      objects: this.objects,
      objectIndex: this.#objectIndex,
      geometry,
      guides: guidesOf(this.objects, this.#objectIndex),
      base,
      clips,
      clipIndex: this.#clipIndex,
      signals: this.#signals,
      signalIndex: this.#signalIndex,
      remember: Float64Array.from(this.#signals, (_, i) => this.#remember(i)),
      lanes,
      laneIndex: this.#laneIndex,
      firstDirect,
      plain: plainPlays(lanes, clips),
      laneWriters: laneWritersOf(lanes, clips, [
        ...asked,
        ...asks,
        ...placesOf(geometry.parent, this.#standing),
        ...spawns.parts.map((p) => p.at),
      ]),
      tweenAts: [...this.#tweenRows.keys()],
      tweenModes: this.#tweenModes,
      tweenRows: this.#tweenRows,
      motorAts: [...this.#motorRows.keys()],
      motorRows: this.#motorRows,
      spawns,
      driver,
      depth: this.#features.solids,
      visitor: this.visitor,
      curves: this.#pool.data(),
      curveAt: this.#pool.known,
      words: geometry.texted.map((i) => i * CHANNELS + CH_TEXT),
      wordSlots: lanes.flatMap((l) =>
        [...l.slots].flatMap((at, k) => (at % CHANNELS === CH_TEXT ? [l.firstSlot + k] : [])),
      ),
      written,
      amounts: written.filter((at) => at % CHANNELS === CH_OPACITY),
      reactions,
      reactionIndex,
      hearing: this.#features.events,
      reactionsOn: this.#reactionsOn(reactions),
      lanesOn: this.#lanesOn.table,
      asking: askingOf(lanes, this.#signals.length),
      lists: this.#lists,
      listIndex: this.#listIndex,
      streams: this.#streams,
      streamIndex: this.#streamIndex,
      features: this.#features,
      parts: parts as ProgramParts,
      rowsOf: (make) => this.#features.rowsOf(program, make),
    };
    return program;
  }

  stream(consumer: string): number {
    let at = this.#streamIndex.get(consumer);
    if (at === undefined) {
      at = this.#streams.length;
      this.#streamIndex.set(consumer, at);
      this.#streams.push(consumer);
    }
    return at;
  }

  list(key: string, consumer: string, actions: readonly Action[]): number {
    const stream = this.stream(consumer);
    const lists = this.#lists;
    const n = lists.keys.push(key) - 1;
    this.#listIndex.set(key, n);
    for (const a of actions) {
      const compile = this.#features.actions.get(a.do);
      if (!compile) throw new NotInThisBuild(`the action "${a.do}"`, key);
      lists.compiled.push(compile(a as never, this, stream));
      lists.after.push(a.after ?? 0);
      lists.goes.push(a.do === 'go');
    }
    lists.first.push(lists.compiled.length);
    lists.delayed.push(actions.some((a) => (a.after ?? 0) > 0));
    lists.place.push(this.placeOf(key));
    return n;
  }

  placeOf(key: string): number {
    if (!key.includes('#')) return -1;
    this.#placeIndex ??= numbered(this.expansion.places);
    return this.#placeIndex.get(key.slice(0, key.indexOf('/'))) ?? -1;
  }
  #placeIndex: ReadonlyMap<string, number> | null = null;

  #clipProgram(clip: Clip): ClipProgram {
    return {
      clip,
      data: clipData(clip),
      cueTimes: clip.cues.length === 0 ? NO_CUES : Float64Array.from(clip.cues, (q) => q.t).sort(),
      cueActions: clip.cues.map((q) => this.list(q.id, q.id, q.actions)),
    };
  }

  #laneProgram(
    lane: Lane,
    number: number,
    machine: string,
    objectId: string,
    clips: readonly ClipProgram[],
  ): LaneProgram {
    const object = this.object(objectId);
    const stateIndex = this.#stateIndex[number] as ReadonlyMap<string, number>;
    const pulses: number[] = [];
    const routes = lane.transitions.map((t, i) => this.#transition(t, i, stateIndex, pulses));
    for (const { transition, eventless } of routes) {
      const { on } = transition;
      if (on && !eventless) this.#listen(this.#lanesOn, on, { object: objectId, lane: lane.id }, number);
    }
    const slots = new SlotTable();
    // All states are bound first: only then it is known how many slots the lane has.
    const bound = lane.states.map((s) =>
      clipsPlayed(s.play).map((id) => {
        const clip = clips[this.clip(id)];
        return clip ? this.#bind(clip.clip, object, slots) : NO_SLOTS;
      }),
    );
    const states = lane.states.map((state, i): StateProgram => {
      const own = bound[i] as Int32Array[];
      const trackSlots =
        own.length === 1 ? (own[0] as Int32Array) : Int32Array.from(own.flatMap((x) => [...x]));
      const play = onePlay(state.play);
      const clip = play ? this.clip(play.clip) : -1;
      const blend =
        typeof state.play !== 'object' || 'clip' in state.play
          ? null
          : this.#features.blend(state, this.#driven.get(`${lane.id}/`) ?? null, this, clips, own);
      const driven = play ? (this.#driven.get(`${lane.id}/${play.clip}`) ?? null) : null;
      return {
        state,
        kind: state.play === 'hold' ? HOLD : blend ? BLEND : clip < 0 ? REST : PLAY,
        blend,
        clip,
        // What is driven does not go by time.
        driven,
        speed: driven ? 0 : typeof play?.speed === 'number' ? play.speed : 1,
        speedSignal: !driven && typeof play?.speed === 'object' ? this.signal(play.speed.signal) : -1,
        from: play?.from ?? 'start',
        trackSlots,
        trackValues: trackSlots.map((slot) => slots.values[slot] ?? -1),
        keyed: keyedSlots(trackSlots, slots),
        entryActions: state.onEntry?.length ? this.list(`${state.id}/entry`, state.id, state.onEntry) : -1,
        exitActions: state.onExit?.length ? this.list(`${state.id}/exit`, state.id, state.onExit) : -1,
        routes: [...routes.filter((w) => w.source === i + 1), ...routes.filter((w) => w.source === 0)],
      };
    });
    const [firstSlot, firstSource, firstPulse] = [this.#slotCount, this.#sourceCount, this.#pulseCount];
    this.#slotCount += slots.values.length;
    this.#sourceCount += states.length + 1;
    this.#pulseCount += pulses.length;
    return {
      lane,
      direct: null,
      machine,
      object,
      states,
      stateIndex,
      slots: Int32Array.from(slots.values),
      slotMode: Uint8Array.from(slots.modes),
      keeps: lane.unkeyed === 'keep',
      adds: lane.blend === 'add',
      amount: typeof lane.amount === 'number' ? lane.amount : 1,
      amountSignal: typeof lane.amount === 'number' ? -1 : this.signal(lane.amount.signal),
      stream: this.stream(lane.id),
      pulses: Int32Array.from(pulses),
      firstSlot,
      firstSource,
      firstPulse,
    };
  }

  /** The lane of a direct play: its first state is that it does not play, each other one a way of playing. */
  #directLane(
    {
      clip,
      object,
      states: routes,
    }: { clip: string; object: string; states: { speed: Speed; from: PlayFrom }[] },
    clips: readonly ClipProgram[],
  ): LaneProgram {
    const id = `${clip}/${object}`;
    const number = this.clip(clip);
    const at = this.object(object);
    const slots = new SlotTable();
    const trackSlots = this.#bind((clips[number] as ClipProgram).clip, at, slots);
    const trackValues = trackSlots.map((slot) => slots.values[slot] ?? -1);
    const none: State = { id, name: '', play: 'rest' };
    const idle = { driven: null, blend: null, entryActions: -1, exitActions: -1, routes: [] };
    const states: StateProgram[] = [
      {
        ...{ ...idle, state: none, kind: REST, clip: -1, speed: 1, speedSignal: -1, from: 'start' },
        ...{ trackSlots: NO_SLOTS, trackValues: NO_SLOTS, keyed: keyedSlots(NO_SLOTS, slots) },
      },
      ...routes.map(
        ({ speed, from }): StateProgram => ({
          ...idle,
          state: { id: `${id}/${JSON.stringify([speed, from])}`, name: '', play: { clip, speed, from } },
          kind: PLAY,
          clip: number,
          speed: typeof speed === 'number' ? speed : 1,
          speedSignal: typeof speed === 'number' ? -1 : this.signal(speed.signal),
          from,
          trackSlots,
          trackValues,
          keyed: keyedSlots(trackSlots, slots),
        }),
      ),
    ];
    const [firstSlot, firstSource, firstPulse] = [this.#slotCount, this.#sourceCount, this.#pulseCount];
    this.#slotCount += slots.values.length;
    this.#sourceCount += states.length + 1;
    return {
      lane: {
        ...{ id, name: '', initial: id, unkeyed: 'base', amount: 1, blend: 'replace' },
        ...{ states: states.map((x) => x.state), transitions: [] },
      },
      direct: { clip, object },
      machine: '',
      object: at,
      states,
      stateIndex: numbered(states.map((x) => x.state)),
      slots: Int32Array.from(slots.values),
      slotMode: Uint8Array.from(slots.modes),
      ...{ keeps: false, adds: false, amount: 1, amountSignal: -1, stream: 0, pulses: NO_SLOTS },
      ...{ firstSlot, firstSource, firstPulse },
    };
  }

  /** `pulses`: the lane's list, to which those that this one reads are added. */
  #transition(
    transition: Transition,
    number: number,
    stateIndex: ReadonlyMap<string, number>,
    pulses: number[],
  ): TransitionProgram {
    const { when, on, from, to } = transition;
    const kept = on?.event === 'pulse' ? this.signal(on.signal ?? '') : -1;
    const pulse = this.#remember(kept) > 0 ? kept : -1;
    const own = [...when.map((c) => ('signal' in c ? this.signal(c.signal) : -1)), pulse].filter(
      (i) => this.#signals[i]?.type === 'pulse',
    );
    for (const p of own) if (!pulses.includes(p)) pulses.push(p);
    const tests = compileTests(when, this, this.#features, transition.id);
    return {
      transition,
      number,
      target: stateIndex.get(to) ?? 0,
      source: from === '*' ? 0 : 1 + (stateIndex.get(from) ?? 0),
      onKey: on === null ? '' : JSON.stringify(Object.entries(on).sort()),
      when: allOf(tests),
      tests,
      reads: readsOf(when, this, this.#features),
      eventless: on === null || pulse >= 0,
      pulse,
      pulses: own.map((p) => pulses.indexOf(p)),
      fade: compileFade(transition.crossfade),
    };
  }

  #remember(signal: number): number {
    const def = this.#signals[signal];
    return def?.type === 'pulse' ? (def.remember ?? 0) : 0;
  }

  /** Which slot each track of a clip writes when it is played at `root`. */
  #bind(clip: Clip, root: number, slots: SlotTable): Int32Array {
    const elsewhere = this.objects[root]?.id !== clip.root;
    return Int32Array.from(clip.tracks, (track) => {
      const object = elsewhere ? this.#byPath(clip.root, track.object, root) : this.object(track.object);
      const info = this.property(track.property);
      return object < 0 || !info ? -1 : slots.slot(object, info);
    });
  }

  /** The object below `root` with the same path of names as `object` has below `from`; −1 when there is none. */
  #byPath(from: string, object: string, root: number): number {
    const names: string[] = [];
    let o = this.piece.objects[object];
    while (o && o.id !== from) {
      names.unshift(o.name);
      o = o.parent === null ? undefined : this.piece.objects[o.parent];
    }
    if (!o) return -1;
    let at = root;
    for (const name of names) {
      at = this.#childNamed(this.objects[at]?.id ?? '', name);
      if (at < 0) return -1;
    }
    return at;
  }

  /** Numbers of objects by parent and name, made when a clip is first played elsewhere. */
  #children: Map<string, number> | null = null;
  #childNamed(parent: string, name: string): number {
    this.#children ??= new Map(
      this.objects.map((o, i): [string, number] => [`${o.parent}/${o.name}`, i]).reverse(),
    );
    return this.#children.get(`${parent}/${name}`) ?? -1;
  }

  #listen(table: ListenerTable, on: On, owner: Owner, listener: number): void {
    table.add(on.event, this.#features.events.get(on.event)?.subject(on, owner) ?? '', listener);
  }

  #reactionsOn(reactions: readonly ReactionProgram[]): Listeners {
    const table = new ListenerTable();
    reactions.forEach(({ reaction: { id, object, on, limit } }, i) => {
      const owner = { object, reaction: id };
      this.#listen(table, on, owner, i);
      if (typeof limit === 'object') this.#listen(table, limit.onceUntil, owner, i);
    });
    return table.table;
  }

  #reaction(r: Reaction): ReactionProgram {
    return {
      reaction: r,
      ...{ id: r.id, of: r.object, event: r.on.event, after: r.after },
      ...{ cooldown: r.cooldown, limited: r.limit !== 'always' },
      object: this.object(r.object),
      when: allOf(compileTests(r.when, this, this.#features, r.id)),
      actions: this.list(r.id, r.id, r.actions),
    };
  }
}
