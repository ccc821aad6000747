import { seeded } from '@apple-tick/core/testing';
import 'fake-indexeddb/auto';
import { MAT, multiply } from '@apple-tick/core/base';
import { checkIntegrity, readPieceJson } from '@apple-tick/core/check';
import { defaultBase, emptyPiece, History, PieceStore, type Vec3 } from '@apple-tick/core/model';
import { beforeEach, describe, expect, it } from 'vitest';
import { runCommand } from '../../commands/registry.ts';
import { onlyThis } from '../model-help.ts';
import { Session } from '../session.ts';
import { addObject } from './add-object.ts';
import {
  baseIn,
  copyChosen,
  duplicate,
  joinUnderRoot,
  moveInTree,
  pasteExcerpt,
  stepInTree,
  topmost,
  worldsOf,
} from './arrange.ts';
import { excerptText, readExcerpt } from './clipboard.ts';
import { cellsOf, cutIntoParts } from './cut.ts';

let s: Session;
const fresh = () => {
  const store = new PieceStore(emptyPiece('p', 'Test'));
  return new Session({ store, history: new History(store), seq: 0, left: [] }, false);
};
beforeEach(() => {
  s = fresh();
});
const random = seeded(21);
const add = (kind: 'group' | 'box' | 'rect') => {
  s.selectMany([]);
  addObject(s, kind);
  return s.state.object as string;
};
const place = (id: string, scale: Vec3 = [1, 1, 1]) =>
  s.edit('x', (e) =>
    e.update('objects', id, (o) => ({
      ...o,
      base: {
        ...o.base,
        position: [300 * random() - 150, 300 * random() - 150, 100 * random()],
        rotation: [360 * random(), 360 * random(), 360 * random()],
        scale,
        pivot: [40 * random(), 40 * random(), 0],
      },
    })),
  );
const world = (id: string) => [...(worldsOf(s).get(id) ?? [])];
const close = (a: number[], b: number[], within = 1e-4) =>
  a.every((x, i) => Math.abs(x - (b[i] as number)) < within);
const names = (parent: string | null) =>
  s.store
    .all('objects')
    .filter((o) => o.parent === parent)
    .sort((a, b) => (a.order < b.order ? -1 : 1))
    .map((o) => o.name);

describe('the tree', () => {
  it('under another parent an object keeps its place on the screen, and its name gets a number when taken', () => {
    for (let n = 0; n < 40; n++) {
      s = fresh();
      const group = add('group');
      const k = 0.5 + random();
      place(group, [k, k, k]);
      const box = add('box');
      place(box, [0.5 + random(), 0.5 + random(), random() < 0.5 ? 1 : -1]);
      const before = world(box);
      expect(moveInTree(s, [box], group, null)).toBe(true);
      expect(s.store.get('objects', box)?.parent).toBe(group);
      expect(close(world(box), before), `round ${n}`).toBe(true);
      moveInTree(s, [box], null, null);
      expect(close(world(box), before), `back, round ${n}`).toBe(true);
    }
  });

  it('a base found again gives the matrix that was asked for', () => {
    const group = add('group');
    place(group);
    const o = s.store.get('objects', group);
    if (!o) throw new Error('no group');
    const space = worldsOf(s).get(group) as Float64Array;
    const target = new Float64Array(MAT);
    multiply(target, 0, space, 0, space, 0);
    s.edit('x', (e) =>
      e.update('objects', group, (x) => ({ ...x, base: baseIn(o.base, target, undefined) })),
    );
    expect(close(world(group), [...target])).toBe(true);
  });

  it('nothing comes under itself', () => {
    const group = add('group');
    const box = add('box');
    moveInTree(s, [box], group, null);
    expect(moveInTree(s, [group], box, null)).toBe(false);
    expect(moveInTree(s, [group], group, null)).toBe(false);
  });

  it('steps up, down, in and out', () => {
    const [a, , c] = [add('box'), add('box'), add('box')] as [string, string, string];
    s.select({ kind: 'object', id: c });
    stepInTree(s, 'up');
    expect(names(null)).toEqual(['Box', 'Box 3', 'Box 2']);
    stepInTree(s, 'down');
    expect(names(null)).toEqual(['Box', 'Box 2', 'Box 3']);
    stepInTree(s, 'up');
    stepInTree(s, 'in');
    expect(names(a)).toEqual(['Box 3']);
    stepInTree(s, 'out');
    expect(names(null)).toEqual(['Box', 'Box 3', 'Box 2']);
  });

  it('several are joined under one root in one step, and nothing moves', () => {
    const ids = [add('box'), add('rect'), add('box')];
    for (const id of ids) place(id);
    const before = ids.map(world);
    s.selectMany(ids);
    joinUnderRoot(s);
    const root = s.state.object as string;
    expect(ids.every((id) => s.store.get('objects', id)?.parent === root)).toBe(true);
    ids.forEach((id, i) => {
      expect(close(world(id), before[i] as number[], 1e-3)).toBe(true);
    });
    expect(s.history.undoName).toBe('Joined 3 objects');
    s.undo();
    expect(s.store.has('objects', root)).toBe(false);
    expect(checkIntegrity(s.piece())).toEqual([]);
  });
});

