/**
 * A feature that is planted: kinds of its own of an action, an event, a fact, an input, something scheduled, rows of the
 * state and phases, all in one object, registered once. Driven through a run, a snapshot, an edit, a cue sheet and what is
 * spawned. `docs/extending.md` tells the same in words.
 */
import { describe, expect, it } from 'vitest';
import { defaultBase, emptyPiece, type Piece } from '../src/model/index.ts';
import { compilePieceAgain } from '../src/run/compile-again.ts';
import type { Facts, Reads } from '../src/run/facts.ts';
import type { Feature } from '../src/run/feature.ts';
import type { Hearing } from '../src/run/hearing.ts';
import type { Migration } from '../src/run/migration.ts';
import type { Names } from '../src/run/names.ts';
import type { Phases } from '../src/run/phases.ts';
import type { PlaceProgram } from '../src/run/place-program.ts';
import type { Program } from '../src/run/program.ts';
import type { RowMaker } from '../src/run/rows.ts';
import type { RunActions } from '../src/run/run-actions.ts';
import type { RunBase } from '../src/run/run-base.ts';
import type { RunState } from '../src/run/state.ts';
import type { Cause, TraceFields } from '../src/run/trace.ts';
import {
  ALL,
  compilePiece,
  editRun,
  type Input,
  loadRun,
  Run,
  saveRun,
  withFeatures,
} from '../src/runtime/index.ts';

/** By object, seconds until which it glows. */
type GlowRows = Float64Array;
interface GlowAction {
  readonly object: string;
  readonly seconds: number;
}
const rowsOf = (state: { readonly parts: object }) => (state.parts as { glow: GlowRows }).glow;

