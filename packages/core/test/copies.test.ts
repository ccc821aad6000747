/** Copies of symbols as instances of templates, and newer versions of them. */
import { describe, expect, it } from 'vitest';
import { checkIntegrity } from '../src/check/index.ts';
import type { KindOf, PieceStore, SceneObject } from '../src/model/index.ts';
import { seeded } from '../testing/random.ts';
import { edit, expectAlike, planFor, replace, rows, seenOf, storeWith, svg, take } from './drawing-piece.ts';

const LEAF = `<symbol id="leaf" overflow="visible"><path id="blade" d="M0 0C10 20 10 30 0 40C-10 30 -10 20 0 0Z" fill="#7fa982"/>
  <path d="M-1 0H1V40H-1Z" fill="#20302a"/></symbol>`;
const TREE = `${LEAF}<rect id="trunk" x="190" y="100" width="20" height="180" fill="#7a4f1d"/>
  <use id="a" href="#leaf" x="100" y="100"/><use id="b" href="#leaf" transform="translate(300 120) rotate(30)"/>
  <use id="c" href="#leaf" transform="translate(200 60) scale(2)" opacity="0.5"/>`;

const uses = (store: PieceStore) =>
  store.everywhere('objects').filter((o): o is KindOf<'instance'> => o.kind === 'instance');
const inside = (store: PieceStore) => store.within('objects', uses(store)[0]?.template ?? null);
const templates = (store: PieceStore) => store.all('templates').map((t) => t.name);
const sound = (store: PieceStore) => expect(checkIntegrity(store.toPiece())).toEqual([]);

describe('copies of a symbol', () => {
  it('are instances of one template, each with its own place, turn, scale and opacity; they look as before', () => {
    const { store } = storeWith(svg(TREE));
    sound(store);
    expect(templates(store)).toEqual(['leaf']);
    expect(uses(store).map((o) => o.name)).toEqual(['a', 'b', 'c']);
    expect(uses(store)[1]?.base.rotation[2]).toBe(-30);
    expect(uses(store)[2]?.base).toMatchObject({ opacity: 0.5, scale: [2, 2, 1] });
    expect(inside(store).map((o) => o.name)).toEqual(
      ['leaf', 'blade', 'Path'].map((n) => (n === 'leaf' ? 'a' : n)),
    );
    expectAlike(seenOf(store), flat(TREE));
  });

  it('used once, skewed, or painted otherwise stay groups of their own', () => {
    const { store } = storeWith(svg(`${LEAF}<use href="#leaf"/>`));
    expect(uses(store)).toEqual([]);
    const own = `<defs><g id="dot"><circle r="5" cx="9"/></g></defs><use href="#dot"/><use href="#dot" fill="red"/>
      <use href="#dot" transform="skewX(20)"/><use href="#dot" x="30"/>`;
    const { store: other } = storeWith(svg(own));
    sound(other);
    expect(uses(other)).toHaveLength(2);
    expect(templates(other)).toEqual(['dot']);
    expectAlike(seenOf(other), flat(own));
  });

  it('that hold copies of others are instances that hold instances', () => {
    const text = `${LEAF}<defs><g id="twig"><use href="#leaf"/><use href="#leaf" x="30"/></g></defs>
      <use href="#twig"/><use href="#twig" y="100"/><use href="#leaf" x="200"/>`;
    const { store } = storeWith(svg(text));
    sound(store);
    expect(templates(store).sort()).toEqual(['leaf', 'twig']);
    expect(uses(store)).toHaveLength(5);
    expectAlike(seenOf(store), flat(text));
  });
});

/** What is seen of a drawing whose copies are all written out: no symbol of it is found to be used twice. */
function flat(text: string): string[] {
  const { store } = storeWith(svg(text), false);
  expect(uses(store)).toEqual([]);
  return seenOf(store);
}

