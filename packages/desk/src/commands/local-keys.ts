/**
 * Keys that mean something only where the focus is: each place hears its own, and the sheet of keys lists them all. The
 * names are told to people, the ids are what the place does.
 */
import { keyText } from './command.ts';

interface LocalKey {
  readonly id: string;
  readonly name: string;
  readonly keys: readonly string[];
}

const ARROWS = ['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'] as const;
const zooming = (what: string): readonly LocalKey[] => [
  { id: 'nearer', name: `Zoom in, ${what}`, keys: ['+'] },
  { id: 'farther', name: `Zoom out, ${what}`, keys: ['-'] },
  { id: 'whole', name: `All of ${what}`, keys: ['0'] },
];

export const LOCAL_KEYS = {
  view: {
    title: 'In the view',
    keys: [{ id: 'move', name: 'Move what is chosen; with Shift ten times as far', keys: ARROWS }],
  },
  tree: {
    title: 'In the list of objects',
    keys: [
      { id: 'step', name: 'Before or behind its neighbour', keys: ['Mod+ArrowUp', 'Mod+ArrowDown'] },
      {
        id: 'parent',
        name: 'Out of its group, or into the one before',
        keys: ['Mod+ArrowLeft', 'Mod+ArrowRight'],
      },
      { id: 'along', name: 'To the one above or below', keys: ['ArrowUp', 'ArrowDown'] },
      { id: 'fold', name: 'Fold or unfold what it holds', keys: ['ArrowLeft', 'ArrowRight'] },
      { id: 'ends', name: 'To the first or the last', keys: ['Home', 'End'] },
    ],
  },
  timeline: {
    title: 'In the timeline',
    keys: [
      { id: 'play', name: 'Play, or pause', keys: [' '] },
      { id: 'step', name: 'A frame on or back', keys: ['ArrowLeft', 'ArrowRight'] },
      { id: 'jump', name: 'To the next key, or the one before', keys: ['Mod+ArrowLeft', 'Mod+ArrowRight'] },
      {
        id: 'nudge',
        name: 'Move the chosen keys by a frame; with Shift by ten',
        keys: ['Alt+ArrowLeft', 'Alt+ArrowRight'],
      },
      ...zooming('the timeline'),
    ],
  },
  lanes: { title: 'In the lanes', keys: zooming('the lanes') },
  panel: {
    title: 'On a state',
    keys: [
      { id: 'open', name: 'Unfold its motion', keys: ['Enter'] },
      { id: 'wire', name: 'A transition from here', keys: ['t'] },
      { id: 'rename', name: 'Rename it', keys: ['F2'] },
      { id: 'before', name: 'One place to the left', keys: ['Mod+ArrowLeft'] },
      { id: 'after', name: 'One place to the right', keys: ['Mod+ArrowRight'] },
      { id: 'choose', name: 'Choose it', keys: [' '] },
    ],
  },
  sheet: {
    title: 'On a cue of a sheet',
    keys: [
      { id: 'delete', name: 'Delete it', keys: ['Delete', 'Backspace'] },
      { id: 'split', name: 'Another after it', keys: ['Enter'] },
      { id: 'move', name: 'Earlier or later; with Shift by a second', keys: ['ArrowLeft', 'ArrowRight'] },
    ],
  },
  points: {
    title: 'On a point of a path',
    keys: [{ id: 'delete', name: 'Take it out', keys: ['Delete', 'Backspace'] }],
  },
  pen: {
    title: 'While a path is drawn',
    keys: [
      { id: 'done', name: 'Done', keys: ['Enter'] },
      { id: 'leave', name: 'Leave it', keys: ['Escape'] },
      { id: 'back', name: 'Take back the last point', keys: ['Backspace'] },
    ],
  },
  run: {
    title: 'In a run that is paused',
    keys: [{ id: 'tick', name: 'One tick on', keys: ['ArrowRight'] }],
  },
} as const satisfies Record<string, { title: string; keys: readonly LocalKey[] }>;

export type KeyPlace = keyof typeof LOCAL_KEYS;
export type LocalKeyId<P extends KeyPlace> = (typeof LOCAL_KEYS)[P]['keys'][number]['id'];

/** What a key means at this place; undefined where it means nothing there. */
export function localKey<P extends KeyPlace>(
  place: P,
  e: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'shiftKey' | 'altKey'>,
): LocalKeyId<P> | undefined {
  const text = keyText(e);
  const keys: readonly LocalKey[] = LOCAL_KEYS[place].keys;
  return keys.find((k) => k.keys.includes(text))?.id as LocalKeyId<P> | undefined;
}