/** Things glow for a while, and tell when they no longer do. */
class Glowing implements Phases {
  readonly #base: RunBase;
  constructor(base: RunBase) {
    this.#base = base;
  }
  begin(object: number, seconds: number, cause: Cause): number {
    const { context } = this.#base;
    const id = context.idOf(object);
    if (id === undefined) return 0;
    const rows = rowsOf(context.state);
    rows[object] = context.t + seconds;
    context.raise({ kind: 'action', action: 'glow', object: id }, cause);
    const what = context.scheduledNumber('end of a glow');
    const item = { t: rows[object] as number, what, index: object, action: 0, n: 0, cause: cause.rec ?? -1 };
    context.addScheduled(item);
    return object + 1;
  }
  end(object: number, cause: Cause): void {
    const { context } = this.#base;
    const rows = rowsOf(context.state);
    if (rows[object] !== context.t) return;
    rows[object] = 0;
    const id = context.idOf(object) as string;
    const fields = { kind: 'event', event: 'glow.end', object: id } as unknown as TraceFields;
    context.queueEvent(context.raise(fields, cause), cause, object);
  }
  setBack({ objects: { from, to } }: PlaceProgram): void {
    rowsOf(this.#base.context.state).fill(0, from, to);
  }
}
const partOf = (parts: object) => (parts as { glow: Glowing }).glow;

const OF_GLOW: Hearing = {
  subject: (on, owner) => on.object ?? owner.object,
  subjects: (r) => [r.object],
  means: ({ objects }, on, { rec }, { object }) =>
    (on.object ?? (object === null ? rec.object : objects[object]?.id)) === rec.object,
};

const glow = {
  name: 'glow',
  events: { 'glow.end': OF_GLOW },
  actions: {
    glow: (a: GlowAction, names: Names) => {
      const object = names.object(a.object);
      return (d: RunActions, cause: Cause) => partOf(d.parts).begin(object, a.seconds, cause);
    },
  },
  lasting: {
    glow: (a: GlowAction) => ({
      seconds: a.seconds,
      goesOn: (_: Program, state: RunState, t: number, _began: number, token: number) =>
        (rowsOf(state)[token - 1] ?? 0) > t,
    }),
  },
  facts: {
    glows: {
      test: (c: { object: string }, names: Names) => {
        const object = names.object(c.object);
        return (f: Facts) => (rowsOf(f.state)[object] ?? 0) > 0;
      },
      reads: (_: object, _names: Names, out: Reads) => {
        out.time = true;
      },
    },
  },
  inputs: {
    glow: ({ glow: object }: { glow: string }, { context }: RunBase) => {
      const [id, at] = context.find(object);
      const cause = context.recordInput({ input: 'glow', object: id });
      partOf(context.parts).begin(at, 0.25, cause);
    },
  },
  scheduled: {
    'end of a glow': {
      run: (item: { index: number }, cause: Cause, { context }: RunBase) =>
        partOf(context.parts).end(item.index, cause),
      place: ({ spawns }: Program, object: number) => spawns.ofObject[object] ?? -1,
      migrate: ({ objectOf }: Migration, item: { index: number }) =>
        objectOf(item.index) < 0 ? undefined : { ...item, index: objectOf(item.index) },
    },
  },
  rows: ({ objects }: Program, make: RowMaker): GlowRows => make.floats(objects.length),
  run: (base: RunBase) => new Glowing(base),
  migrate: ({ before, state, objectOf }: Migration) => {
    rowsOf(before).forEach((until, object) => {
      if (objectOf(object) >= 0) rowsOf(state)[objectOf(object)] = until;
    });
  },
} as unknown as Feature;

const build = withFeatures([...ALL, glow]);

const object = (id: string, more: object = {}) => ({
  ...{ id, name: id, parent: null, order: id, tags: [], hint: '', base: defaultBase() },
  ...{ kind: 'rect', size: [10, 10], radius: 0, ...more },
});
const reaction = (id: string, of: string, on: object, ...actions: object[]) => ({
  ...{ id, object: of, on, actions, when: [], after: 0, cooldown: 0, limit: 'always' },
});

/** A lamp that glows for half a second when it is asked to, and counts its ends; a lane that is lit while it glows. */
function lamp(): Piece {
  const p = emptyPiece('p', 'Lamp') as unknown as Record<string, Record<string, unknown>>;
  p['objects'] = { ob_a: object('ob_a'), ob_b: object('ob_b') };
  p['signals'] = { si_n: { id: 'si_n', name: 'n', type: 'number', initial: 0 } };
  p['messages'] = { me_a: { id: 'me_a', name: 'a' } };
  p['reactions'] = {
    re_on: reaction(
      're_on',
      'ob_b',
      { event: 'message', message: 'me_a' },
      ...[{ do: 'glow', object: 'ob_a', seconds: 0.5 }],
    ),
    re_end: reaction('re_end', 'ob_a', { event: 'glow.end' }, { do: 'add', signal: 'si_n', by: 1 }),
  };
  const ways = [
    { from: 'st_dark', to: 'st_lit', is: true },
    { from: 'st_lit', to: 'st_dark', is: false },
  ].map(({ from, to, is }) => ({
    ...{ id: `tr_${to}`, from, to, on: null, when: [{ fact: 'glows', object: 'ob_a', is }] },
    ...{ notBefore: null, crossfade: { seconds: 0 }, odds: null, enabled: true, set: true },
    ...{ reenter: false, mayRepeat: true },
  }));
  const states = ['st_dark', 'st_lit'].map((id) => ({ id, name: id, play: 'rest' }));
  const lane = {
    ...{ id: 'la_a', name: 'a', initial: 'st_dark', unkeyed: 'base', amount: 1, blend: 'replace' },
    ...{ states, transitions: ways },
  };
  p['machines'] = { ma_a: { id: 'ma_a', name: 'a', object: 'ob_a', lanes: [lane] } };
  return p as unknown as Piece;
}

const send = { at: 0, send: 'me_a' } as Input;
const step = (run: Run, ticks: number, ...inputs: Input[]) => {
  for (let i = 0; i < ticks; i++) run.step(i === 0 ? inputs : []);
};
const stateOf = (run: Run) => {
  const lane = run.program.lanes[0];
  return lane?.states[run.state.active[0] as number]?.state.id;
};

describe('a planted feature', () => {
  it('acts, is scheduled, is asked, and is heard', () => {
    const run = new Run(compilePiece(lamp(), build));
    step(run, 2);
    step(run, 2, send);
    expect(stateOf(run)).toBe('st_lit');
    step(run, 27);
    expect(run.signalValue('si_n')).toBe(0);
    step(run, 3);
    expect(run.signalValue('si_n')).toBe(1);
    expect(stateOf(run)).toBe('st_dark');
    const told = run.takeTrace().filter((r) => JSON.stringify(r).includes('glow'));
    expect(told.map((r) => r.action ?? (r.event as string))).toEqual(['glow', 'glow.end']);
    expect(told.every((r) => r.cause !== null)).toBe(true);
  });

  it('has an input of its own', () => {
    const run = new Run(compilePiece(lamp(), build));
    step(run, 20, { at: 0, glow: 'ob_a' } as unknown as Input);
    expect(run.signalValue('si_n')).toBe(1);
    const input = run.takeTrace().find((r) => r.kind === 'input');
    expect(input).toMatchObject({ input: 'glow', object: 'ob_a', cause: null });
  });

  it.each<[string, Partial<Piece>]>([
    ['the event "glow.end"', { reactions: { re_end: lamp().reactions['re_end'] as never } }],
    ['the action "glow"', { reactions: { re_on: lamp().reactions['re_on'] as never }, machines: {} }],
    ['the condition "glows"', { reactions: {} }],
  ])('%s is refused by a build without it', (what, with_) => {
    const piece = { ...lamp(), ...with_ };
    expect(() => compilePiece(piece, withFeatures(ALL))).toThrow(`This build cannot run ${what}, which `);
  });

  it('lies in snapshots, and goes on from them', () => {
    const run = new Run(compilePiece(lamp(), build));
    step(run, 12, send);
    const other = loadRun(new Run(run.program), saveRun(run));
    step(run, 30);
    step(other, 30);
    expect(other.signalValue('si_n')).toBe(1);
    expect([...rowsOf(other.state)]).toEqual([...rowsOf(run.state)]);
  });

  it('goes on after an edit, by ids, and goes with what it was of', () => {
    const piece = lamp();
    const run = new Run(compilePiece(piece, build));
    step(run, 12, send);
    // Another object before it: it has another number from then on.
    editRun(run, { ...piece, objects: { ob_0: object('ob_0') as never, ...piece.objects } });
    step(run, 30);
    expect(run.signalValue('si_n')).toBe(1);
    step(run, 12, send);
    const { ob_a: _, ...objects } = piece.objects;
    editRun(run, { ...piece, objects, machines: {}, reactions: {} } as Piece);
    step(run, 60);
    expect(run.takeTrace().filter((r) => (r.event as string) === 'glow.end')).toHaveLength(1);
    expect(compilePieceAgain(piece, build, run.program).features.names).toContain('glow');
  });

  it('ends a cue when it ends', () => {
    const piece = lamp();
    const cue = (id: string, actions: object[], thenAfter: object[] = []) => ({
      ...{ id, name: id, t: 0, actions, then: [], thenAfter },
    });
    const last = cue('cu_b', [{ do: 'set', signal: 'si_n', to: 9 }]);
    const cues = [cue('cu_a', [{ do: 'glow', object: 'ob_a', seconds: 0.5 }], [last])];
    piece.cueSheets = { sh_a: { id: 'sh_a', name: 'a', cues, again: 'restart', end: 'stop' } } as never;
    const run = new Run(compilePiece(piece, build));
    step(run, 20, { at: 0, sheet: 'sh_a' } as Input);
    expect(run.signalValue('si_n')).toBe(0);
    step(run, 15);
    expect(run.signalValue('si_n')).toBe(9);
  });

  it('goes with what was spawned, and does not come back in its place', () => {
    const piece = lamp();
    const bulb = object('ob_t');
    const lit = reaction(
      're_t',
      'ob_t',
      { event: 'piece.start' },
      ...[{ do: 'glow', object: 'ob_t', seconds: 0.5 }],
    );
    piece.templates = {
      te_a: {
        ...{ id: 'te_a', name: 'Bulb', max: 1, objects: { ob_t: bulb }, reactions: { re_t: lit } },
        ...{ clips: {}, signals: {}, machines: {}, follows: {}, colliders: {}, cueSheets: {} },
      } as never,
    };
    piece.reactions['re_s'] = reaction(
      're_s',
      'ob_a',
      { event: 'key.down' },
      ...[{ do: 'spawn', template: 'te_a', seconds: 0.2 }],
    ) as never;
    const run = new Run(compilePiece(piece, build));
    step(run, 60, { at: 0, key: 'a', down: true } as Input);
    const told = run.takeTrace().map((r) => `${r.action ?? r.event ?? r.kind} ${r.object ?? ''}`);
    expect(told).toContain('glow te_a#0/ob_t');
    expect(told).toContain('spawn.end te_a#0');
    expect(told.filter((t) => t.startsWith('glow.end'))).toEqual([]);
    expect([...rowsOf(run.state)].every((until) => until === 0)).toBe(true);
  });
});
