/** Templates: what instances cost in a tick, against the same written out by hand; and what spawning leaves behind. Ratios within this one run. */
import {
  defaultBase,
  emptyPiece,
  expand,
  type Piece,
  type SceneObject,
  type Template,
} from '@apple-tick/core/model';
import { compile, Run, saveRun } from '@apple-tick/core/run';

const INSTANCES = 300;
const SPAWNS = 2000;

const object = (id: string, more: object, parent: string | null = null): SceneObject =>
  ({
    ...{ id, name: id, parent, order: id, kind: 'rect', size: [10, 10], radius: 0, tags: [], hint: '' },
    base: defaultBase(),
    ...more,
  }) as unknown as SceneObject;

/** Eight objects and a lane that turns them for ever. */
function template(): Template {
  const ids = Array.from({ length: 7 }, (_, k) => `ob_p${k}`);
  const key = (t: number, value: number) => ({ t, value, easing: 'linear' as const });
  return {
    ...{ id: 'te_t', name: 'T', max: 64 },
    objects: Object.fromEntries([
      ['ob_r', object('ob_r', { kind: 'group' })],
      ...ids.map((id) => [id, object(id, {}, 'ob_r')] as const),
    ]),
    clips: {
      cl_t: {
        ...{ id: 'cl_t', name: 'turns', root: 'ob_r', duration: 1, loop: 'loop', cues: [] },
        tracks: ids.map((id) => ({
          ...{ object: id, property: 'rotation.z', mode: 'absolute' as const },
          keys: [key(0, 0), key(1, 360)],
        })),
      },
    },
    machines: {
      ma_t: {
        ...{ id: 'ma_t', name: 'T', object: 'ob_r' },
        lanes: [
          {
            ...{ id: 'la_t', name: 'T', initial: 'st_t', unkeyed: 'base', amount: 1, blend: 'replace' },
            states: [{ id: 'st_t', name: 'turns', play: { clip: 'cl_t', speed: 1, from: 'start' } }],
            transitions: [],
          },
        ],
      },
    },
    ...{ signals: {}, reactions: {}, follows: {}, colliders: {}, cueSheets: {} },
  } as Template;
}

function placed(): Piece {
  const p = emptyPiece('bench', 'Bench');
  p.templates = { te_t: template() };
  for (let k = 0; k < INSTANCES; k++)
    p.objects[`ob_i${k}`] = object(`ob_i${k}`, { kind: 'instance', template: 'te_t', signals: {} });
  return p;
}

const median = (list: number[]) => list.sort((a, b) => a - b)[list.length >> 1] as number;
const time = (n: number, f: () => void) => {
  const start = performance.now();
  for (let i = 0; i < n; i++) f();
  return performance.now() - start;
};
const p = placed();
const byHand: Piece = { ...expand(p).piece, templates: {} };
const [one, other] = [p, byHand].map((x) => new Run(compile(x), { trace: false })) as [Run, Run];
for (let i = 0; i < 200; i++) {
  one.step();
  other.step();
}
// In turn, so that whatever slows the machine slows both.
const ratios = Array.from({ length: 15 }, () => time(60, () => one.step()) / time(60, () => other.step()));
console.log(
  `tick of ${INSTANCES} instances of 8 objects with a lane ÷ the same written out by hand: ${median(ratios).toFixed(2)} (at most 1.3)`,
);

const compiling = Array.from({ length: 9 }, () => time(1, () => compile(p)) / time(1, () => compile(byHand)));
console.log(`compiling them ÷ compiling the same by hand: ${median(compiling).toFixed(2)}`);

const spawner = emptyPiece('spawn', 'Spawn');
spawner.templates = { te_t: template() };
spawner.objects['ob_m'] = object('ob_m', { kind: 'group' });
spawner.reactions['re_s'] = {
  ...{
    id: 're_s',
    object: 'ob_m',
    on: { event: 'timer', every: 1 / 60 },
    when: [],
    after: 0,
    cooldown: 0,
    limit: 'always',
  },
  actions: [{ do: 'spawn', template: 'te_t', object: 'ob_m', seconds: 0.5 }],
} as Piece['reactions'][string];
const run = new Run(compile(spawner), { trace: false });
for (let i = 0; i < 200; i++) run.step();
globalThis.gc?.();
const before = process.memoryUsage();
const bytes = saveRun(run).bytes.byteLength;
for (let i = 0; i < SPAWNS; i++) run.step();
globalThis.gc?.();
const after = process.memoryUsage();
const held = (m: NodeJS.MemoryUsage) => m.heapUsed + m.arrayBuffers;
console.log(
  `${SPAWNS} spawns and as many removals: the state is ${saveRun(run).bytes.byteLength / bytes} times as large, ${globalThis.gc ? `memory grew by ${((held(after) - held(before)) / 1024).toFixed(0)} KB` : 'memory not asked (run with --expose-gc)'}`,
);
