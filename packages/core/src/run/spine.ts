/** What the spine itself does of each kind: it stands first among the features. */
import { compileValue, toNumber } from '../logic/index.ts';
import { type EventName, propertyInfo } from '../model/index.ts';
import type { Claims } from './claims.ts';
import { facts } from './conditions.ts';
import { compileFade } from './fade.ts';
import type { ActionTable, Feature, InputTable, LastingTable, ScheduledKind } from './feature.ts';
import { AT_POINT, COMES_AND_GOES, type Hearing, NAMED, OF_LANE, STATE_DONE } from './hearing.ts';
import { idOf } from './input.ts';
import type { Names } from './names.ts';
import type { Program } from './program.ts';
import type { CompiledAction } from './run-actions.ts';
import { AZIMUTH, ELEVATION, FRAME_HEIGHT, FRAME_WIDTH } from './state.ts';
import { about } from './things.ts';

/** What names something that is not there does nothing. */
const nothing: CompiledAction = () => {};

const actions: ActionTable<
  | 'set'
  | 'toggle'
  | 'add'
  | 'pulse'
  | 'send'
  | 'put'
  | 'release'
  | 'show'
  | 'hide'
  | 'look'
  | 'play'
  | 'stop'
  | 'go'
> = {
  set: (a, names, stream) => {
    const signal = names.signal(a.signal);
    const to = compileValue(a.to, names, stream);
    return signal < 0 ? nothing : (d, cause) => d.setSignal(signal, to(d), cause);
  },
  toggle: (a, names) => {
    const signal = names.signal(a.signal);
    return signal < 0 ? nothing : (d, cause) => d.setSignal(signal, !d.signal(signal), cause);
  },
  add: (a, names, stream) => {
    const signal = names.signal(a.signal);
    const by = compileValue(a.by, names, stream);
    if (signal < 0) return nothing;
    return (d, cause) => d.setSignal(signal, toNumber(d.signal(signal)) + toNumber(by(d)), cause);
  },
  pulse: (a, names) => {
    const signal = names.signal(a.signal);
    return signal < 0 ? nothing : (d, cause) => d.pulse(signal, cause);
  },
  send: (a) => (d, cause) => d.send(a.message, cause, a.tags),
  put: (a, names, stream) => {
    const to = compileValue(a.to, names, stream);
    return about(names, a, (the, property) => (d, cause) => d.put(the(cause), property, to(d), cause));
  },
  release: (a, names) => {
    return about(names, a, (the, property) => (d, cause) => d.release(the(cause), property, cause));
  },
  show: (a, names) => put(names, a.object, 'shown', true),
  hide: (a, names) => put(names, a.object, 'shown', false),
  look: (a, names) => put(names, a.object, 'look', a.to),
  play: (a, names) => {
    const lane = names.direct(a.clip, a.object);
    if (lane < 0) return nothing;
    const state = names.directState(lane, a.speed ?? 1, a.from ?? 'start');
    return (d, cause) => d.play(lane, state, a.again ?? 'restart', cause);
  },
  stop: (a, names) => {
    const lane = names.direct(a.clip, a.object);
    return lane < 0 ? nothing : (d, cause) => d.stop(lane, cause);
  },
  go: (a, names) => {
    const lane = names.lane(a.lane);
    const state = names.state(lane, a.state);
    const fade = compileFade(a.crossfade);
    return lane < 0 || state < 0 ? nothing : (d, cause) => d.go(lane, state, fade, cause);
  },
};

function put(names: Names, object: string, property: string, value: boolean | string): CompiledAction {
  return about(names, { object, property }, (the, p) => (d, cause) => d.put(the(cause), p, value, cause));
}

const lasting: LastingTable<'play'> = {
  play: (a, c) => {
    if (c.clipOf(a.clip)?.loop !== 'once') return null;
    const lane = c.direct(a.clip, a.object);
    return {
      seconds: 0,
      goesOn: ({ firstDirect }, state, _t, _began, token) =>
        lane >= 0 &&
        state.active[lane] !== 0 &&
        !state.hasEnded(lane * 2) &&
        state.begun[lane - firstDirect] === token,
    };
  },
};

const inputs: InputTable<
  | ('pointer' | 'click' | 'press' | 'release' | 'enter' | 'leave' | 'view' | 'frame')
  | ('key' | 'set' | 'pulse' | 'send' | 'put')
