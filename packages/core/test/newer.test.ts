/** A newer version of a drawing in place of an older one. */
import { describe, expect, it } from 'vitest';
import { checkIntegrity, readPieceJson } from '../src/check/index.ts';
import { isUsual, markBrought, planNewer } from '../src/formats/index.ts';
import {
  type Asset,
  type Clip,
  defaultBase,
  Editor,
  emptyPiece,
  PieceStore,
  type SceneObject,
  treeOrder,
  type Vec3,
} from '../src/model/index.ts';
import { seeded } from '../testing/random.ts';
import {
  edit,
  expectAlike,
  named,
  planFor,
  replace,
  rows,
  seenOf,
  storeWith,
  svg,
  take,
} from './drawing-piece.ts';

const LANTERN = `<g id="lantern"><rect id="body" x="100" y="100" width="80" height="120" fill="#c0392b"/>
  <circle id="lamp" cx="140" cy="160" r="20" fill="#f1c40f"/>
  <path id="ring" d="M120 100 L140 60 L160 100 Z" fill="#2c3e50"/></g>`;

describe('a newer version of a drawing', () => {
  it('the same file changes nothing', () => {
    const { store, root } = storeWith(svg(LANTERN));
    expect(planFor(store, root, svg(LANTERN)).rows).toEqual([]);
  });

  it('what nobody changed here follows the file, what was changed here stays; keys and pivots are not touched', () => {
    const { store, root } = storeWith(svg(LANTERN));
    const [body, lamp] = [named(store, 'body'), named(store, 'lamp')];
    edit(store, lamp.id, (o) => ({ ...o, base: { ...o.base, fill: '#00ff00', pivot: [0, 40, 0] } }));
    const clip: Clip = {
      id: 'cl_swing00000',
      name: 'Swing',
      root: lamp.id,
      duration: 1,
      loop: 'once',
      tracks: [
        {
          object: lamp.id,
          property: 'rotation.z',
          mode: 'absolute',
          keys: [
            { t: 0, value: 0, easing: 'linear' },
            { t: 1, value: 30, easing: 'linear' },
          ],
        },
      ],
      cues: [],
    } as unknown as Clip;
    const e = new Editor(store);
    e.add('clips', clip);
    e.done();
    const newer = LANTERN.replace('#c0392b', '#8e44ad')
      .replace('#f1c40f', '#ffffff')
      .replace('r="20"', 'r="25"');
    const plan = replace(store, root, svg(newer));
    expect(named(store, 'body')).toMatchObject({ id: body.id, base: { fill: '#8e44ad' } });
    expect(named(store, 'lamp')).toMatchObject({
      id: lamp.id,
      size: [50, 50],
      base: { fill: '#00ff00', pivot: [0, 40, 0] },
    });
    expect(store.get('clips', clip.id)).toBe(clip);
    expect(plan.rows.find((r) => r.name === 'lamp')).toMatchObject({
      fields: ['drawing'],
      own: ['base.fill'],
    });
    // Once more nothing is left to be done.
    expect(planFor(store, root, svg(newer)).rows.filter((r) => r.fields.length > 0)).toEqual([]);
  });

  it('something drawn beside a part moves nothing: its origin stays where it was', () => {
    const { store, root } = storeWith(svg(LANTERN));
    const before = store.all('objects').map((o) => [o.id, o.base.position]);
    const plan = replace(
      store,
      root,
      svg(LANTERN.replace('<circle', '<rect id="foot" x="20" y="220" width="300" height="20"/><circle')),
    );
    expect(rows(plan)).toEqual(['new foot']);
    for (const [id, position] of before)
      expect(store.get('objects', id as string)?.base.position).toEqual(position);
    // In the file's order: before the lamp.
    const order = treeOrder(store.all('objects')).map((o) => o.name);
    expect(order).toEqual(['Drawing', 'lantern', 'body', 'foot', 'lamp', 'ring']);
  });

  it('an outline that grows keeps its origin, and with it what it turns about', () => {
    const { store, root } = storeWith(svg(LANTERN));
    const ring = named(store, 'ring');
    replace(store, root, svg(LANTERN.replace('L140 60', 'L140 40')));
    const after = named(store, 'ring');
    expect(after.base.position).toEqual(ring.base.position);
    expect(after).not.toEqual(ring);
    const fresh = storeWith(svg(LANTERN.replace('L140 60', 'L140 40')));
    expectAlike(seenOf(store), seenOf(fresh.store));
  });

  it('a drawing that was moved, turned and made larger here stays so; parts moved here go on being moved', () => {
    const { store, root } = storeWith(svg(LANTERN));
    edit(store, root, (o) => ({
      ...o,
      base: { ...o.base, position: [50, 60, 0], rotation: [0, 0, 30], scale: [2, 2, 1] },
    }));
    const lamp = named(store, 'lamp');
    edit(store, lamp.id, (o) => ({
      ...o,
      base: { ...o.base, position: o.base.position.map((n, i) => n + (i === 0 ? 7 : 0)) as Vec3 },
    }));
    const plan = replace(store, root, svg(LANTERN.replace('cx="140"', 'cx="150"')));
    expect(rows(plan)).toEqual(['moved lamp']);
    expect(store.get('objects', root)?.base).toMatchObject({
      position: [50, 60, 0],
      rotation: [0, 0, 30],
      scale: [2, 2, 1],
    });
    expect(named(store, 'lamp').base.position[0]).toBeCloseTo(lamp.base.position[0] + 17, 3);
  });

  it('what is gone goes, unless something needs it; what was taken out here stays out', () => {
    const { store, root } = storeWith(svg(LANTERN));
    const [lamp, ring] = [named(store, 'lamp'), named(store, 'ring')];
    const e = new Editor(store);
    e.add('reactions', {
      id: 're_click00000',
      object: lamp.id,
      on: { event: 'pointer.click', object: lamp.id },
      when: [],
      then: [],
    } as never);
    e.remove('objects', ring.id);
    e.done();
    const without = LANTERN.replace(/<circle[^>]*>/, '');
    const plan = planFor(store, root, svg(without));
    expect(plan.rows.map((r) => [r.kind, r.name, isUsual(r)])).toEqual([
      ['back', 'ring', false],
      ['gone', 'lamp', false],
    ]);
    take(store, plan);
    expect(store.has('objects', lamp.id)).toBe(true);
    expect(store.all('objects').some((o) => o.name === 'ring')).toBe(false);
    // Wished for, it comes back, and what is gone goes with what named it.
    take(store, planFor(store, root, svg(without)), []);
    expect(named(store, 'ring').parent).toBe(named(store, 'lantern').id);
    expect(store.has('objects', lamp.id)).toBe(false);
    expect(checkIntegrity(store.toPiece())).toEqual([]);
  });

  it('parts without ids are found by what they are and where, although others are drawn before them', () => {
    const plain = LANTERN.replaceAll(/ id="[^"]*"/g, '');
    const { store, root } = storeWith(svg(plain));
    const ids = new Map(store.all('objects').map((o) => [JSON.stringify(o.base.fill), o.id]));
    const plan = replace(
      store,
      root,
      svg(
        plain
          .replace('<rect', '<circle cx="5" cy="5" r="5" fill="#123456"/><rect')
          .replace('r="20"', 'r="24"'),
      ),
    );
    for (const o of store.all('objects')) {
      const was = ids.get(JSON.stringify(o.base.fill));
      if (was && o.kind !== 'group') expect(o.id).toBe(was);
    }
    expect(plan.rows.map((r) => r.kind).sort()).toEqual(['changed', 'new']);
  });

  it('ids that a program numbers anew are not believed where the drawings say otherwise', () => {
    const shapes = ['#111111', '#222222', '#333333', '#444444'].map(
      (fill, i) => `<rect x="${i * 40}" y="${i * 7}" width="${20 + i}" height="10" fill="${fill}"/>`,
    );
    const numbered = (all: string[]) =>
      svg(all.map((s, i) => s.replace('<rect', `<rect id="rect${i + 1}"`)).join(''));
    const { store, root } = storeWith(numbered(shapes));
    const ids = new Map(store.all('objects').map((o) => [o.base.fill, o.id]));
    replace(store, root, numbered(['<rect x="300" y="5" width="9" height="9" fill="#999999"/>', ...shapes]));
    for (const fill of ['#111111', '#222222', '#333333', '#444444'])
      expect(store.all('objects').find((o) => o.base.fill === fill && o.kind === 'rect')?.id).toBe(
        ids.get(fill),
      );
  });

  it('what somebody named otherwise is something else, though it lies there; what is drawn the same was renamed', () => {
    const { store, root } = storeWith(svg(LANTERN));
    const lamp = named(store, 'lamp');
    const other = LANTERN.replace('id="lamp" cx="140" cy="160" r="20"', 'id="bell" cx="142" cy="161" r="22"');
    expect(rows(planFor(store, root, svg(other)))).toEqual(['new bell', 'gone lamp']);
    replace(store, root, svg(LANTERN.replace('id="lamp"', 'id="light"')));
    expect(named(store, 'light').id).toBe(lamp.id);
  });

  it('a mesh whose triangles have other colours is another drawing', () => {
    const mesh = (colors: string[]): Asset => ({
      ...{
        id: 'as_mesh',
        name: 'Mesh',
        kind: 'mesh',
        points: [0, 0, 0, 9, 0, 0, 0, 9, 0],
        triangles: [0, 1, 2],
      },
      colors,
    });
    const store = new PieceStore(emptyPiece('p', 'Test'));
    const object = {
      ...{ id: 'ob_mesh', name: 'Mesh', parent: null, order: 'a0', tags: [], hint: '', base: defaultBase() },
      ...{ kind: 'mesh', size: [9, 9, 0], asset: 'as_mesh' },
    } as SceneObject;
    const marked = (a: Asset, o = object) =>
      markBrought([o], [a], 'd1', { name: 'm.glb', hash: '0'.repeat(64), notes: [] }, new Map());
    const e = new Editor(store);
    e.add('assets', mesh(['#ff0000']));
    for (const o of marked(mesh(['#ff0000']))) e.add('objects', o);
    e.done();
    const newer = { ...mesh(['#0000ff']), id: 'as_newer' };
    const other = { ...object, id: 'ob_newer', asset: 'as_newer' } as SceneObject;
    const plan = planNewer(store, 'ob_mesh', { objects: marked(newer, other), assets: [newer] });
    expect(plan.rows).toMatchObject([{ id: 'ob_mesh', kind: 'changed', fields: ['drawing'] }]);
    take(store, plan);
    expect(store.get('objects', 'ob_mesh')).toMatchObject({ asset: 'as_newer' });
    // What nothing shows any more is gone.
    expect(store.all('assets').map((a) => a.id)).toEqual(['as_newer']);
  });

  it('copies of a part made here follow it, too; a part put elsewhere here stays there', () => {
    const { store, root } = storeWith(svg(LANTERN));
    const [lamp, body] = [named(store, 'lamp'), named(store, 'body')];
    const e = new Editor(store);
    e.add('objects', { ...lamp, id: 'ob_secondlamp', name: 'Second lamp', order: 'zz' });
    e.update('objects', body.id, (o) => ({ ...o, parent: null }));
    e.done();
    replace(store, root, svg(LANTERN.replace('#f1c40f', '#ffffff').replace('#c0392b', '#8e44ad')));
    expect(store.get('objects', 'ob_secondlamp')).toMatchObject({
      name: 'Second lamp',
      base: { fill: '#ffffff' },
    });
    expect(named(store, 'body')).toMatchObject({ parent: null, base: { fill: '#8e44ad' } });
  });

  it('a page that grew is the same drawing in the same px; one in twice as many px is so, too', () => {
    const { store, root } = storeWith(svg(LANTERN));
    const before = seenOf(store);
    replace(store, root, svg(LANTERN, '0 0 500 300'));
    expectAlike(seenOf(store), before);
    replace(store, root, svg(`<g transform="scale(2)">${LANTERN}</g>`, '0 0 1000 600'));
    expect(named(store, 'body').base.fill).toBe('#c0392b');
    const [, lamp] = seenOf(store);
    expect(lamp).toBe(before[1]);
  });

  it('what is left out is left, and taking it back gives what was there', () => {
    const { store, root } = storeWith(svg(LANTERN));
    const before = store.toPiece();
    const plan = planFor(
      store,
      root,
      svg(
        `${LANTERN.replace('#c0392b', '#8e44ad').replace(/<circle[^>]*>/, '')}<rect id="sky" width="9" height="9"/>`,
      ),
    );
    const diff = take(
      store,
      plan,
      plan.rows.map((r) => r.id),
    );
    expect(seenOf(store)).toEqual(seenOf(new PieceStore(before)));
    store.revert(diff);
    expect(store.toPiece()).toEqual(before);
    const whole = take(store, plan, []);
    expect(readPieceJson(JSON.parse(JSON.stringify(store.toPiece()))).ok).toBe(true);
    store.revert(whole);
    expect(store.toPiece()).toEqual(before);
  });
});

