import 'fake-indexeddb/auto';
import { checkIntegrity, readPiece } from '@apple-tick/core/check';
import { emptyPiece, History, PieceStore, type SceneObject, writePiece } from '@apple-tick/core/model';
import { compile, type Input, propertyValue, Run } from '@apple-tick/core/run';
import { describe, expect, it } from 'vitest';
import { setVisitor } from '../../features/visitor/edit.ts';
import { Session } from '../session.ts';
import { addObject } from '../things/add-object.ts';
import { joinUnderRoot } from '../things/arrange.ts';
import type { Recipe } from './recipe.ts';
import { putRecipe, RECIPES, shownInputs, shownPiece } from './recipes.ts';

const recipe = (id: string) => RECIPES.find((r) => r.id === id) as Recipe;
/** The number of the one thing by ticks, while what is shown is done to it. */
function course(id: string, property: string): number[] {
  const run = new Run(compile(shownPiece(recipe(id))));
  const inputs = shownInputs(recipe(id));
  return Array.from({ length: recipe(id).shown.seconds * 60 }, () => {
    run.step(inputs.get(run.tick + 1) ?? []);
    return propertyValue(run.state.values, 0, property) as number;
  });
}

describe('recipes', () => {
  it.each(RECIPES.map((r) => [r.name, r] as const))('%s: what it makes is sound', (_, r) => {
    expect(checkIntegrity(shownPiece(r))).toEqual([]);
    // Also of a thing with the longest name that there may be.
    expect(readPiece(writePiece(shownPiece(r, 'x'.repeat(200)))).ok).toBe(true);
  });

  it('a hinge opens and turns back', () => {
    const turn = course('hinge', 'rotation.z');
    expect(turn[20]).toBe(0);
    expect(Math.min(...turn)).toBeCloseTo(-75, 9);
    expect(turn[100]).toBeCloseTo(-75, 9);
    expect(turn.at(-1)).toBe(0);
  });

  it.each([
    ['left', [-50, 0, 0], 'rotation.y'],
    ['right', [50, 0, 0], 'rotation.y'],
    ['upper', [0, 50, 0], 'rotation.x'],
    ['lower', [0, -50, 0], 'rotation.x'],
  ] as const)(
    'a solid with its pivot at the %s edge opens about that, toward who looks',
    (_, pivot, property) => {
      const store = new PieceStore(emptyPiece('p', 'Test'));
      const s = new Session({ store, history: new History(store), seq: 0, left: [] }, false);
      addObject(s, 'box');
      const id = s.state.object as string;
      s.edit('x', (e) =>
        e.update('objects', id, (o) => ({ ...o, base: { ...o.base, pivot: [...pivot] } }) as SceneObject),
      );
      putRecipe(s, recipe('hinge'), id);
      expect(s.store.all('clips')[0]?.tracks.map((t) => t.property)).toEqual([property]);
      const run = new Run(compile(s.store.toPiece()));
      const switched = s.store.all('signals')[0]?.id as string;
      run.step([{ at: 0, set: { [switched]: true } } as Input]);
      for (let n = 0; n < 60; n++) run.step([]);
      // Its far edge has come toward +Z.
      const of = (p: string) => propertyValue(run.state.values, 0, p) as number;
      const [x, y] = [of('rotation.x'), of('rotation.y')].map((d) => (d * Math.PI) / 180) as [number, number];
      const z = pivot[0] === 0 ? -pivot[1] * Math.sin(x) : pivot[0] * Math.sin(y);
      expect(z).toBeGreaterThan(40);
    },
  );

  it('what appears or slides in comes from nothing, or from beyond the frame, to where it stands', () => {
    const opacity = course('appears', 'opacity');
    expect(opacity[0]).toBe(0);
    expect(opacity.at(-1)).toBe(1);
    const x = course('slides', 'position.x');
    expect(x[0]).toBeLessThanOrEqual(-160 - 50);
    expect(x.at(-1)).toBe(0);
  });

  it('what draws itself has its line when the piece has started, and none before', () => {
    const start = course('draws', 'dashStart');
    // The thing is 100 by 70.
    expect(start[0]).toBeGreaterThan(330);
    expect(start.at(-1)).toBe(0);
    const { stroke } = shownPiece(recipe('draws')).objects['ob_shown'] as SceneObject;
    expect(stroke?.dashes?.[0]).toBe(340);
    expect(stroke?.dashes?.[1]).toBeGreaterThan(340);
    // Of a group all that has a line draws it; what has none gets none.
    const store = new PieceStore(emptyPiece('p', 'Test'));
    const s = new Session({ store, history: new History(store), seq: 0, left: [] }, false);
    addObject(s, 'path');
    const leaf = s.state.object as string;
    s.edit('x', (e) =>
      e.update('objects', leaf, (o) => ({
        ...o,
        stroke: { color: '#000000', width: 4, cap: 'butt', join: 'miter' },
      })),
    );
    addObject(s, 'ellipse');
    const round = s.state.object as string;
    s.selectMany([leaf, round]);
    joinUnderRoot(s);
    putRecipe(s, recipe('draws'), s.state.object as string);
    expect(s.store.all('clips')[0]?.tracks.map((t) => t.object)).toEqual([leaf]);
    expect(s.store.get('objects', round)?.stroke ?? null).toBeNull();
  });

  it('what is on while near is clear then only; what turns by steps stands at quarters', () => {
    const opacity = course('while', 'opacity');
    expect(opacity[10]).toBeCloseTo(0.3, 9);
    expect(Math.max(...opacity)).toBeCloseTo(1, 9);
    expect(opacity.at(-1)).toBeCloseTo(0.3, 9);
    const turn = course('steps', 'rotation.z');
    expect([10, 50, 85, 140].map((t) => turn[t])).toEqual([0, -90, -180, -270]);
  });

  it('what follows along a path is where the pointer is along the frame', () => {
    const [x, y] = [course('along', 'position.x'), course('along', 'position.y')];
    expect((x.at(-1) as number) - (x[30] as number)).toBeGreaterThan(60);
    const middle = x.findIndex((n) => n > 0);
    expect(y[middle]).toBeGreaterThan(25);
    expect(y[30]).toBeLessThan(y[middle] as number);
  });

  it('what lifts sinks again; what is on is larger', () => {
    const y = course('lift', 'position.y');
    expect(Math.max(...y)).toBeCloseTo(8.4, 9);
    expect(y.at(-1)).toBe(0);
    const scale = course('toggle', 'scale.x');
    expect(scale[80]).toBeCloseTo(1.15, 9);
    expect(scale.at(-1)).toBe(1);
  });

  it('what sends sparks or another sends them; what asks is answered and says so', () => {
    const told = (id: string) => {
      const run = new Run(compile(shownPiece(recipe(id))));
      const inputs = shownInputs(recipe(id));
      const out: string[] = [];
      while (run.tick < recipe(id).shown.seconds * 60 - 1) {
        run.step(inputs.get(run.tick + 1) ?? []);
        for (const r of run.takeTrace())
          if (
            r.kind === 'burst' ||
            r.kind === 'spawn' ||
            r.kind === 'caption' ||
            r.event === 'caption.answer'
          )
            out.push(r.text ?? r.event ?? r.kind);
      }
      return out;
    };
    expect(told('burst')).toEqual(['burst']);
    expect(told('says')).toEqual(['Good morning!', 'A fine day for it.', 'Until tomorrow.']);
    expect(told('spawn')).toEqual([
      'spawn.start',
      'spawn.start',
      'spawn.start',
      'spawn.end',
      'spawn.end',
      'spawn.end',
    ]);
    expect(told('ask')).toEqual(['Shall we begin?', 'caption.answer', 'Here we go!']);
  });

  it('what warms does so by how near the pointer is, and cools as that goes', () => {
    const scale = course('warm', 'scale.x');
    // The pointer goes by at 120 px a second, 45 px off; the glow comes as much later as it is smoothed.
    const near = (t: number) => Math.min(1, (220 - Math.hypot(120 * t - 156, 45)) / 180);
    for (const tick of [40, 60, 100, 130, 150])
      expect(scale[tick], `tick ${tick}`).toBeCloseTo(1 + 0.12 * near(tick / 60 - 0.15), 1.5);
    const most = scale.indexOf(Math.max(...scale.slice(40)));
    expect(scale[most]).toBeGreaterThan(1.1);
    const red = (course('warm', 'fill') as unknown as string[]).map((c) =>
      Number.parseInt(c.slice(1, 3), 16),
    );
    expect(red[most]).toBeGreaterThan((red[40] as number) + 20);
  });

  it('what warms goes by the visitor where there is one', () => {
    const store = new PieceStore(emptyPiece('p', 'Test'));
    const s = new Session({ store, history: new History(store), seq: 0, left: [] }, false);
    const [id, walks] = [1, 2].map(() => {
      s.selectMany([]);
      addObject(s, 'rect');
      return s.state.object as string;
    });
    setVisitor(s, s.store.get('objects', walks as string) as SceneObject);
    for (const object of [id, walks]) putRecipe(s, recipe('warm'), object as string);
    const sources = s.store.all('follows').map((f) => f.source);
    // The visitor is never near itself.
    expect(sources).toEqual([{ distance: ['visitor', id] }, { distance: ['pointer', walks] }]);
    expect(checkIntegrity(s.store.toPiece())).toEqual([]);
    s.undo();
    s.undo();
    expect(s.store.all('follows')).toEqual([]);
    expect(s.store.all('machines')).toEqual([]);
  });

  it('what spins stands where it was stopped, and goes on from there', () => {
    const turn = course('spin', 'rotation.z');
    expect(turn[70]).toBeCloseTo((120 * 70) / 60, 6);
    const [at, later] = [turn[90] as number, turn[115] as number];
    expect(later).toBe(at);
    expect(turn.at(-1)).toBeGreaterThan(at + 60);
  });

  it('what is drawn is another each time', () => {
    const turn = course('odds', 'rotation.z').map((n) => Math.round(n));
    const stood = [20, 60, 110, 170].map((t) => turn[t]);
    for (const n of stood) expect([0, 120, 240]).toContain(n);
    for (let i = 1; i < stood.length; i++) expect(stood[i]).not.toBe(stood[i - 1]);
  });

  it('what looks at the pointer turns to both sides; what fills stands on its foot', () => {
    const turn = course('look', 'rotation.y');
    expect(Math.min(...turn)).toBeLessThan(-20);
    expect(Math.max(...turn)).toBeGreaterThan(20);
    const high = course('fill', 'scale.y');
    expect(high[5]).toBeCloseTo(0.5, 9);
    // Which number is drawn is left to chance; none of them is half.
    for (const t of [60, 110, 170]) expect(Math.abs((high[t] as number) - 0.5)).toBeGreaterThan(0.02);
    for (const n of high) expect(n).toBeGreaterThanOrEqual(0.1 - 1e-9);
  });

  it('what comes in is counted and gone; what is near wakes it, once it has left no more', () => {
    const run = new Run(compile(shownPiece(recipe('gather'))));
    for (let i = 0; i < 120; i++) run.step([]);
    expect(run.signalValue(run.program.signals[0]?.id as string)).toBe(1);
    expect(propertyValue(run.state.values, 1, 'shown')).toBe(false);
    const scale = course('near', 'scale.x');
    expect(scale[10]).toBe(1);
    expect(Math.max(...scale)).toBeCloseTo(1.2, 9);
    expect(scale.at(-1)).toBe(1);
  });

  it('what is pulled goes along, and comes back', () => {
    const x = course('pull', 'position.x');
    expect(x[70]).toBe(45);
    expect(x.at(-1)).toBe(0);
    expect(Math.min(...x)).toBeLessThan(0);
  });

  it('what strikes goes down by its own height and comes up slower; the key is heard', () => {
    const y = course('strikes', 'position.y');
    expect(y[20]).toBe(0);
    expect(Math.min(...y)).toBeCloseTo(-70, 9);
    const down = y.indexOf(Math.min(...y));
    const up = y.findIndex((n, tick) => tick > down && n === 0);
    expect(up - down).toBeGreaterThan(down - 24);
    expect(Object.values(shownPiece(recipe('strikes')).colliders).map((c) => c.role)).toEqual(['blocker']);
  });

  it('a plate fills while something is on it, is full, and empties', () => {
    const fill = course('plate', 'fill') as unknown as string[];
    expect(fill[5]).toBe('#7fa982');
    expect(fill).toContain('#e8973f');
    expect(fill.at(-1)).not.toBe('#e8973f');
  });

  it('looks come in turn: one is made where there is none, those that are there are shown', () => {
    const look = course('looks', 'look') as unknown as string[];
    expect([look[10], look[60], look[120]]).toEqual(['', expect.stringMatching(/./), '']);
    expect(shownPiece(recipe('looks')).objects['ob_shown']?.looks).toHaveLength(1);
  });

  it('of a group a part is drawn, each with a state of its own, also where two have one name', () => {
    const store = new PieceStore(emptyPiece('p', 'Test'));
    const s = new Session({ store, history: new History(store), seq: 0, left: [] }, false);
    const parts = [1, 2, 3].map(() => {
      s.selectMany([]);
      addObject(s, 'rect');
      return s.state.object as string;
    });
    s.edit('x', (e) => {
      for (const id of parts) e.update('objects', id, (o) => ({ ...o, name: 'lot' }) as SceneObject);
    });
    s.selectMany(parts);
    joinUnderRoot(s);
    putRecipe(s, recipe('odds'), s.state.object as string);
    const lane = s.store.all('machines')[0]?.lanes[0];
    expect(lane?.states.map((x) => x.name)).toEqual(['none drawn', 'lot', 'lot 2', 'lot 3']);
    expect(lane?.transitions.every((t) => t.odds === 1 && !t.mayRepeat)).toBe(true);
    expect(s.store.all('clips').map((c) => c.tracks[0]?.object)).toEqual(parts);
    expect(checkIntegrity(s.store.toPiece())).toEqual([]);
  });
});
