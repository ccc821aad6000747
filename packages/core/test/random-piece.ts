/**
 * Random pieces of what is built, by their seed, with inputs: for whoever holds two ways of running them against each other. It
 * is long since every part draws from one stream, so that a seed stays the piece that it was.
 */
import {
  type Action,
  type Collider,
  type Condition,
  emptyPiece,
  type Lane,
  type On,
  type Piece,
  type Reaction,
  type SheetCue,
  type State,
  type Transition,
} from '../src/model/index.ts';
import { type Random, seeded } from '../testing/random.ts';
import { objectOf } from './box-piece.ts';
import type { OracleInput } from './oracle.ts';

/** So many ticks tell enough of one. */
export const TICKS = 90;
/** What a piece at random may have besides lanes, signals and reactions. */
export type Part = 'offsets' | 'zones' | 'shows' | 'templates' | 'acts' | 'blockers';

export const PROPERTIES = ['rotation.z', 'position.x', 'opacity'];

export class Maker {
  private readonly random: Random;
  /** A stream of its own: the other pieces stay what they were. */
  private readonly ofOffsets: Random;
  private readonly offsets: boolean;
  readonly piece: Piece;
  constructor(seed: number, ...parts: readonly Part[]) {
    const has = (part: Part) => parts.includes(part);
    const offsets = has('offsets');
    this.random = seeded(seed);
    this.ofOffsets = seeded(seed + 99_991);
    this.offsets = offsets;
    this.piece = emptyPiece('p', 'Random');
    this.piece.seed = Math.floor(this.random() * 1e6);
    this.make();
    if (offsets && seed % 3 === 0)
      Object.assign(this.piece.signals['si_p'] ?? {}, { remember: (seed % 7) / 10 });
    if (offsets) this.blends(seeded(seed + 33_007));
    if (offsets) this.follow(seeded(seed + 55_001));
    if (offsets) this.plays(seeded(seed + 77_003));
    if (has('zones')) this.zones(seeded(seed + 88_007));
    if (has('shows')) this.shows(seeded(seed + 99_013));
    if (has('templates')) this.templates(seed, seeded(seed + 66_029));
    if (has('acts')) this.acts(seeded(seed + 44_021));
    if (has('blockers')) this.blockers(seeded(seed + 22_013));
  }

  /** Things are shown and hidden, change their looks, face each other, and are heard. */
  private acts(random: Random): void {
    const some = (n: number) => Math.floor(random() * n);
    const of = <T>(list: readonly T[]): T => list[some(list.length)] as T;
    const p = this.piece;
    if (random() < 0.7)
      p.visitor = {
        ...{ object: 'ob_b', plane: 'x', drag: false, facing: 'none' },
        speed: random() < 0.5 ? 30 + some(90) : { signal: 'si_n' },
        keys: { left: ['j'], right: random() < 0.5 ? ['k'] : ['l'], up: [], down: [] },
      };
    p.sounds = { so_a: { id: 'so_a', name: 'a', synth: 'bell' } };
    for (const id of ['ob_a', 'ob_b']) {
      const o = p.objects[id] as Piece['objects'][string];
      p.objects[id] = { ...o, looks: [{ id: `lo_${id}`, name: 'other', fill: '#123456' }] } as typeof o;
    }
    const action = (): Action => {
      const after = random() < 0.3 ? { after: some(40) / 60 + random() / 100 } : {};
      const object = of(['ob_a', 'ob_b']);
      const toward = object === 'ob_a' ? 'ob_b' : 'ob_a';
      return of<Action>([
        { ...after, do: 'show', object },
        { ...after, do: 'hide', object },
        { ...after, do: 'look', object, to: of(['', `lo_${object}`]) },
        { ...after, do: 'sound', sound: 'so_a', ...(random() < 0.5 ? { object, volume: some(3) / 2 } : {}) },
        { ...after, do: 'stopSound', sound: 'so_a' },
        { ...after, do: 'face', object, toward, axis: 'z', seconds: of([0, 0.2, 0.5]), easing: 'linear' },
      ]);
    };
    for (let i = 0; i < 2 + some(3); i++)
      p.reactions[`re_acts${i}`] = {
        ...{ id: `re_acts${i}`, object: 'ob_a', when: [], after: 0, cooldown: 0, limit: 'always' },
        on: of<On>([
          { event: 'key.down', key: 'j' },
          { event: 'key.down', key: 'k' },
          { event: 'timer', every: 0.1 + some(20) / 60 },
          { event: 'signal.change', signal: 'si_n' },
        ]),
        actions: Array.from({ length: 1 + some(3) }, action),
      } as Reaction;
  }