/** A drawing at random as a tree, and what somebody may do to it. */
interface Drawn {
  tag: string;
  id: string;
  turn: number;
  x: number;
  y: number;
  w: number;
  fill: string;
  children: Drawn[] | null;
}

const random = seeded(2024);
const whole = (n: number) => Math.floor(random() * n);
const colour = () => `#${(0x100000 + whole(0xefffff)).toString(16)}`;
let count = 0;
const drawn = (depth: number): Drawn => ({
  tag: ['rect', 'path', 'circle', 'path'][whole(4)] as string,
  id:
    random() < 0.6 ? `part-${['a', 'b', 'c'][whole(3)]}${'xyzuvw'[whole(6)]}-${(count++).toString(36)}x` : '',
  turn: random() < 0.3 ? whole(360) : 0,
  x: whole(200),
  y: whole(150),
  w: 10 + whole(60),
  fill: colour(),
  children: depth > 0 && random() < 0.5 ? Array.from({ length: 1 + whole(4) }, () => drawn(depth - 1)) : null,
});
const textOf = (d: Drawn): string => {
  const id = d.id ? ` id="${d.id}"` : '';
  const transform = d.turn ? ` transform="rotate(${d.turn} ${d.x} ${d.y})"` : '';
  if (d.children) return `<g${id}${transform}>${d.children.map(textOf).join('')}</g>`;
  const { x, y, w } = d;
  const shape =
    d.tag === 'rect'
      ? `rect x="${x}" y="${y}" width="${w}" height="${w / 2}"`
      : d.tag === 'circle'
        ? `circle cx="${x}" cy="${y}" r="${w / 2}"`
        : `path d="M${x} ${y} l${w} 0 q${w / 2} ${w} ${-w} ${w / 3} Z"`;
  return `<${shape}${id}${transform} fill="${d.fill}"/>`;
};
const everyOne = (all: Drawn[]): Drawn[] => all.flatMap((d) => [d, ...everyOne(d.children ?? [])]);

