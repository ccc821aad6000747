/** The engine's ticks. Ratios within this one run; nothing here is an absolute time. */
import { readFileSync } from 'node:fs';
import { Session } from 'node:inspector/promises';
import { type ClipData, compileClip, sampleTrack } from '@apple-tick/core/anim';
import { readPiece } from '@apple-tick/core/check';
import { type Clip, defaultBase, emptyPiece, type Piece } from '@apple-tick/core/model';
import { compile, type Input, Run, saveRun } from '@apple-tick/core/run';
import { PointHits, viewMatrix, worldMatrix } from '@apple-tick/core/world';

const median = (list: number[]) => list.sort((a, b) => a - b)[list.length >> 1] as number;
const time = (f: () => void) => {
  const start = performance.now();
  f();
  return performance.now() - start;
};
/** The median of rounds of `a` ÷ `b`, after both have been done `before` times. */
const ratio = (a: () => void, b: () => void, before = 1, rounds = 7) => {
  for (let k = 0; k < before; k++) {
    a();
    b();
  }
  return median(Array.from({ length: rounds }, () => time(a) / time(b)));
};
const say = (what: string, value: number, goal: number, digits = 2) =>
  console.log(`${what}: ${value.toFixed(digits)} (goal ≤ ${goal})`);

/** Lanes that play a clip of eight keys each on an object of their own; `length` seconds of the clip of lane i. */
function lanes(n: number, length: (i: number) => number): Piece {
  const p = emptyPiece('bench', 'Bench');
  for (let i = 0; i < n; i++) {
    const object = `ob_${i}`;
    const duration = length(i);
    p.objects[object] = {
      ...{ id: object, name: `Object ${i}`, parent: null, order: `a${String(i).padStart(6, '0')}` },
      ...{ kind: 'rect', size: [10, 10], radius: 0, tags: [], hint: '', base: defaultBase() },
    } as Piece['objects'][string];
    p.clips[`cl_${i}`] = {
      ...{ id: `cl_${i}`, name: `Clip ${i}`, root: object, duration, loop: 'loop', cues: [] },
      tracks: [
        {
          ...{ object, property: 'rotation.z', mode: 'absolute' },
          keys: Array.from({ length: 8 }, (_, k) => ({
            t: (k * duration) / 7,
            value: (k * 37 + i) % 90,
            easing: { bezier: [0.42, 0, 0.58, 1] as [number, number, number, number] },
          })),
        },
      ],
    };
    p.machines[`ma_${i}`] = {
      ...{ id: `ma_${i}`, name: `Machine ${i}`, object },
      lanes: [
        {
          ...{
            id: `la_${i}`,
            name: 'Lane',
            initial: `st_${i}`,
            unkeyed: 'base',
            amount: 1,
            blend: 'replace',
          },
          states: [{ id: `st_${i}`, name: 'turning', play: { clip: `cl_${i}`, speed: 1, from: 'start' } }],
          transitions: [],
        },
      ],
    };
  }
  return p;
}
const started = (p: Piece, trace = false) => {
  const run = new Run(compile(p), { trace });
  for (let i = 0; i < 120; i++) run.step();
  return run;
};

for (const n of [100, 1000, 10_000]) {
  const run = started(lanes(n, () => 1000));
  const clips = Object.values(run.program.piece.clips).map((c: Clip) => compileClip(c));
  const out = new Float64Array(n);
  const rounds = Math.ceil(200_000 / n);
  const ticks = () => {
    for (let k = 0; k < rounds; k++) run.step();
  };
  const sampling = () => {
    for (let k = 0; k < rounds; k++)
      for (let i = 0; i < n; i++)
        sampleTrack(clips[i] as (typeof clips)[number], 0, 3 + (k % 500) / 60, out, i);
  };
  say(`eventless tick of ${n} lanes ÷ sampling their tracks`, ratio(ticks, sampling), 2);
}