> = {
  pointer: ({ pointer: to }, { pointer }) => pointer.move(to),
  click: ({ click }, { pointer }) => pointer.byName('click', click),
  press: ({ press }, { pointer }) => pointer.byName('press', press),
  release: ({ release }, { pointer }) => pointer.byName('release', release),
  enter: ({ enter }, { pointer }) => pointer.byName('enter', enter),
  leave: ({ leave }, { pointer }) => pointer.byName('leave', leave),
  /** The angle from which people look, which decides what a point hits. */
  view: ({ view }, { context, scene }) => {
    const { one } = context.state;
    context.recordInput({ input: 'view', ...view });
    one[AZIMUTH] = view.azimuth;
    one[ELEVATION] = view.elevation;
    scene.changed();
  },
  /** What people see of the piece where it is shown, px: objects on top stand at its edges. */
  frame: ({ frame }, { context, scene }) => {
    const { one } = context.state;
    context.recordInput({ input: 'frame', ...frame });
    one[FRAME_WIDTH] = frame.width;
    one[FRAME_HEIGHT] = frame.height;
    scene.changed();
  },
  key: (input, { context }) => {
    const key = input.key.length === 1 ? input.key.toLowerCase() : input.key;
    for (const x of context.phases.key) x.key(key, input.down);
    const cause = context.recordInput({ input: 'key', key });
    const event = input.down ? 'key.down' : 'key.up';
    context.queueEvent(context.raise({ kind: 'event', event, key }, cause), cause);
  },
  set: ({ set }, { context, runner }) => {
    for (const [name, value] of Object.entries(set)) {
      const signal = idOf(context.program.piece.signals, name);
      const cause = context.recordInput({ input: 'set', signal, to: value });
      runner.setSignal(signalOf(context.program, signal), value, cause);
    }
  },
  pulse: ({ pulse }, { context, runner }) => {
    const signal = idOf(context.program.piece.signals, pulse);
    const cause = context.recordInput({ input: 'pulse', signal });
    const i = signalOf(context.program, signal);
    if (i >= 0) runner.pulse(i, cause);
  },
  send: ({ send }, { context, runner }) => {
    const message = idOf(context.program.piece.messages, send);
    runner.send(message, context.recordInput({ input: 'send', message }));
  },
  put: ({ put: { object, property, value } }, { context, runner }) => {
    const [id, at] = context.find(object);
    const cause = context.recordInput({ input: 'put', object: id, property, to: value });
    const info = propertyInfo(property);
    if (info) runner.put(at, info, value, cause);
  },
};
const signalOf = ({ signalIndex }: Program, id: string) => signalIndex.get(id) ?? -1;

const scheduled: Record<string, ScheduledKind> = {
  reaction: {
    run: (item, cause, { runner }) => runner.runDelayedReaction(item, cause),
    list: ({ reactions }, reaction) => reactions[reaction]?.actions ?? -1,
    place: ({ spawns }, reaction) => spawns.ofReaction[reaction] ?? -1,
    migrate: ({ old, next, objectOf }, item) => {
      const index = next.reactionIndex.get(old.reactions[item.index]?.id ?? '');
      return index === undefined ? undefined : { ...item, index, n: 1 + objectOf(item.n - 1) };
    },
  },
  action: {
    run: (item, cause, { runner }) => runner.runDelayedAction(item, cause),
    list: (_, list) => list,
    place: ({ lists }, list) => lists.place[list] ?? -1,
    migrate: ({ old, next, objectOf }, item) => {
      const index = next.listIndex.get(old.lists.keys[item.index] ?? '');
      if (index === undefined) return undefined;
      const { first } = next.lists;
      if ((first[index] as number) + item.action >= (first[index + 1] as number)) return undefined;
      return { ...item, index, n: 1 + objectOf(item.n - 1) };
    },
  },
  'long press': {
    run: (item, cause, { runner }) => runner.long(item.index, cause),
    migrate: (_, item) => item,
  },
};

const claims: Claims = {
  kinds: ['group', 'rect', 'ellipse', 'polygon', 'path', 'image', 'text'],
  tables: ['objects', 'tags', 'clips', 'signals', 'messages', 'machines', 'reactions', 'assets'],
};

/** All of one kind. */
const each = <const E extends EventName>(hearing: Hearing, ...names: readonly E[]) =>
  Object.fromEntries(names.map((name) => [name, hearing])) as { readonly [K in E]: Hearing };

const events = {
  ...each(NAMED, 'piece.start', 'key.down', 'key.up', 'signal.change', 'pulse', 'message'),
  ...each(NAMED, 'clip.start', 'clip.done', 'clip.loop', 'clip.stopped', 'cue'),
  ...each(AT_POINT, 'pointer.press', 'pointer.release', 'pointer.click', 'pointer.double', 'pointer.long'),
  ...each(COMES_AND_GOES, 'pointer.enter', 'pointer.leave'),
  ...each(OF_LANE, 'state.enter', 'state.leave', 'lane.done'),
  'state.done': STATE_DONE,
};

export const spine: Feature = { name: 'spine', claims, events, actions, lasting, facts, inputs, scheduled };