  /** A visitor that walks among what stops and pushes it, and what hears that. */
  private blockers(random: Random): void {
    const some = (n: number) => Math.floor(random() * n);
    const of = <T>(list: readonly T[]): T => list[some(list.length)] as T;
    const p = this.piece;
    p.tags['ta_a'] ??= { id: 'ta_a', name: 'a' };
    p.visitor = {
      ...{ object: 'ob_b', plane: 'x', drag: false, facing: 'none', speed: 30 + some(400) },
      keys: { left: ['j'], right: ['k'], up: [], down: [] },
    };
    p.objects['ob_c'] ??= objectOf('ob_c', { kind: 'group' }, { position: [40, 0, 0] });
    for (const id of ['a', 'b', 'c']) {
      // The visitor has a body half the time; else it is a point.
      if (id === 'b' && random() < 0.5) continue;
      const collider = `co_block_${id}`;
      const shape: object =
        random() < 0.7
          ? { shape: 'box', size: [4.3 + some(40), 4.3 + some(40), 1 + some(9)] }
          : { shape: 'ball', radius: 3.3 + some(20) };
      p.colliders[collider] = {
        ...{ id: collider, name: collider, role: 'blocker', at: [0, 0, 0], through: random() < 0.5 },
        ...{ tags: random() < 0.3 ? ['ta_a'] : [], visitor: random() < 0.9, on: random() < 0.9, ...shape },
      } as Collider;
      const o = p.objects[`ob_${id}`] as Piece['objects'][string];
      p.objects[`ob_${id}`] = { ...o, colliders: [...(o.colliders ?? []), collider] };
    }
    this.clipsNeverJump();
    for (let i = 0; i < 3 + some(3); i++) {
      const object = `ob_${'ac'[some(2)]}`;
      const moved = `ob_${'ac'[some(2)]}`;
      const property = of(['position.x', 'position.x', 'rotation.z']);
      p.reactions[`re_block${i}`] = {
        ...{ id: `re_block${i}`, object, when: [], after: 0, cooldown: 0, limit: 'always' },
        on: of<On>([
          { event: 'touch.begin' },
          { event: 'touch.end', other: 'ob_b' },
          { event: 'touch.crush', collider: `co_block_${object.slice(3)}` },
          { event: 'timer', every: 0.15 + some(20) / 60 },
        ]),
        actions: [
          of<Action>([
            { do: 'add', signal: 'si_n', by: 1 },
            { do: 'toggle', signal: 'si_s' },
            { do: 'put', object: moved, property, to: some(120) - 60 },
            { do: 'motor', object: moved, property, rate: some(600) - 300 },
            ...['ob_a', 'ob_c'].map((object): Action => {
              const to = some(160) - 80;
              return { do: 'tween', object, property, to, seconds: some(40) / 60, easing: 'linear' };
            }),
          ]),
        ],
      } as Reaction;
    }
  }

  /** Of what clips themselves make jump there are tests elsewhere; the plain interpreter does not look for it. */
  private clipsNeverJump(): void {
    for (const c of Object.values(this.piece.clips))
      for (const track of c.tracks) {
        if (track.property === 'opacity') continue;
        track.keys = track.keys.map((k) => ({ ...k, easing: 'linear' }));
        if (c.loop !== 'loop' || track.mode !== 'absolute') continue;
        track.keys = track.keys.map((k) =>
          k.t >= c.duration ? { ...k, value: track.keys[0]?.value ?? 0 } : k,
        );
      }
  }