/** Something that one does to a drawing between two versions of it. */
function changed(all: Drawn[]): Drawn[] {
  const copy = structuredClone(all);
  for (let n = 0; n < 4; n++) {
    const parts = everyOne(copy);
    const d = parts[whole(parts.length)] as Drawn;
    const what = whole(7);
    if (what === 0) d.fill = colour();
    else if (what === 1) d.x += 5 + whole(40);
    else if (what === 2) d.w += 3 + whole(20);
    else if (what === 3) d.children?.push(drawn(1));
    else if (what === 4 && d.children && d.children.length > 1)
      d.children.splice(whole(d.children.length), 1);
    else if (what === 5) d.children?.reverse();
    else if (what === 6) copy.splice(whole(copy.length + 1), 0, drawn(1));
  }
  return copy;
}

describe('newer versions at random', () => {
  it('without changes of one’s own they look as if they had been brought in anew, three times over', () => {
    for (let n = 0; n < 60; n++) {
      let drawing = Array.from({ length: 2 + whole(4) }, () => drawn(3));
      const page = (all: Drawn[]) => svg(all.map(textOf).join(''), '-600 -600 1400 1400');
      const { store, root } = storeWith(page(drawing));
      for (let v = 0; v < 3; v++) {
        drawing = changed(drawing);
        const before = store.toPiece();
        const plan = planFor(store, root, page(drawing));
        const diff = take(store, plan, []);
        expectAlike(seenOf(store), seenOf(storeWith(page(drawing)).store));
        expect(checkIntegrity(store.toPiece())).toEqual([]);
        const after = store.toPiece();
        store.revert(diff);
        expect(store.toPiece()).toEqual(before);
        store.apply(diff);
        expect(store.toPiece()).toEqual(after);
      }
    }
  });

  it('of 500 parts of which 60 changed all that are there still keep what they are', () => {
    const drawing = Array.from(
      { length: 25 },
      (_, i): Drawn => ({
        ...drawn(0),
        id: `group-${'abcdefghijklmnopqrstuvwxy'[i]}`,
        turn: 0,
        children: Array.from({ length: 19 }, () => ({
          ...drawn(0),
          id: random() < 0.5 ? `p-${(count++).toString(36)}q` : '',
          children: null,
        })),
      }),
    );
    const { store, root } = storeWith(svg(drawing.map(textOf).join(''), '-600 -600 1400 1400'));
    const idOf = new Map(store.all('objects').map((o) => [JSON.stringify(o.base.fill), o.id]));
    const parts = drawing.flatMap((d) => d.children ?? []);
    for (let n = 0; n < 60; n++) {
      const d = parts[(n * 7) % parts.length] as Drawn;
      if (n % 3 === 0) d.w += 4;
      else if (n % 3 === 1) d.x += 9;
      else d.y -= 6;
    }
    replace(store, root, svg(drawing.map(textOf).join(''), '-600 -600 1400 1400'));
    const lost = store
      .all('objects')
      .filter((o) => o.kind !== 'group' && idOf.get(JSON.stringify(o.base.fill)) !== o.id);
    expect(lost).toEqual([]);
  });
});