/** Cost per lane (or timer) of a second of ticks. */
const perPart = (make: (n: number) => Piece) => (n: number) => {
  const run = started(make(n));
  const rounds = Math.ceil(20_000 / n);
  return (
    time(() => {
      for (let k = 0; k < rounds * 6; k++) run.step();
    }) /
    (n * rounds)
  );
};
const growth = (make: (n: number) => Piece) => {
  const cost = perPart(make);
  cost(100);
  cost(1600);
  return median(Array.from({ length: 15 }, () => cost(1600) / cost(100)));
};
say(
  'a lane of 1,600 ÷ one of 100, loops that end at different dates',
  growth((n) => lanes(n, (i) => 0.1 + ((i * 7919) % 1000) / 5000)),
  1.3,
);
const timers = (n: number) => {
  const p = lanes(1, () => 1000);
  for (let i = 0; i < n; i++)
    p.reactions[`re_${i}`] = {
      ...{
        id: `re_${i}`,
        object: 'ob_0',
        on: { event: 'timer', every: 0.05 },
        when: [],
        after: 0,
        cooldown: 0,
      },
      ...{ limit: 'always', actions: [{ do: 'toggle', signal: 'si_a' }] },
    } as Piece['reactions'][string];
  p.signals['si_a'] = { id: 'si_a', name: 'a', type: 'switch', initial: false, shared: false, note: '' };
  return p;
};
say('a timer of 1,600 ÷ one of 100, due together', growth(timers), 1.3);

{
  const run = started(lanes(100, () => 100_000));
  const ticks = 100_000;
  const session = new Session();
  session.connect();
  const everything = { includeObjectsCollectedByMajorGC: true, includeObjectsCollectedByMinorGC: true };
  await session.post('HeapProfiler.startSampling', { samplingInterval: 64, ...everything });
  const allocated = async () => {
    type Node = { callFrame: { url: string }; selfSize: number; children: Node[] };
    // What asking itself takes is not the engine's.
    const own = (n: Node) => (n.callFrame.url.startsWith('node:') ? 0 : n.selfSize);
    const sum = (n: Node): number => n.children.reduce((a, c) => a + sum(c), own(n));
    const { profile } = await session.post('HeapProfiler.getSamplingProfile');
    return sum(profile.head as Node);
  };
  for (let k = 0; k < 100_000; k++) run.step();
  const before = await allocated();
  for (let k = 0; k < ticks; k++) run.step();
  // Parts of a byte are what the machine takes while it makes the code faster.
  const bytes = Math.floor(((await allocated()) - before) / ticks);
  // It would go on to slow down all that allocates.
  await session.post('HeapProfiler.stopSampling');
  session.disconnect();
  say('bytes a tick of 100 lanes without events allocates', bytes, 0, 0);
}

{
  const run = started(lanes(1000, () => 100));
  const bytes = saveRun(run).bytes.byteLength;
  const from = new ArrayBuffer(bytes);
  const many = (f: () => void) => () => {
    for (let k = 0; k < 50; k++) f();
  };
  say(
    'snapshot ÷ copy of its bytes',
    ratio(
      many(() => void saveRun(run)),
      many(() => void from.slice(0)),
    ),
    5,
  );
}

const millFile = new URL('../demo/windfall-mill.tick.json', import.meta.url);
const mill = () => {
  const r = readPiece(readFileSync(millFile, 'utf8'));
  if (!r.ok) throw new Error('the demo cannot be read');
  return r.value;
};
/** Without zones, blockers and the visitor, which have a measure of their own (noticing.ts). */
function withoutZones(p: Piece): Piece {
  const bare = (objects: Piece['objects']) =>
    Object.fromEntries(
      Object.entries(objects).map(([id, { colliders: _, ...o }]) => [id, o]),
    ) as typeof objects;
  const templates = Object.entries(p.templates).map(([id, t]) => [
    id,
    { ...t, objects: bare(t.objects), colliders: {} },
  ]);
  return {
    ...p,
    objects: bare(p.objects),
    colliders: {},
    visitor: null,
    templates: Object.fromEntries(templates),
  };
}

