/** What the tests of lanes share: a small piece with one box, and a run of it by ticks. */
import {
  defaultBase,
  emptyPiece,
  type Lane,
  type Piece,
  type SceneObject,
  type Signal,
  type Transition,
} from '../src/model/index.ts';
import { type Input, propertyValue, type Run, type TraceRecord } from '../src/runtime/index.ts';

/** An object at the root of the tree: its kind's fields, what its base has of its own, and whatever else. */
export function objectOf(
  id: string,
  kind: object,
  base: Partial<SceneObject['base']> = {},
  more: object = {},
): SceneObject {
  return {
    id,
    name: id,
    parent: null,
    order: id,
    tags: [],
    hint: '',
    base: { ...defaultBase(), ...base },
    ...kind,
    ...more,
  } as unknown as SceneObject;
}

/** A piece with one box, two clips on its turn about z, two signals, and the given states and transitions. */
export function piece(
  states: Lane['states'],
  transitions: (Partial<Transition> & { from: string; to: string })[],
): Piece {
  const p = emptyPiece('p', 'Test');
  p.objects['ob_a'] = {
    id: 'ob_a',
    name: 'Gate',
    parent: null,
    order: 'a0',
    kind: 'box',
    size: [80, 80, 10],
    base: defaultBase(),
    tags: [],
    hint: '',
  };
  const clip = (id: string, loop: 'once' | 'loop' | 'there-and-back', to: number) => ({
    id,
    name: id,
    root: 'ob_a',
    duration: 0.5,
    loop,
    cues: [],
    tracks: [
      {
        object: 'ob_a',
        property: 'rotation.z',
        mode: 'absolute' as const,
        keys: [
          { t: 0, value: 0, easing: 'linear' as const },
          { t: 0.5, value: to, easing: 'linear' as const },
        ],
      },
    ],
  });
  p.clips = {
    cl_o: clip('cl_o', 'once', 90),
    cl_l: clip('cl_l', 'loop', 60),
    cl_b: clip('cl_b', 'there-and-back', 60),
  };
  p.signals = {
    si_s: { id: 'si_s', name: 'go', type: 'switch', initial: false, shared: false, note: '' },
    si_n: { id: 'si_n', name: 'pace', type: 'number', initial: 1, shared: false, note: '' } as Signal,
    si_p: { id: 'si_p', name: 'ring', type: 'pulse', shared: false, note: '' },
  };
  const full = transitions.map(
    (t, i): Transition => ({
      id: `tr_${i}`,
      on: null,
      when: [],
      notBefore: null,
      crossfade: { seconds: 0 },
      odds: null,
      enabled: true,
      set: true,
      reenter: false,
      mayRepeat: true,
      ...t,
    }),
  );
  p.machines['ma_a'] = {
    id: 'ma_a',
    name: 'Gate',
    object: 'ob_a',
    lanes: [
      {
        id: 'la_a',
        name: 'Gate',
        initial: states[0]?.id as string,
        unkeyed: 'base',
        amount: 1,
        blend: 'replace',
        states,
        transitions: full,
      },
    ],
  };
  return p;
}
export const play = (clip: string, speed: number | { signal: string } = 1) => ({
  clip,
  speed,
  from: 'start' as const,
});
export function go(run: Run, ticks: number, inputs: Record<number, Omit<Input, 'at'>> = {}): TraceRecord[] {
  for (let i = 0; i < ticks; i++) {
    const input = inputs[run.tick + 1];
    run.step(input ? [{ ...input, at: 0 } as Input] : []);
  }
  return run.takeTrace();
}
export const turn = (run: Run) => propertyValue(run.state.values, 0, 'rotation.z') as number;
export const states = (trace: TraceRecord[]) => trace.filter((r) => r.kind === 'transition').map((r) => r.to);
