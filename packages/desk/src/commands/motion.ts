/** Motion: machines, lanes, states, keys, recipes. */
import { onePlay } from '@apple-tick/core/model';
import { animate, motionsOf, openMotion } from '../session/motion/animate.ts';
import { togglePlay } from '../session/motion/clips.ts';
import { addCue, allKeys, keyChosen, reverseChosen, selectKeys } from '../session/motion/keys.ts';
import { addLane, addMachine, addState, addTransition, openPanel } from '../session/motion/machines.ts';
import { putRecipe, RECIPES } from '../session/recipes/recipes.ts';
import type { Session } from '../session/session.ts';
import type { CommandInfo } from './command.ts';

const FOLDED = { openState: null, openClip: null, keying: false, playing: false } as const;

/** The state that is chosen, where it plays a clip. */
function chosenState(s: Session) {
  const sel = s.selected;
  if (sel?.kind !== 'state') return undefined;
  const lane = s.store.get('machines', sel.machine)?.lanes.find((l) => l.id === sel.lane);
  const state = lane?.states.find((x) => x.id === sel.id);
  return lane && state && onePlay(state.play) ? { machine: sel.machine, lane, state } : undefined;
}

const noLane = (s: Session) => s.machine === undefined;

const laneOf = (s: Session) => s.machine?.lanes.find((l) => l.id === s.state.lane) ?? s.machine?.lanes[0];

const nextState = (s: Session) => {
  const sel = s.selected;
  const states = laneOf(s)?.states ?? [];
  const at = sel?.kind === 'state' ? states.findIndex((x) => x.id === sel.id) : -1;
  return at < 0 ? undefined : states[at + 1];
};

export const MOTION: readonly CommandInfo[] = [
  {
    id: 'animate',
    place: 'motion',
    needs: 'choose an object first',
    name: 'Animate what is chosen',
    keys: ['a'],
    run: animate,
    enabled: (s) => s.exists('objects', s.state.object),
  },
  {
    ...{ id: 'machine.add', place: 'motion', name: 'Give what is chosen a machine of its own', keys: [] },
    needs: 'choose an object first',
    enabled: (s) => s.exists('objects', s.state.object) && !s.state.readOnly,
    run: (s) => s.state.object !== null && addMachine(s, s.state.object),
  },
  {
    ...{ id: 'keys.all', place: 'motion', name: 'Choose all keys of the timeline', keys: [] },
    needs: 'unfold a clip first',
    enabled: (s) => (s.open?.clip.tracks.length ?? 0) > 0,
    run: (s) => s.open && selectKeys(s, s.open.clip.id, allKeys(s.open.clip)),
  },
  {
    ...{ id: 'keys.reverse', place: 'motion', name: 'Reverse the chosen keys', keys: [] },
    needs: 'choose keys first',
    enabled: (s) => s.selected?.kind === 'keys' && !s.state.readOnly,
    run: reverseChosen,
  },
  {
    ...{ id: 'key', place: 'motion', name: 'Key what is chosen', keys: ['Mod+Enter'] },
    needs: 'unfold a clip and choose an object first',
    run: keyChosen,
    enabled: (s) => s.open !== null && s.exists('objects', s.state.object),
  },
  {
    ...{ id: 'cue', place: 'motion', name: 'Add a cue', keys: [], needs: 'unfold a clip first' },
    run: (s) => s.open && addCue(s, s.open.clip, s.state.playhead),
    enabled: (s) => s.open !== null,
  },
  {
    ...{
      id: 'play',
      place: 'motion',
      name: 'Play the clip, or pause',
      keys: [],
      needs: 'unfold a clip first',
    },
    run: togglePlay,
    enabled: (s) => s.open !== null,
  },
  {
    ...{
      id: 'keying',
      place: 'motion',
      name: 'Key as I move, on or off',
      keys: ['k'],
      needs: 'unfold a clip first',
    },
    run: (s) => s.set({ keying: !s.state.keying }),
    enabled: (s) => s.open !== null,
  },
  {
    ...{ id: 'state.clip', place: 'motion', name: 'Add a state that plays a new clip', keys: [] },
    needs: 'give an object a machine first',
    run: (s) => {
      const [m, l] = [s.machine, laneOf(s)];
      if (m && l) addState(s, m.id, l, 'clip');
    },
    enabled: (s) => !noLane(s),
  },
  {
    ...{ id: 'transition', place: 'motion', name: 'Add a transition to the next state', keys: [] },
    needs: 'choose a state with another after it',
    run: (s) => {
      const [m, l, sel] = [s.machine, laneOf(s), s.selected];
      if (!m || !l || sel?.kind !== 'state') return;
      const next = nextState(s);
      if (next) addTransition(s, m.id, l, sel.id, next.id);
    },
    enabled: (s) => nextState(s) !== undefined,
  },
  ...RECIPES.map(
    (r): CommandInfo => ({
      ...{ id: `recipe.${r.id}`, place: 'motion', name: `Recipe: ${r.name.toLowerCase()}`, keys: [] },
      needs: 'choose an object first',
      enabled: (s) => {
        const o =
          s.chosen.length === 1 && !s.state.readOnly ? s.store.get('objects', s.chosen[0] ?? '') : undefined;
        return o !== undefined && (r.fits?.(s.store, o) ?? true);
      },
      run: (s) => s.state.object !== null && putRecipe(s, r, s.state.object),
    }),
  ),
  {
    ...{ id: 'lanes', place: 'motion', name: 'Show the lanes', keys: [] },
    run: (s) => s.set({ deck: 'lanes', openState: null, openClip: null }),
  },
  {
    ...{ id: 'clips', place: 'motion', name: 'Show all clips', keys: [] },
    run: (s) => s.set({ deck: 'clips', openState: null, openClip: null }),
  },
  {
    ...{ id: 'lane.add', place: 'motion', name: 'Add another lane to its machine', keys: [] },
    needs: 'choose a thing that has a machine first',
    run: (s) => s.machine && addLane(s, s.machine.id),
    enabled: (s) => s.machine !== undefined && s.machine !== null,
  },
  {
    ...{ id: 'when', place: 'motion', name: 'Say when the open motion comes', keys: ['h'] },
    needs: 'unfold a motion that does not know yet when it comes',
    run: () => document.querySelector<HTMLElement>('[data-when]')?.click(),
    enabled: (s) => s.open !== null && !s.state.readOnly,
  },
  {
    ...{
      id: 'unfold',
      place: 'motion',
      name: 'Unfold the motion of what is chosen, or fold it',
      keys: ['u'],
    },
    needs: 'choose a state, or a thing that moves',
    run: (s) => {
      if (s.open) return s.set(FOLDED);
      const at = chosenState(s);
      if (at) return openPanel(s, at.machine, at.lane, at.state);
      const [motion] = motionsOf(s, s.state.object as string);
      if (motion) openMotion(s, motion);
    },
    enabled: (s) =>
      s.open !== null ||
      chosenState(s) !== undefined ||
      (s.state.object !== null && motionsOf(s, s.state.object).length > 0),
  },
  {
    id: 'fold',
    place: 'motion',
    name: 'Fold the panel, let go, out of the template',
    keys: ['Escape'],
    run: (s) => {
      if (s.open) s.set(FOLDED);
      else if (s.selected === null && s.chosen.length === 0 && s.inside.length > 0) s.goOut();
      else s.selectMany([]);
    },
  },
];