  /** Things that notice each other. */
  private zones(random: Random): void {
    const some = (n: number) => Math.floor(random() * n);
    const p = this.piece;
    p.tags['ta_a'] = { id: 'ta_a', name: 'a' };
    p.objects['ob_c'] = objectOf('ob_c', { kind: 'group' }, { position: [40, 0, 0] });
    const common = { tags: ['ta_a'], visitor: true, on: true };
    const box = (id: string, at: number): Collider => ({
      ...{ ...common, id, name: id, role: 'zone', shape: 'box', at: [at, 0, 0], through: random() < 0.5 },
      size: [10 + some(60), 10 + some(60), 1],
    });
    p.colliders = {
      co_a: box('co_a', some(30)),
      co_b: { ...common, id: 'co_b', name: 'co_b', role: 'near', enter: 5 + some(60), leave: some(100) },
      co_c: box('co_c', -some(20)),
    };
    for (const id of ['a', 'b', 'c'])
      p.objects[`ob_${id}`] = {
        ...(p.objects[`ob_${id}`] as Piece['objects'][string]),
        ...{ colliders: [`co_${id}`], tags: id === 'c' ? [] : ['ta_a'] },
      };
    this.clipsNeverJump();
    const zone = () => `co_${'abc'[some(3)]}`;
    const fact = (): Condition => {
      const collider = zone();
      const of = collider === 'co_b' ? 'near' : 'inside';
      const is = random() < 0.3 ? { is: false } : {};
      if (random() < 0.3) return { fact: 'count', collider, atLeast: 1 + some(2) };
      return { fact: of, collider, ...(random() < 0.3 ? { other: 'ob_a' } : {}), ...is } as Condition;
    };
    for (let i = 0; i < 2 + some(3); i++) {
      const object = `ob_${'abc'[some(3)]}`;
      const kind = (object === 'ob_b' ? ['near.enter', 'near.leave'] : ['zone.enter', 'zone.leave'])[some(2)];
      const property = ['position.x', 'rotation.z'][some(2)] as string;
      p.reactions[`re_z${i}`] = {
        ...{ id: `re_z${i}`, object, when: random() < 0.3 ? [fact()] : [], after: 0, cooldown: 0 },
        ...{ limit: 'always', on: { event: kind, ...(random() < 0.3 ? { tags: ['ta_a'] } : {}) } as On },
        actions: [
          [
            { do: 'toggle', signal: 'si_s' } as const,
            { do: 'add', signal: 'si_n', by: 1 } as const,
            { do: 'put', object: `ob_${'ab'[some(2)]}`, property, to: some(120) - 60 } as const,
            { do: 'motor', object: `ob_${'ab'[some(2)]}`, property, rate: some(800) - 400 } as const,
          ][some(4)] as Action,
        ],
      };
    }
    for (const t of p.machines['ma_a']?.lanes.flatMap((l) => l.transitions) ?? [])
      if (random() < 0.3) t.when = [...t.when, fact()];
  }

  /** A template of what such a piece holds, two instances of it, and reactions that spawn more. */
  private templates(seed: number, random: Random): void {
    const some = (n: number) => Math.floor(random() * n);
    const p = this.piece;
    const { objects, signals, clips, machines, reactions, follows } = new Maker(
      seed + 70_001,
      ...(this.offsets ? (['offsets'] as const) : []),
    ).piece;
    const text = JSON.stringify({ objects, signals, clips, machines, reactions, follows });
    const own = JSON.parse(text.replace(/"((?:ob|si|cl|ma|la|st|tr|re|cu|fo)_[^"]*)"/g, '"$1t"'));
    const plain = { when: [], after: 0, cooldown: 0, limit: 'always' };
    own.objects['ob_bt'].parent = 'ob_at';
    own.reactions['re_begint'] = {
      ...{ id: 're_begint', object: 'ob_at', ...plain, on: { event: 'piece.start' } },
      actions: [{ do: 'add', signal: 'si_nt', by: 1 }],
    };
    if (random() < 0.5)
      own.reactions['re_gonet'] = {
        ...{ id: 're_gonet', object: 'ob_at', ...plain, on: { event: 'message', message: 'me_b' } },
        actions: [{ do: 'remove', object: random() < 0.5 ? 'ob_at' : 'ob_bt' }],
      };
    p.templates['te_t'] = {
      ...{ id: 'te_t', name: 't', max: 1 + some(3), colliders: {}, cueSheets: {}, ...own },
    };
    const number = () =>
      random() < 0.5
        ? { signal: 'si_n', ...(random() < 0.5 ? { from: [-3, 3], to: [-2 - some(4), 4] } : {}) }
        : some(5) - 2;
    for (const id of ['ob_i', 'ob_j'])
      p.objects[id] = {
        ...objectOf(id, { kind: 'group' }),
        ...{ kind: 'instance', template: 'te_t' },
        signals: {
          ...(random() < 0.6 ? { si_nt: number() } : {}),
          ...(random() < 0.5 ? { si_ct: random() < 0.5 ? { signal: 'si_c' } : 'y' } : {}),
          ...(random() < 0.5 ? { si_st: random() < 0.5 ? { signal: 'si_s' } : true } : {}),
        },
      } as Piece['objects'][string];
    const action = (): Action => {
      const object = `ob_${'ij'[some(2)]}`;
      const property = 'signal.si_nt';
      const kind = some(5);
      if (kind === 0) return { do: 'put', object, property, to: some(7) - 3 };
      if (kind === 1) return { do: 'release', object, property };
      return {
        ...{ do: 'spawn', template: 'te_t', offset: [some(50), 0, 0] },
        ...(random() < 0.7 ? { seconds: 0.05 + some(900) / 1000 } : {}),
        ...(random() < 0.5 ? { signals: { si_nt: { pick: [-1, 2, 0] }, si_st: { signal: 'si_s' } } } : {}),
      } as Action;
    };
    const ons: On[] = [
      { event: 'message', message: 'me_a' },
      { event: 'signal.change', signal: 'si_s' },
      { event: 'key.down', key: 'j' },
      { event: 'timer', every: 0.1 + some(40) / 100 },
    ];
    for (const i of [0, 1, 2])
      p.reactions[`re_t${i}`] = {
        ...{ id: `re_t${i}`, object: 'ob_a', ...plain, on: ons[some(ons.length)] as On },
        actions: [action(), ...(random() < 0.3 ? [action()] : [])],
      } as Reaction;
  }

