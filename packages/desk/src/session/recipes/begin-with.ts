/** A first thing in a piece with nothing in it. */

import type { Session } from '../session.ts';
import { addObject } from '../things/add-object.ts';
import type { Recipe } from './recipe.ts';
import { putRecipe } from './recipes.ts';

/** In a piece with nothing in it: a first thing, with a recipe on it; one step. */
export function beginWith(s: Session, recipe: Recipe): void {
  s.step(`Began with: ${recipe.name.toLowerCase()}`, () => {
    addObject(s, 'rect');
    if (s.state.object !== null) putRecipe(s, recipe, s.state.object);
  });
}
