/** Clips: what they key is there, and holds values of its kind. */
import {
  type Clip,
  type Collider,
  canOffset,
  fitsProperty,
  fitsSignal,
  type Signal,
  type SignalValue,
  valueInfo,
} from '../model/index.ts';
import type { Add, Scope } from './known.ts';

export function checkProperty(
  { known, template }: Scope,
  name: string,
  holder: Record<string, unknown>,
  path: string,
  add: Add,
): void {
  if (valueInfo(name)) return;
  const { object } = holder;
  if (typeof object !== 'string' || !known.part(object, name, template?.id ?? null))
    add('property', path, `There is no property called "${name}".`);
}

export function checkClip({ known, template }: Scope, clip: Clip, add: Add): void {
  const seen = new Set<string>();
  clip.tracks.forEach((track, i) => {
    const at = `clips.${clip.id}.tracks[${i}]`;
    const info = valueInfo(track.property);
    const part = info ? undefined : known.part(track.object, track.property, template?.id ?? null);
    const who = `${track.object} ${track.property}`;
    if (seen.has(who)) add('track', at, 'The clip has a second track for the same object and property.');
    seen.add(who);
    if (track.mode === 'offset' && (info ? !canOffset(info) : !isNumber(part)))
      add('mode', `${at}.mode`, `The property "${track.property}" has no offset: it is not a number.`);
    let last = -1;
    track.keys.forEach((k, n) => {
      if (!(k.t > last)) add('order', `${at}.keys[${n}].t`, 'The keys must stand in order of time.');
      last = k.t;
      if (info ? !fitsProperty(info, k.value) : part !== undefined && !fitsPart(part, k.value))
        add('type', `${at}.keys[${n}].value`, `The value does not suit the property "${track.property}".`);
    });
  });
  clip.cues.forEach((q, i) => {
    if (q.t > clip.duration)
      add('time', `clips.${clip.id}.cues[${i}].t`, 'The cue lies after the end of its clip.');
  });
}

const isNumber = (part: Signal | Collider | undefined) =>
  part !== undefined && 'type' in part && part.type === 'number';

/** Whether a signal, or the switch of a zone, can be keyed to be so. */
function fitsPart(part: Signal | Collider, value: unknown): boolean {
  return 'type' in part
    ? part.type !== 'pulse' && fitsSignal(part, value as SignalValue)
    : typeof value === 'boolean';
}