  /** Captions, effects and cue sheets, some of which cut each other short. */
  private shows(random: Random): void {
    const some = (n: number) => Math.floor(random() * n);
    const p = this.piece;
    const of = <T>(list: readonly T[]) => list[some(list.length)] as T;
    const seconds = (most: number) =>
      random() < 0.5 ? some(most * 60) / 60 : Math.round(random() * most * 1000) / 1000;
    p.effects = {
      ef_b: {
        id: 'ef_b',
        name: 'b',
        kind: 'burst',
        count: 2,
        seconds: [0.1, 0.4],
        direction: 0,
        spread: 0,
        speed: [0, 1],
        gravity: [0, 0, 0],
        drag: 0,
        depth: 0,
        size: [1, 1],
        spin: [0, 0],
        fills: ['#000000'],
        drawing: 'dot',
        fade: 0,
      },
      ef_f: {
        id: 'ef_f',
        name: 'f',
        kind: 'flash',
        fill: '#ffffff',
        opacity: 1,
        seconds: 0.2,
        easing: 'linear',
      },
      ef_s: { id: 'ef_s', name: 's', kind: 'shake', amount: [1, 1], turn: 0, seconds: 0.3, frequency: 9 },
    };
    const object = () => of(['ob_a', 'ob_b']);
    const action = (inCue: boolean): Action => {
      const after = random() < 0.25 ? { after: Math.max(0.001, seconds(0.4)) } : {};
      const kind = random();
      if (kind < 0.3)
        return {
          ...{ ...after, do: 'caption', object: object(), text: of(['', 'x', 'y', 'z']) },
          ...(random() < 0.85 ? { seconds: random() < 0.2 ? null : seconds(0.6) } : {}),
          ...(random() < 0.3
            ? { answers: ['an_a', 'an_b'].map((id) => ({ id: `${id}${this.answers++}`, text: id })) }
            : {}),
          ...(random() < 0.6 ? { again: of(['restart', 'ignore', 'queue'] as const) } : {}),
        };
      if (kind < 0.42) return { ...after, do: 'burst', effect: 'ef_b', object: object() };
      if (kind < 0.5) return { ...after, do: of(['flash', 'flash', 'shake'] as const), effect: '' } as Action;
      if (kind < 0.6 && !inCue) return { ...after, do: 'sheet', sheet: of(['sh_a', 'sh_b']) };
      if (kind < 0.65) return { ...after, do: 'stopSheet', sheet: of(['sh_a', 'sh_b']) };
      if (kind < 0.9)
        return {
          ...{ ...after, do: 'tween', object: object(), property: of(PROPERTIES), to: some(10) / 10 },
          ...{ seconds: seconds(0.5), easing: 'linear' },
        };
      if (kind < 0.95) return { ...after, do: 'play', clip: of(Object.keys(p.clips)), object: 'ob_a' };
      return { ...after, do: 'send', message: of(['me_a', 'me_b']) };
    };
    const fixed = (a: Action): Action =>
      a.do === 'flash'
        ? { ...a, effect: 'ef_f' }
        : a.do === 'shake'
          ? { ...a, effect: 'ef_s', object: 'ob_b' }
          : a;
    const actions = (inCue: boolean) => Array.from({ length: some(3) }, () => fixed(action(inCue)));
    const wait = (): On =>
      of<On>([
        { event: 'message', message: of(['me_a', 'me_b']) },
        { event: 'key.down', key: of(['j', 'k']) },
        { event: 'signal.change', signal: 'si_n' },
        { event: 'caption.gone' },
        { event: 'cue' },
      ]);
    let cues = 0;
    const tree = (depth: number): SheetCue[] =>
      Array.from({ length: depth === 0 ? 1 + some(2) : some(3) }, () => {
        const id = `cu_s${cues++}`;
        return {
          ...{ id, name: id, t: random() < 0.3 ? 0 : seconds(0.5), actions: actions(true) },
          ...(random() < 0.25 ? { wait: wait() } : {}),
          ...{ then: depth < 2 ? tree(depth + 1) : [], thenAfter: depth < 2 ? tree(depth + 1) : [] },
        };
      });
    for (const id of ['sh_a', 'sh_b'])
      p.cueSheets[id] = {
        ...{ id, name: id, cues: tree(0), again: of(['restart', 'ignore', 'queue'] as const) },
        end: random() < 0.7 ? 'stop' : { loop: 0.1 + seconds(0.3) },
      };
    const answers = () =>
      Object.values(p.reactions).flatMap((r) =>
        r.actions.flatMap((a) => (a.do === 'caption' ? (a.answers ?? []) : [])),
      );
    for (let i = 0; i < 3 + some(4); i++)
      p.reactions[`re_s${i}`] = {
        ...{
          id: `re_s${i}`,
          object: object(),
          when: [],
          after: random() < 0.2 ? 0.1 : 0,
          cooldown: 0,
          limit: 'always',
        },
        on: of<On>([
          { event: 'piece.start' },
          { event: 'key.down', key: of(['j', 'k']) },
          { event: 'timer', every: 0.15 + some(20) / 60 },
          { event: 'caption.gone' },
          { event: 'caption.gone', object: 'ob_b' },
          { event: 'sheet.done', sheet: of(['sh_a', 'sh_b']) },
          { event: 'sheet.start' },
          {
            event: 'caption.answer',
            ...(answers()[0] && random() < 0.5 ? { answer: answers()[0]?.id as string } : {}),
          },
        ]),
        actions: [fixed(action(false)), ...actions(false)],
      };
    p.reactions['re_sa'] = {
      ...{ id: 're_sa', object: 'ob_a', on: { event: 'piece.start' }, when: [], after: 0, cooldown: 0 },
      ...{ limit: 'always', actions: [{ do: 'sheet', sheet: 'sh_a' }] },
    };
    this.given = answers().map((a) => a.id);
    this.ofAnswers = random;
  }
  private answers = 0;
  private given: readonly string[] = [];
  private ofAnswers: Random = () => 1;

