/** Actions, compiled: one entry for each kind; a forgotten one does not compile. */
import { compileValue, type Names, toNumber } from '../logic/index.ts';
import { type Action, propertyInfo } from '../model/index.ts';
import type { Deeds } from './deeds.ts';
import { compileFade } from './fade.ts';
import type { Cause } from './trace.ts';

export type Act = (deeds: Deeds, cause: Cause) => void;
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
  send: (a) => (d, cause) => d.send(a.message, cause),
  put: (a, names, stream) => {
    const object = names.object(a.object);
    const property = propertyInfo(a.property);
    const to = compileValue(a.to, names, stream);
    return object < 0 || !property ? nothing : (d, cause) => d.put(object, property, to(d), cause);
  },
  release: (a, names) => {
    const object = names.object(a.object);
    const property = propertyInfo(a.property);
    return object < 0 || !property ? nothing : (d, cause) => d.release(object, property, cause);
  },
  show: (a, names) => put(names, a.object, 'shown', true),
  hide: (a, names) => put(names, a.object, 'shown', false),
  look: (a, names) => put(names, a.object, 'look', a.to),
  go: (a, names) => {
    const lane = names.lane(a.lane);
    const state = names.state(lane, a.state);
    const fade = compileFade(a.crossfade);
    return lane < 0 || state < 0 ? nothing : (d, cause) => d.go(lane, state, fade, cause);
  },
  sound: (a) => (d, cause) => d.sound(a.sound, cause),
};

function put(names: Names, id: string, name: string, value: boolean | string): Act {
  const object = names.object(id);
  const property = propertyInfo(name);
  return object < 0 || !property ? nothing : (d, cause) => d.put(object, property, value, cause);
}

export function compileAction(a: Action, names: Names, stream: number): Act {
  return ACTS[a.do](a as never, names, stream);
}
