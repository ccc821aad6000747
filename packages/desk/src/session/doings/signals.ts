/** Making signals and messages, and the ready values that go with each type. */
import {
  COMPARISONS,
  type Comparison,
  type Condition,
  type Signal,
  type SignalCondition,
  type SignalType,
  type SignalValue,
  uniqueName,
} from '@apple-tick/core/model';
import type { PieceStore } from '../model-help.ts';
import type { Session } from '../session.ts';

/** A signal of a type with the values that a new one has. */
export function newSignal(id: string, name: string, type: SignalType): Signal {
  const common = { id, name, shared: false, note: '' };
  switch (type) {
    case 'switch':
      return { ...common, type, initial: false };
    case 'pulse':
      return { ...common, type };
    case 'choice':
      return { ...common, type, initial: 'one', options: ['one', 'two'] };
    case 'number':
      return { ...common, type, initial: 0, min: 0, max: 100 };
    case 'text':
      return { ...common, type, initial: '' };
  }
}

/** Adds a signal and returns its id; the name gets a number when it is taken. */
/** What a new signal of a type is called. */
export const WISH: Record<SignalType, string> = {
  switch: 'on',
  pulse: 'go',
  choice: 'choice',
  number: 'amount',
  text: 'words',
};

export function addSignal(s: Session, type: SignalType, wish: string): string {
  const id = s.newId('signals');
  const name = uniqueName(wish, new Set(s.store.all('signals').map((x) => x.name)));
  s.edit(`Added the signal ${name}`, (e) => e.add('signals', newSignal(id, name, type)));
  return id;
}

export function addMessage(s: Session, wish: string): string {
  const id = s.newId('messages');
  const name = uniqueName(wish, new Set(s.store.all('messages').map((x) => x.name)));
  s.edit(`Added the message ${name}`, (e) => e.add('messages', { id, name, note: '' }));
  return id;
}

/** The first signal of a type, or a new one: what a picker that needs one begins with. */
export function firstSignal(s: Session, type: SignalType, wish: string): string {
  return s.store.all('signals').find((x) => x.type === type)?.id ?? addSignal(s, type, wish);
}

/** A value that a signal of this type can be set to or compared with. */
export function plainValue(signal: Signal): SignalValue {
  return signal.type === 'pulse' ? true : signal.type === 'switch' ? true : signal.initial;
}

/** How a condition on a signal compares, and with what. */
export function comparisonOf(c: SignalCondition): [Comparison, NonNullable<SignalCondition[Comparison]>] {
  const how = COMPARISONS.find((k) => c[k] !== undefined) ?? 'is';
  return [how, c[how] ?? true];
}

export function conditionOn(signal: Signal): Condition {
  return signal.type === 'number'
    ? { signal: signal.id, atLeast: signal.max === undefined ? 1 : ((signal.min ?? 0) + signal.max) / 2 }
    : { signal: signal.id, is: plainValue(signal) };
}

/** The other signals that can stand in for a value of this one. */
export function likeSignals(store: PieceStore, signal: Signal): Signal[] {
  return store.all('signals').filter((x) => x.type === signal.type && x.id !== signal.id);
}