describe('a newer version of a drawing with copies', () => {
  it('the same file changes nothing', () => {
    const { store, root } = storeWith(svg(TREE));
    expect(planFor(store, root, svg(TREE)).rows).toEqual([]);
  });

  it('changes the symbol once, in its template; what was changed there stays, and instances stay where they are', () => {
    const { store, root } = storeWith(svg(TREE));
    const before = uses(store);
    const stalk = inside(store).find((o) => o.name === 'Path') as SceneObject;
    edit(store, stalk.id, (o) => ({ ...o, base: { ...o.base, fill: '#ff0000' } }));
    const newer = TREE.replace('fill="#7fa982"', 'fill="#b23529"').replace('#20302a', '#000000');
    const plan = replace(store, root, svg(newer));
    sound(store);
    expect(rows(plan)).toEqual(['changed blade', 'changed Path']);
    expect(uses(store)).toEqual(before);
    const [blade, path] = inside(store).slice(1);
    expect([blade?.base.fill, path?.base.fill]).toEqual(['#b23529', '#ff0000']);
  });

  it('something drawn within the symbol is new once, and moves nothing', () => {
    const { store, root } = storeWith(svg(TREE));
    const newer = TREE.replace(
      '</symbol>',
      '<circle id="drop" cx="30" cy="50" r="6" fill="#2222ff"/></symbol>',
    );
    const plan = replace(store, root, svg(newer));
    sound(store);
    expect(rows(plan)).toEqual(['new drop']);
    expectAlike(seenOf(store), flat(newer));
  });

  it('another copy is another instance; one that is gone goes; one that moves moves', () => {
    const { store, root } = storeWith(svg(TREE));
    const newer = TREE.replace('x="100" y="100"', 'x="120" y="100"')
      .replace(/<use id="c"[^>]*>/, '')
      .concat('<use id="d" href="#leaf" x="50" y="50"/>');
    const plan = replace(store, root, svg(newer));
    sound(store);
    expect(rows(plan).sort()).toEqual(['gone c', 'moved a', 'new d']);
    expect(templates(store)).toEqual(['leaf']);
    expect(uses(store).map((o) => o.name)).toEqual(['a', 'b', 'd']);
    expectAlike(seenOf(store), flat(newer));
  });

  it('a symbol that is new there comes as a template; one copy that is painted otherwise comes anew by itself', () => {
    const { store, root } = storeWith(svg(TREE));
    const newer = TREE.replace('<use id="b"', '<use id="b" stroke="red"').concat(
      '<symbol id="star"><path d="M0 0H9V9Z"/></symbol><use href="#star"/><use href="#star" x="40"/>',
    );
    const plan = planFor(store, root, svg(newer));
    expect(rows(plan).sort()).toEqual(['gone b', 'new Copy', 'new Copy 2', 'new b']);
    take(store, plan, []);
    sound(store);
    expect(templates(store).sort()).toEqual(['leaf', 'star']);
    expectAlike(seenOf(store), flat(newer));
  });

  it('random drawings with copies in copies look as if brought in anew, and a second time nothing differs', () => {
    const random = seeded(24);
    const pick = (n: number) => Math.floor(random() * n);
    for (let round = 0; round < 60; round++) {
      const drawing = { symbols: Array.from({ length: 3 }, () => shapes(pick)), uses: placed(pick) };
      const text = () =>
        `<defs>${drawing.symbols.map((inner, i) => `<g id="s${'abc'[i]}">${inner}${i > 0 && round % 2 ? `<use href="#sa" x="${40 * i}"/>` : ''}</g>`).join('')}</defs>${drawing.uses.join('')}`;
      const { store, root } = storeWith(svg(text()));
      sound(store);
      expectAlike(seenOf(store), flat(text()));
      for (let n = 0; n < 2; n++) {
        drawing.symbols[pick(3)] = shapes(pick);
        if (pick(2)) drawing.uses[pick(drawing.uses.length)] = use(pick, pick(1000) + 100);
        if (pick(2)) drawing.uses.push(use(pick, pick(1000) + 1200));
        const plan = planFor(store, root, svg(text()));
        take(store, plan, []);
        sound(store);
        expectAlike(seenOf(store), flat(text()));
        expect(planFor(store, root, svg(text())).rows).toEqual([]);
      }
    }
  });
});

type Pick = (n: number) => number;
const shapes = (pick: Pick) =>
  Array.from(
    { length: 1 + pick(3) },
    () =>
      `<path d="M${pick(40)} ${pick(40)}h${5 + pick(30)}v${5 + pick(30)}z" fill="#${(pick(4096) + 4096).toString(16).slice(1)}"/>`,
  ).join('');
const use = (pick: Pick, n: number) =>
  `<use id="use-${'xyzw'[n % 4]}${n}u" href="#s${'abc'[pick(3)]}" transform="translate(${pick(300)} ${pick(200)}) rotate(${pick(4) * 15})"/>`;
const placed = (pick: Pick) => Array.from({ length: 6 }, (_, i) => use(pick, i));