describe('several at once', () => {
  it('of a parent and its child only the parent counts', () => {
    const group = add('group');
    const box = add('box');
    moveInTree(s, [box], group, null);
    s.selectMany([box, group]);
    expect(topmost(s)).toEqual([group]);
    s.toggle(group);
    expect(s.chosen).toEqual([box]);
  });

  it('are duplicated and deleted together, each in one step', () => {
    s.selectMany([add('box'), add('rect')]);
    const outside = duplicate(s, true);
    expect(outside).toEqual([]);
    expect(names(null)).toEqual(['Box', 'Rectangle', 'Box 2', 'Rectangle 2']);
    runCommand(s, 'delete');
    expect(names(null)).toEqual(['Box', 'Rectangle']);
    s.undo();
    s.undo();
    expect(names(null)).toEqual(['Box', 'Rectangle']);
  });
});

describe('copies as text', () => {
  it('reach another piece, and come there twice with names of their own', () => {
    const group = add('group');
    const box = add('box');
    moveInTree(s, [box], group, null);
    s.select({ kind: 'object', id: group });
    const text = excerptText(copyChosen(s));
    s = fresh();
    for (let n = 0; n < 2; n++) {
      const x = readExcerpt(text);
      if (!x) throw new Error('not read');
      s.selectMany([]);
      pasteExcerpt(s, x);
    }
    expect(names(null)).toEqual(['Group', 'Group 2']);
    expect(checkIntegrity(s.piece())).toEqual([]);
  });

  it('any other text, or a broken one, is not taken', () => {
    add('box');
    const text = excerptText(copyChosen(s));
    expect(readExcerpt(text)).not.toBeNull();
    for (const bad of [
      'hello',
      '{}',
      '[1]',
      text.replace('"box"', '"bax"'),
      text.replace(/"roots":\[[^\]]*\]/, '"roots":["ob_zz"]'),
    ])
      expect(readExcerpt(bad), bad.slice(0, 40)).toBeNull();
  });
});

it('only this: others are not shown, what is above draws nothing, other machines are not run', () => {
  const group = add('box');
  const inner = add('box');
  moveInTree(s, [inner], group, null);
  const other = add('rect');
  const p = onlyThis(s.store, inner);
  expect(p.objects[inner]?.base.shown).toBe(true);
  expect(p.objects[group]?.kind).toBe('group');
  expect(p.objects[other]?.base.shown).toBe(false);
});

it('a picture that is cut gives its parts its own mask, loses its looks with what names them, and stays sound', () => {
  const id = s.newId('objects');
  const child = s.newId('objects');
  const common = { tags: [], hint: '', base: defaultBase() };
  const picture = {
    id: 'as_a',
    name: 'tile',
    kind: 'image' as const,
    mime: 'image/png' as const,
    width: 40,
    height: 20,
    hash: 'a'.repeat(64),
  };
  s.edit('x', (e) => {
    e.add('assets', picture);
    e.add('objects', {
      ...common,
      id,
      name: 'Tile',
      parent: null,
      order: 'a0',
      kind: 'image',
      asset: 'as_a',
      size: [40, 20],
      pixel: true,
      mask: { alpha: 0.4 },
      looks: [{ id: 'lk_a', name: 'other', cut: [0, 0, 4, 4] }],
      base: { ...defaultBase(), look: 'lk_a' },
    });
    // Its name is one that a part would have.
    e.add('objects', { ...common, id: child, name: 'Tile 2', parent: id, order: 'a0', kind: 'group' });
    e.add('reactions', {
      id: 're_a',
      object: id,
      on: { event: 'pointer.click' },
      when: [],
      after: 0,
      cooldown: 0,
      limit: 'always',
      actions: [
        { do: 'look', object: id, to: 'lk_a' },
        { do: 'hide', object: id },
      ],
    });
  });
  cutIntoParts(s, id, cellsOf([0, 0, 40, 20], 2, 2));
  const parts = s.chosen.map((x) => s.store.get('objects', x));
  expect(parts.map((o) => o?.mask)).toEqual(Array(4).fill({ alpha: 0.4 }));
  expect(parts.map((o) => (o?.kind === 'image' ? o.cut : null))).toEqual([
    [0, 0, 20, 10],
    [20, 0, 20, 10],
    [0, 10, 20, 10],
    [20, 10, 20, 10],
  ]);
  expect(s.store.get('objects', id)?.mask).toBeUndefined();
  expect(s.store.get('reactions', 're_a')?.actions).toEqual([{ do: 'hide', object: id }]);
  expect(checkIntegrity(s.piece())).toEqual([]);
  expect(readPieceJson(JSON.parse(JSON.stringify(s.piece()))).ok).toBe(true);
  s.undo();
  expect(s.store.get('objects', id)?.looks).toHaveLength(1);
});