  /** Some states blend clips instead of playing one. */
  private blends(random: Random): void {
    const some = (n: number) => Math.floor(random() * n);
    const clips = Object.keys(this.piece.clips);
    const clip = () => clips[some(clips.length)] as string;
    for (const lane of this.piece.machines['ma_a']?.lanes ?? [])
      lane.states.forEach((state, i) => {
        if (random() > 0.25) return;
        const n = 1 + some(3);
        const range = {
          signal: 'si_n',
          points: Array.from({ length: n }, () => ({ clip: clip(), at: some(13) / 2 - 3 })),
          phase: random() < 0.5 ? ('own' as const) : ('common' as const),
        };
        const stack = Array.from({ length: n }, () => ({
          clip: clip(),
          amount: random() < 0.5 ? { signal: 'si_n' } : some(5) / 4,
        }));
        lane.states[i] = { ...state, play: random() < 0.7 ? { range } : { stack } };
      });
  }

  /** Some of the pieces with offsets follow a number, too: by a stream of their own. */
  private follow(random: Random): void {
    const p = this.piece;
    const some = (n: number) => Math.floor(random() * n);
    for (let i = 0; i < ([0, 0, 1, 3][some(4)] as number); i++) {
      const lane = p.machines['ma_a']?.lanes[some(3)];
      const clips = Object.keys(p.clips);
      const clip = clips[some(clips.length)] as string;
      const onClip = lane !== undefined && random() < 0.4;
      const onBlend = lane !== undefined && random() < 0.2;
      const object = ['ob_a', 'ob_b'][some(2)] as string;
      p.follows[`fo_${i}`] = {
        id: `fo_${i}`,
        target: onBlend
          ? { lane: lane.id, blend: true }
          : onClip
            ? { lane: lane.id, clip }
            : { object, property: PROPERTIES[some(3)] as string },
        source: { signal: 'si_n' },
        ...(random() < 0.8 ? { from: [-2, 3], to: onClip ? [0, 0.7] : [90, -20 * some(5)] } : {}),
        clamp: random() < 0.5,
        smooth: random() < 0.5 ? 0 : random() / 4,
      };
    }
  }
  /** In some of them clips are played and stopped by themselves. */
  private plays(random: Random): void {
    const some = (n: number) => Math.floor(random() * n);
    const p = this.piece;
    const clips = Object.keys(p.clips);
    const action = (): Action => {
      const after = random() < 0.2 ? { after: some(30) / 60 } : {};
      const of = { clip: clips[some(clips.length)] as string, object: 'ob_a' };
      if (random() < 0.25) return { ...after, do: 'stop', ...of };
      const speed = ([undefined, undefined, -1, 2, { signal: 'si_n' }] as const)[some(5)];
      const again = ([undefined, 'restart', 'ignore', 'queue', 'queue'] as const)[some(5)];
      return {
        ...{ ...after, do: 'play', ...of },
        ...(speed === undefined ? {} : { speed }),
        ...(again === undefined ? {} : { again }),
        ...(random() < 0.3 ? { from: 'here' as const } : {}),
      };
    };
    for (let i = 0; i < some(4); i++)
      p.reactions[`re_p${i}`] = {
        ...{ id: `re_p${i}`, object: 'ob_a', when: [], after: 0, cooldown: 0, limit: 'always' },
        on: [
          { event: 'key.down', key: 'j' } as const,
          { event: 'key.down', key: 'k' } as const,
          { event: 'timer', every: 0.1 + some(20) / 60 } as const,
          { event: 'clip.done' } as const,
          { event: 'signal.change', signal: 'si_n' } as const,
        ][some(5)] as On,
        actions: [action(), ...(random() < 0.4 ? [action()] : [])],
      };
  }
  private chance(p: number): boolean {
    return this.random() < p;
  }
  private pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.random() * list.length)] as T;
  }
  private some(most: number, least = 0): number {
    return least + Math.floor(this.random() * (most - least + 1));
  }
  /** Often on the grid of ticks, where instants meet; else anywhere. */
  private seconds(most: number): number {
    if (this.chance(0.4)) return this.some(Math.round(most * 10)) / 10;
    return this.chance(0.5)
      ? this.some(Math.round(most * 60)) / 60
      : Math.round(this.random() * most * 1000) / 1000;
  }
  private value(property: string): number {
    return property === 'opacity' ? this.some(10) / 10 : this.some(180, -90);
  }

  private make(): void {
    const p = this.piece;
    for (const id of ['ob_a', 'ob_b']) p.objects[id] = objectOf(id, { kind: 'group' });
    p.signals = {
      si_s: { id: 'si_s', name: 's', type: 'switch', initial: false, shared: false, note: '' },
      si_n: { id: 'si_n', name: 'n', type: 'number', initial: 1, min: -3, max: 3, shared: false, note: '' },
      si_p: { id: 'si_p', name: 'p', type: 'pulse', shared: false, note: '' },
      si_c: {
        id: 'si_c',
        name: 'c',
        type: 'choice',
        initial: 'x',
        options: ['x', 'y', 'z'],
        shared: false,
        note: '',
      },
    };
    p.messages = { me_a: { id: 'me_a', name: 'a', note: '' }, me_b: { id: 'me_b', name: 'b', note: '' } };
    const lanes: Lane[] = [];
    const count = this.some(3, 1);
    const shapes = Array.from({ length: count }, (_, l) =>
      Array.from({ length: this.some(4, 2) }, (_, i) => `st_${l}${i}`),
    );
    const where = (l: number) => ({ lane: `la_${l}`, state: this.pick(shapes[l] as string[]) });
    this.anywhere = () => where(this.some(count - 1));
    const clips = Array.from({ length: this.some(3, 1) }, (_, i) => this.clip(`cl_${i}`));
    for (const c of clips) p.clips[c.id] = c;
    shapes.forEach((ids, l) => {
      const states = ids.map((id) =>
        this.state(
          id,
          clips.map((c) => c.id),
        ),
      );
      const transitions = Array.from({ length: this.some(6, 1) }, (_, i) =>
        this.transition(`tr_${l}${i}`, ids, l),
      );
      lanes.push({
        id: `la_${l}`,
        name: `l${l}`,
        initial: this.chance(0.8)
          ? (ids[0] as string)
          : { draw: ids.map((state) => ({ state, odds: this.some(3) })) },
        unkeyed: this.chance(0.3) ? 'keep' : 'base',
        amount: this.chance(0.8) ? 1 : 0.5,
        blend: this.chance(0.8) ? 'replace' : 'add',
        states,
        transitions,
      });
    });
    p.machines['ma_a'] = { id: 'ma_a', name: 'm', object: 'ob_a', lanes };
    for (let i = 0; i < this.some(4); i++) p.reactions[`re_${i}`] = this.reaction(`re_${i}`);
  }
  private anywhere: () => { lane: string; state: string } = () => ({ lane: '', state: '' });

  private clip(id: string): Piece['clips'][string] {
    const duration = this.chance(0.1) ? 0 : Math.max(0.05, this.seconds(0.8));
    const tracks = ['ob_a', 'ob_b'].flatMap((object) =>
      PROPERTIES.filter(() => this.chance(0.4)).map((property) => {
        const times = [...new Set([0, this.seconds(Math.max(0.1, duration)), duration])].sort(
          (a, b) => a - b,
        );
        return {
          object,
          property,
          mode: this.offsets && this.ofOffsets() < 0.4 ? ('offset' as const) : ('absolute' as const),
          keys: times.map((t) => ({
            t,
            value: this.value(property),
            easing: this.chance(0.2) ? ('hold' as const) : ('linear' as const),
          })),
        };
      }),
    );
    const cues = Array.from({ length: this.some(2) }, (_, i) => ({
      id: `cu_${id}${i}`,
      t: this.chance(0.3)
        ? 0
        : this.chance(0.3)
          ? duration
          : Math.round(this.random() * duration * 100) / 100,
      when: this.pick(['forwards', 'backwards', 'both'] as const),
      actions: this.actions(1, 0.1),
    })).map((q) => ({ ...q, t: Math.min(q.t, duration) }));
    return {
      id,
      name: id,
      root: 'ob_a',
      duration,
      loop: this.pick(['once', 'once', 'loop', 'there-and-back'] as const),
      tracks,
      cues,
    };
  }
  private state(id: string, clips: readonly string[]): State {
    const play = this.chance(0.2)
      ? ('rest' as const)
      : this.chance(0.2)
        ? ('hold' as const)
        : {
            clip: this.pick(clips),
            speed: this.chance(0.25) ? { signal: 'si_n' } : this.pick([1, 1, -1, 2, 0.5, -0.7, 0]),
            from: this.chance(0.5) ? ('here' as const) : ('start' as const),
          };
    return {
      id,
      name: id,
      play,
      ...(this.chance(0.15) ? { onEntry: this.actions(1, 0) } : {}),
      ...(this.chance(0.15) ? { onExit: this.actions(1, 0) } : {}),
      ...(this.chance(0.05) ? { final: true } : {}),
    };
  }
  private transition(id: string, states: readonly string[], l: number): Transition {
    const easing = this.chance(0.2) ? { easing: 'hold' as const } : {};
    const must = this.chance(0.2) ? { mustFinish: true } : {};
    const on = this.chance(0.6) ? this.on(l) : null;
    const when = Array.from({ length: this.chance(0.5) ? 0 : this.some(2, 1) }, () => this.condition());
    const notBefore = this.chance(0.65)
      ? null
      : this.pick([{ seconds: this.seconds(0.6) }, { percent: this.some(12) * 10 }, 'loopEnd' as const]);
    return {
      id,
      from: this.chance(0.15) ? '*' : this.pick(states),
      to: this.pick(states),
      on,
      // What asks for nothing would go round and round at once.
      when: !on && when.length === 0 && !notBefore ? [{ signal: 'si_s', is: this.chance(0.5) }] : when,
      notBefore,
      crossfade: this.chance(0.5)
        ? { seconds: 0 }
        : this.chance(0.7)
          ? { seconds: this.seconds(0.5), ...easing, ...must }
          : { percent: this.some(10) * 10, ...easing, ...must },
      odds: this.chance(0.2) ? this.some(3) : null,
      enabled: this.chance(0.95),
      set: this.chance(0.97),
      reenter: this.chance(0.2),
      mayRepeat: this.chance(0.7),
    };
  }
  private on(l: number | null): On {
    const lane = this.anywhere();
    const list: On[] = [
      { event: 'signal.change', signal: this.pick(['si_s', 'si_n', 'si_c']) },
      { event: 'pulse', signal: 'si_p' },
      { event: 'message', message: this.pick(['me_a', 'me_b']) },
      { event: 'key.down', key: this.pick(['j', 'k']) },
      { event: 'clip.loop' },
      { event: 'state.enter', lane: lane.lane, state: lane.state },
      { event: 'state.leave', lane: lane.lane, state: lane.state },
      { event: 'clip.stopped' },
      { event: 'cue' },
    ];
    if (l !== null) list.push({ event: 'state.done' }, { event: 'state.done' }, { event: 'lane.done' });
    return this.pick(list);
  }
  private condition(): Condition {
    const at = this.anywhere();
    return this.pick<Condition>([
      { signal: 'si_s', is: this.chance(0.5) },
      { signal: 'si_n', atLeast: this.some(2, -2) },
      { signal: 'si_n', below: this.some(3, -1) },
      { signal: 'si_c', not: this.pick(['x', 'y']) },
      { signal: 'si_p', is: true },
      { fact: 'state', lane: at.lane, state: at.state, is: this.chance(0.7) },
      { fact: 'clip', clip: 'cl_0', past: this.seconds(0.4), is: this.chance(0.6) },
    ]);
  }
  private actions(most: number, go: number): Action[] {
    return Array.from({ length: this.some(most, 1) }, () => this.action(go));
  }
  private action(go: number): Action {
    const after = this.chance(0.25) ? { after: Math.max(0.001, this.seconds(0.4)) } : {};
    const at = this.anywhere();
    if (this.chance(go))
      return { ...after, do: 'go', ...at, ...(this.chance(0.4) ? { crossfade: { seconds: 0.2 } } : {}) };
    const object = this.pick(['ob_a', 'ob_b']);
    const property = this.pick(PROPERTIES);
    if (this.offsets && this.ofOffsets() < 0.3) return { ...after, ...this.moving(object, property) };
    return this.pick<Action>([
      { ...after, do: 'toggle', signal: 'si_s' },
      { ...after, do: 'set', signal: 'si_n', to: this.pick([-2, -1, 0, 1, 2, 0.5]) },
      { ...after, do: 'add', signal: 'si_n', by: { pick: [1, -1, 0.5] } },
      { ...after, do: 'set', signal: 'si_c', to: { pick: ['x', 'y', 'z'] } },
      { ...after, do: 'pulse', signal: 'si_p' },
      { ...after, do: 'send', message: this.pick(['me_a', 'me_b']) },
      { ...after, do: 'put', object, property, to: this.value(property) },
      { ...after, do: 'release', object, property },
    ]);
  }
  /** A tween or a motor: of the pieces with offsets only, by their own stream. */
  private moving(object: string, property: string): Action {
    const random = this.ofOffsets;
    const amount = () =>
      property === 'opacity' ? Math.round(random() * 20 - 10) / 10 : Math.round(random() * 200 - 90);
    const goal = () =>
      random() < 0.4 ? { to: amount() } : random() < 0.7 ? { by: amount() } : { toBase: amount() };
    const seconds = random() < 0.15 ? 0 : Math.round(random() * 40) / 60;
    const easing = random() < 0.2 ? ('hold' as const) : ('linear' as const);
    const kind = random();
    if (kind < 0.35)
      return {
        ...{ do: 'tween', object, property, seconds, easing },
        ...goal(),
        ...(random() < 0.3 ? { fromNow: true } : {}),
      };
    if (kind < 0.5)
      return {
        ...{ do: 'tween', object, seconds, easing },
        properties: [
          { property: 'rotation.z', ...goal() },
          { property: 'position.x', ...goal() },
        ],
      };
    if (kind < 0.8)
      return {
        ...{ do: 'motor', object, property, rate: random() < 0.3 ? { signal: 'si_n' } : amount() },
        ...(random() < 0.5 ? { acceleration: amount() * 3 } : {}),
        ...(random() < 0.5 ? { limit: Math.abs(amount()) } : {}),
      };
    return { do: 'stopMotor', object, property, ...(random() < 0.4 ? { return: true } : {}) };
  }
  private reaction(id: string): Reaction {
    const timer: On = {
      event: 'timer',
      ...(this.chance(0.5) ? { after: this.seconds(0.5) } : {}),
      every: Math.max(0.05, this.seconds(0.5)),
      ...(this.chance(0.3) ? { jitter: 0.04 } : {}),
    };
    return {
      id,
      object: 'ob_a',
      on: this.chance(0.4) ? timer : this.on(null),
      when: this.chance(0.6) ? [] : [this.condition()],
      after: this.chance(0.25) ? Math.max(0.001, this.seconds(0.3)) : 0,
      cooldown: this.chance(0.3) ? this.seconds(0.4) : 0,
      limit: this.chance(0.7)
        ? 'always'
        : this.chance(0.5)
          ? 'once'
          : { onceUntil: { event: 'pulse', signal: 'si_p' } },
      actions: this.actions(2, 0.2),
    };
  }

  inputs(): Map<number, OracleInput[]> {
    const all = new Map<number, OracleInput[]>();
    for (let i = 0; i < this.some(10, 2); i++) {
      const tick = this.some(TICKS - 5);
      const input = this.pick<OracleInput>([
        { set: { si_s: this.chance(0.5) } },
        { set: { si_n: this.some(3, -3) } },
        { set: { si_c: this.pick(['x', 'y', 'z']) } },
        { pulse: 'si_p' },
        { send: this.pick(['me_a', 'me_b']) },
        { key: this.pick(['j', 'k']), down: true },
      ]);
      all.set(tick, [...(all.get(tick) ?? []), input]);
    }
    for (const answer of this.given)
      for (const object of ['ob_a', 'ob_b']) {
        const tick = Math.floor(this.ofAnswers() * TICKS);
        all.set(tick, [...(all.get(tick) ?? []), { answer: { object, answer } }]);
      }
    return all;
  }
}
