/** All recipes, put on an object of a piece, and as they are shown moving where one chooses among them. */
import {
  defaultBase,
  Editor,
  emptyPiece,
  type Piece,
  PieceStore,
  type SceneObject,
} from '@apple-tick/core/model';
import type { Input } from '@apple-tick/core/run';
import { IdSource } from '../model-help.ts';
import type { Session } from '../session.ts';
import { DOORS_AND_SIGNS } from './doors-and-signs.ts';
import { NEAR_AND_ON } from './near-and-on.ts';
import { NUMBERS } from './numbers.ts';
import { PLAYFUL } from './playful.ts';
import type { Recipe } from './recipe.ts';
import { Maker } from './recipe-maker.ts';
import { WORDS } from './words.ts';

export const RECIPES: readonly Recipe[] = [
  ...DOORS_AND_SIGNS,
  ...PLAYFUL,
  ...NUMBERS,
  ...NEAR_AND_ON,
  ...WORDS,
];

/** The recipes that do something for an object. */
export const recipesFor = (store: PieceStore, object: SceneObject): Recipe[] =>
  RECIPES.filter((r) => r.fits?.(store, object) ?? true);

/** Puts a recipe on an object, as one step; its lane is then in sight. */
export function putRecipe(s: Session, recipe: Recipe, id: string): void {
  const object = s.store.get('objects', id);
  if (!object || s.state.readOnly) return;
  s.edit(`${recipe.name}: ${object.name}`, (e) => recipe.make(new Maker(e, (kind) => s.newId(kind), object)));
  const machine = s.store.all('machines').find((m) => m.object === id);
  const lane = machine?.lanes.at(-1);
  // What it made is there to be changed at once.
  const reaction = s.store.all('reactions').findLast((r) => r.object === id)?.id ?? null;
  s.set({
    reaction,
    ...(machine && lane ? { machine: machine.id, lane: lane.id } : {}),
    deck: 'lanes',
    openState: null,
    openClip: null,
  });
}

/** The thing of the shown piece. */
const SHOWN = 'ob_shown';

/** A small piece with one thing that has the recipe: what is shown of it is what it makes. */
export function shownPiece(recipe: Recipe, name = 'It'): Piece {
  const piece = emptyPiece('shown', recipe.name);
  const id = SHOWN;
  const base = { ...defaultBase(), fill: '#7fa982' };
  piece.frame = { ...piece.frame, width: 320, height: 180, background: '#e9e8d4' };
  piece.objects[id] = {
    ...{ id, name, parent: null, order: 'a0', tags: [], hint: '', base },
    ...{ kind: 'rect', size: [100, 70], radius: 10 },
  } as SceneObject;
  if (recipe.shown.comes) addComing(piece, recipe.shown.comes);
  const store = new PieceStore(piece);
  const ids = new IdSource(store);
  recipe.make(
    new Maker(new Editor(store), (kind) => ids.next(kind), store.get('objects', id) as SceneObject),
  );
  return store.toPiece();
}

/** Something that a zone may notice, on its way. */
function addComing(piece: Piece, { from: [x, y], to, seconds }: NonNullable<Recipe['shown']['comes']>): void {
  const object = 'ob_comes';
  piece.tags['ta_comes'] = { id: 'ta_comes', name: 'comes' };
  const base: SceneObject['base'] = { ...defaultBase(), position: [x, y, 0], fill: '#b23529' };
  piece.objects[object] = {
    ...{ id: object, name: 'Thing', parent: null, order: 'a1', tags: ['ta_comes'], hint: '', base },
    ...{ kind: 'ellipse', size: [26, 26] },
  } as SceneObject;
  piece.reactions['re_comes'] = {
    ...{
      id: 're_comes',
      object,
      on: { event: 'piece.start' },
      when: [],
      after: 0,
      cooldown: 0,
      limit: 'always',
    },
    actions: [
      {
        ...{ do: 'tween', object, seconds, easing: 'linear' },
        properties: [
          { property: 'position.x', to: to[0] },
          { property: 'position.y', to: to[1] },
        ],
      },
    ],
  };
}

/** What is put into the run of the shown piece at each tick. */
export function shownInputs(recipe: Recipe): ReadonlyMap<number, Input[]> {
  const out = new Map<number, Input[]>();
  for (const [at, does, [x, y] = [0, 0]] of recipe.shown.acts) {
    const tick = Math.round(at * 60);
    const pointer = (n: number, p: { x: number; y: number; down: boolean } | null) =>
      out.set(tick + n, [{ at: 0, pointer: p } as Input]);
    if (does === 'answer') {
      const answer = { object: SHOWN, answer: 'Yes' };
      out.set(tick, [{ at: 0, answer }]);
    } else if (does === 'key') {
      out.set(tick, [{ at: 0, key: 'k', down: true }]);
      out.set(tick + 6, [{ at: 0, key: 'k', down: false }]);
    } else if (does === 'leave') pointer(0, null);
    else {
      pointer(0, { x: 160 + x, y: 90 + y, down: does === 'press' || does === 'pull' });
      if (does === 'click') {
        pointer(1, { x: 160 + x, y: 90 + y, down: true });
        pointer(4, { x: 160 + x, y: 90 + y, down: false });
      }
    }
  }
  return out;
}
