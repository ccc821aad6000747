/** Lists in which what is missing can be made: a new signal, message, sound or effect is picked like one that is there. */
import type { SignalType } from '@apple-tick/core/model';
import { addEffect, type EffectKind } from './effects.ts';
import type { Session } from './session.ts';
import { addSheet } from './sheets.ts';
import { addMessage, addSignal, WISH } from './signals.ts';
import { addMade } from './sounds.ts';

/** Before what is to be made, where the others have their ids. */
const NEW = '(new) ';
/** What a list offers to make: signals of these types, effects of these kinds, a message, or a cue sheet. */
export function offered(...kinds: readonly (SignalType | EffectKind | 'message' | 'scene')[]) {
  return { group: 'New', options: kinds.map((k) => [NEW + k, `a new ${k}`] as const) };
}
/** Likewise sounds, by the names of how they are made. */
export function offeredSounds(synths: readonly string[]) {
  return { group: 'New', options: synths.map((x) => [`${NEW}sound ${x}`, x] as const) };
}

/** The id of what was picked, which is made if it is to be. Within a step, so that it is one with what picks it. */
export function picked(s: Session, value: string): string {
  if (!value.startsWith(NEW)) return value;
  const [kind, synth] = value.slice(NEW.length).split(' ') as [
    SignalType | EffectKind | 'message' | 'sound' | 'scene',
    string?,
  ];
  if (kind === 'scene') return addSheet(s);
  if (kind === 'message') return addMessage(s, 'ready');
  if (kind === 'burst' || kind === 'flash' || kind === 'shake') return addEffect(s, kind);
  return kind === 'sound' ? addMade(s, synth ?? 'bell') : addSignal(s, kind, WISH[kind]);
}
