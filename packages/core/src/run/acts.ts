/** Actions, compiled: one entry for each kind; a forgotten one does not compile. */
import { compileValue, type Names, toNumber } from '../logic/index.ts';
import { type Action, CAPTION_SECONDS, canOffset, type PropertyInfo, propertyInfo } from '../model/index.ts';
import type { Deeds } from './deeds.ts';
import { compileFade } from './fade.ts';
import type { Cause } from './trace.ts';

/** What it returns tells what it began, of what lasts, from others. */
export type Act = (deeds: Deeds, cause: Cause) => unknown;
/** `stream`: number of the random stream of whoever acts. */
type Compile<A> = (a: A, names: Names, stream: number) => Act;

/** What names something that is not there does nothing. */
const nothing: Act = () => {};

const ACTS: { [K in Action['do']]: Compile<Extract<Action, { do: K }>> } = {
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
  tween: (a, names, stream) => {
    const the = thing(names, a.object);
    const asked = a.properties ?? [{ property: a.property ?? '', to: a.to, by: a.by, toBase: a.toBase }];
    const goals = asked.flatMap((x) => {
      const property = propertyInfo(x.property);
      const mode = x.to !== undefined ? 'to' : x.by !== undefined ? 'by' : 'toBase';
      const read = compileValue(x.to ?? x.by ?? x.toBase ?? 0, names, stream);
      if (property) for (const object of possible(names, a.object)) names.tweens(object, property);
      return property ? [{ property, mode, read } as const] : [];
    });
    const how = { seconds: a.seconds, curve: names.curve(a.easing), fromNow: a.fromNow ?? false };
    return (d, cause) =>
      d.tween(
        the(cause),
        goals.map(({ property, mode, read }) => ({ property, mode, value: () => read(d) })),
        how,
        cause,
      );
  },
  motor: (a, names, stream) => {
    const rate = compileValue(a.rate, names, stream);
    const acceleration = compileValue(a.acceleration ?? 0, names, stream);
    const limit = compileValue(a.limit ?? Number.POSITIVE_INFINITY, names, stream);
    return about(names, a, (the, property) => {
      if (canOffset(property)) for (const object of possible(names, a.object)) names.motors(object, property);
      return (d, cause) => {
        const motor = {
          rate: toNumber(rate(d)),
          acceleration: toNumber(acceleration(d)),
          limit: toNumber(limit(d)),
        };
        d.motor(the(cause), property, motor, cause);
      };
    });
  },
  stopMotor: (a, names) => {
    return about(
      names,
      a,
      (the, property) => (d, cause) => d.stopMotor(the(cause), property, a.return ?? false, cause),
    );
  },
  release: (a, names) => {
    return about(names, a, (the, property) => (d, cause) => d.release(the(cause), property, cause));
  },
  show: (a, names) => put(names, a.object, 'shown', true),
  hide: (a, names) => put(names, a.object, 'shown', false),
  look: (a, names) => put(names, a.object, 'look', a.to),
  face: (a, names) => {
    const [the, toward] = [thing(names, a.object), names.object(a.toward)];
    const axis = 'xyz'.indexOf(a.axis ?? 'y');
    if (toward < 0) return nothing;
    for (const object of possible(names, a.object))
      names.tweens(object, propertyInfo(`rotation.${a.axis ?? 'y'}`) as PropertyInfo);
    for (const object of [...possible(names, a.object), toward]) names.stands(object);
    const how = { seconds: a.seconds, curve: names.curve(a.easing), fromNow: true };
    return (d, cause) => d.face(the(cause), toward, axis, how, cause);
  },
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
  sound: (a, names) => {
    const the = a.object === undefined ? nobody : thing(names, a.object);
    return (d, cause) => d.sound(a.sound, a.volume ?? 1, the(cause), cause);
  },
  stopSound: (a) => (d, cause) => d.stopSound(a.sound, cause),
  burst: (a, names) => {
    const [effect, the] = [names.effect(a.effect), thing(names, a.object)];
    for (const object of possible(names, a.object)) names.stands(object);
    return effect < 0 ? nothing : (d, cause) => the(cause) >= 0 && d.effect(effect, the(cause), cause);
  },
  sheet: (a, names) => {
    const sheet = names.sheet(a.sheet);
    return sheet < 0 ? nothing : (d, cause) => d.sheet(sheet, cause);
  },
  stopSheet: (a, names) => {
    const sheet = names.sheet(a.sheet);
    return sheet < 0 ? nothing : (d, cause) => d.stopSheet(sheet, cause);
  },
  spawn: (a, names, stream) => {
    const template = names.template(a.template);
    const the = a.object === undefined ? nobody : thing(names, a.object);
    for (const object of a.object === undefined ? [] : possible(names, a.object)) names.stands(object);
    const parent = a.parent === undefined || a.parent === null ? -1 : names.object(a.parent);
    const given = Object.entries(a.signals ?? {}).map(
      ([id, v]) => [id, compileValue(v, names, stream)] as const,
    );
    const offset = a.offset ?? [0, 0, 0];
    const isLost = (a.parent ?? null) !== null && parent < 0;
    if (template < 0 || isLost) return nothing;
    return (d, cause) => {
      const at = the(cause);
      if (a.object !== undefined && at < 0) return;
      const values = given.map(([id, v]) => [id, v(d)] as const);
      d.spawn(template, parent, at, offset, values, a.seconds ?? 0, cause);
    };
  },
  remove: (a, names) => {
    const the = thing(names, a.object);
    return (d, cause) => d.remove(the(cause), cause);
  },
  flash: overlaid,
  shake: overlaid,
  caption: (a, names, stream) => {
    const [the, words] = [thing(names, a.object), compileValue(a.text, names, stream)];
    const how = {
      seconds: a.seconds === null ? -1 : (a.seconds ?? CAPTION_SECONDS),
      answers: a.answers ? names.answers(a.answers) : -1,
      again: a.again ?? 'restart',
    };
    return (d, cause) => d.caption(the(cause), words(d), how, cause);
  },
};

/** What is drawn over the frame, or over one thing; where that is not there it is nothing. */
function overlaid(a: { readonly effect: string; readonly object?: string | undefined }, names: Names): Act {
  const effect = names.effect(a.effect);
  if (effect < 0) return nothing;
  if (a.object === undefined) return (d, cause) => d.effect(effect, -1, cause);
  const the = thing(names, a.object);
  return (d, cause) => the(cause) >= 0 && d.effect(effect, the(cause), cause);
}

function put(names: Names, object: string, property: string, value: boolean | string): Act {
  return about(names, { object, property }, (the, p) => (d, cause) => d.put(the(cause), p, value, cause));
}

/** The number of what is acted on, −1 for nothing: it may be the thing of the event. */
type The = (cause: Cause) => number;

const nobody: The = () => -1;

function thing(names: Names, id: string): The {
  if (id === 'other') return (cause) => cause.other ?? -1;
  const object = names.object(id);
  return () => object;
}

/** All that it may be. */
function possible(names: Names, id: string): readonly number[] {
  if (id === 'other') return names.others;
  const object = names.object(id);
  return object < 0 ? [] : [object];
}

/** What is about a property of an object; nothing where there is no such property. */
function about(
  names: Names,
  of: { readonly object: string; readonly property: string },
  act: (the: The, property: PropertyInfo) => Act,
): Act {
  const property = propertyInfo(of.property);
  return property ? act(thing(names, of.object), property) : nothing;
}

export function compileAction(a: Action, names: Names, stream: number): Act {
  return ACTS[a.do](a as never, names, stream);
}