/**
 * A tick of the Mill against a bare flat loop over the same: the base of all that is written, every track of what plays now
 * sampled, what motors add, what follows (with the matrices of what it goes by), all transitions of what is active looked
 * at, and what lies under the pointer.
 */
{
  const run = new Run(compile(withoutZones(mill())), { trace: false });
  run.step([{ at: 0, pointer: { x: 480, y: 300, down: false } } as Input]);
  for (let i = 0; i < 300; i++) run.step();
  const { program, state } = run;
  const { geometry, written, guides } = program;
  const { base } = state;
  const values = base.slice();
  const hits = new PointHits(geometry, values, guides);
  const view = new Float64Array(12);
  viewMatrix(program.piece.view, view);
  const { width, height } = program.piece.frame;
  hits.look({ view, halfWidth: width / 2, halfHeight: height / 2 });
  const playing = program.lanes.flatMap((lane, i) => {
    const s = lane.states[state.active[i] as number];
    const clips = s?.blend ? [...s.blend.clips] : s && s.clip >= 0 ? [s.clip] : [];
    return clips.map((c) => ({
      data: (program.clips[c] as { data: ClipData }).data,
      places: s?.trackValues,
    }));
  });
  const turning = program.motorAts.flatMap((at, k) => {
    const [runs, since, added, rate] = state.motors.subarray(k * 6, k * 6 + 4);
    return runs === 0 ? [] : [{ at, since: since as number, added: added as number, rate: rate as number }];
  });
  const { parent } = geometry;
  const above = (object: number): number[] =>
    object < 0 ? [] : [...above(parent[object] as number), object];
  const following = (program.parts.follows?.follows ?? []).map((f) => ({
    at: f.at,
    chains: [f.a, f.b].map(above),
  }));
  const world = new Float64Array(program.objects.length * 12);
  const ways = program.lanes.map((lane, i) => lane.states[state.active[i] as number]?.routes ?? []);
  const out = new Float64Array(3);
  const known = values.slice();
  const changed = new Int32Array(written.length);
  let t = 0;
  let ready = 0;
  const bare = () => {
    for (let n = 0; n < 600; n++) {
      t += 1 / 60;
      for (let k = 0; k < written.length; k++)
        values[written[k] as number] = base[written[k] as number] as number;
      for (const { data, places } of playing)
        for (let k = 0; k < data.start.length; k++) {
          sampleTrack(data, k, data.duration > 0 ? t % data.duration : 0, out, 0);
          const at = places?.[k] ?? -1;
          if (at >= 0) values[at] = out[0] as number;
        }
      for (const m of turning) values[m.at] = (values[m.at] as number) + m.added + m.rate * (t - m.since);
      for (const { at, chains } of following) {
        let way = 0;
        for (const chain of chains) {
          for (const i of chain) worldMatrix(world, parent, values, i, null);
          const last = (chain.at(-1) ?? 0) * 12;
          for (let r = 9; r < 12; r++) way += (world[last + r] as number) ** 2;
        }
        if (at >= 0) values[at] = Math.sqrt(way);
      }
      for (const list of ways) for (const w of list) if (w.transition.enabled && w.eventless) ready++;
      let moved = 0;
      for (let k = 0; k < written.length; k++) {
        const place = written[k] as number;
        if (known[place] === values[place]) continue;
        known[place] = values[place] as number;
        changed[moved++] = place;
      }
      hits.change(values, changed, moved);
      hits.hit(0, -30);
    }
  };
  const ticks = () => {
    for (let i = 0; i < 600; i++) run.step();
  };
  // What is done in few ticks only, as spawning, is as fast as it gets after some ten thousand.
  say('tick of the Mill ÷ a bare loop over its channels, machines and hits', ratio(ticks, bare, 40), 2.5);
  if (ready < 0) throw new Error('never');
}
{
  const view = { at: 0, view: { azimuth: 35, elevation: 29 } } as Input;
  const over = { at: 0, pointer: { x: 480, y: 300, down: false } } as Input;
  const make = (...inputs: Input[]) => {
    const run = new Run(compile(mill()), { trace: false });
    run.step(inputs);
    for (let i = 0; i < 300; i++) run.step();
    return run;
  };
  const [withPointer, without] = [make(view, over), make(view)];
  const ticks = (run: Run) => () => {
    for (let i = 0; i < 600; i++) run.step();
  };
  say(
    'tick of the Mill in three-quarter, pointer over it ÷ without',
    ratio(ticks(withPointer), ticks(without), 40),
    1.5,
  );
}
