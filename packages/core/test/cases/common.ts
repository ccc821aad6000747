/** Words that cases of lanes and of transitions share; `T`: the date of a tick, seconds. */
export const T = (tick: number) => tick / 60;
export const key = (k: string) => [{ key: k, down: true }];
export const down = (k: string) => ({ on: { event: 'key.down', key: k } });
export const turn = {
  'rotation.z': [
    [0, 0],
    [0.5, 90],
  ] as const,
};
export const add = (by: number) => ({ do: 'add', signal: 'si_n', by });
export const of = (clip: string, speed: unknown, from = 'start') => ({ clip: `cl_${clip}`, speed, from });
export const ab = [
  ['a', 'rest'],
  ['b', 'rest'],
] as const;
export const abc = [...ab, ['c', 'rest']] as const;
