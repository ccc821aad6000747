import type { SceneObject } from '@apple-tick/core/model';
import {
  activeEffects,
  type Caption,
  captionPlace,
  captionsOf,
  compile,
  FaceBuilder,
  Run,
  seedOf,
} from '@apple-tick/core/run';
import { paintFaces, paintGround } from '@apple-tick/painter';
import { Effects } from '@apple-tick/player';
import { useEffect, useRef } from 'react';
import { useSession } from '../session/hooks.ts';
import type { Recipe } from '../session/recipes/recipe.ts';
import { putRecipe, recipesFor, shownInputs, shownPiece } from '../session/recipes/recipes.ts';

const WIDTH = 112;
const HEIGHT = 63;

/** Ready-made behaviours for an object, each with a moving picture of what it makes, to be put on it at a click. */
export function RecipeList({ object, onPut }: { object: SceneObject; onPut?: () => void }) {
  const s = useSession();
  return recipesFor(s.store, object).map((recipe) => (
    <RecipeButton
      key={recipe.id}
      recipe={recipe}
      says={recipe.says(object.name)}
      onPick={() => {
        onPut?.();
        putRecipe(s, recipe, object.id);
      }}
    />
  ));
}

/** A recipe with its moving picture and what it does, in words. */
export function RecipeButton(props: { recipe: Recipe; says: string; onPick: () => void }) {
  const { recipe } = props;
  return (
    <button
      type="button"
      className="flex gap-3 items-center w-full text-left p-1.5 rounded-[7px] hover:bg-chosen focus-visible:bg-chosen"
      onClick={props.onPick}
    >
      <Shown recipe={recipe} />
      <span>
        <span className="block font-semibold">{recipe.name}</span>
        <span className="block text-ink-2 text-[11.5px]">{props.says}</span>
      </span>
    </button>
  );
}

/** A run of the small piece that has the recipe, with what is done to it, again and again. */
function Shown({ recipe }: { recipe: Recipe }) {
  const ref = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const canvas = ref.current;
    const ctx = canvas?.getContext('2d');
    if (!canvas || !ctx) return;
    let stop = () => {};
    // Each for itself: all at once would hold up what they stand beside.
    const begun = setTimeout(() => {
      stop = play(canvas, ctx, recipe);
    });
    return () => {
      clearTimeout(begun);
      stop();
    };
  }, [recipe]);
  return (
    <canvas
      ref={ref}
      aria-hidden="true"
      className="rounded-[6px] flex-none"
      style={{ width: WIDTH, height: HEIGHT }}
    />
  );
}

/** Plays the recipe's small piece on a canvas; returns how to end it. */
function play(canvas: HTMLCanvasElement, ctx: CanvasRenderingContext2D, recipe: Recipe): () => void {
  const ratio = devicePixelRatio || 1;
  canvas.width = WIDTH * ratio;
  canvas.height = HEIGHT * ratio;
  const piece = shownPiece(recipe);
  const program = compile(piece);
  const inputs = shownInputs(recipe);
  const builder = new FaceBuilder();
  const effects = new Effects();
  const scale = canvas.width / piece.frame.width;
  const at = { x: canvas.width / 2, y: canvas.height / 2, scale };
  let run = new Run(program, { trace: false });
  const step = () => {
    if (run.tick >= recipe.shown.seconds * 60) run = new Run(program, { trace: false });
    run.step(inputs.get(run.tick + 1) ?? []);
  };
  const paint = () => {
    paintGround(ctx, piece.frame.background, piece.frame.width, piece.frame.height, at);
    const { state } = run;
    const faces = builder.build(program, state.values, piece.view);
    effects.build(program, activeEffects(program, state), seedOf(state), builder, piece.view);
    effects.tremble(faces);
    paintFaces(ctx, faces, at);
    effects.paint(ctx, at, piece.frame, () => undefined);
    for (const c of captionsOf(program, state)) {
      const [x, y] = captionPlace(program, state.values, builder, c.object, piece.frame);
      bubble(ctx, c, { x: x * scale, y: y * scale }, scale);
    }
    const [, does, [x, y] = [0, 0]] = recipe.shown.acts.findLast(([t]) => t * 60 <= run.tick) ?? [];
    if (does && does !== 'leave' && does !== 'answer' && does !== 'key')
      pointer(ctx, { x: at.x + x * scale, y: at.y + y * scale }, scale);
  };
  step();
  paint();
  if (matchMedia('(prefers-reduced-motion: reduce)').matches) return () => {};
  let before = 0;
  let frame = requestAnimationFrame(function next(now) {
    frame = requestAnimationFrame(next);
    before ||= now;
    // As many ticks as went by, but after a pause not all of them at once.
    const ticks = Math.min(4, Math.floor(((now - before) * 60) / 1000));
    if (ticks === 0) return;
    before = now;
    for (let n = 0; n < ticks; n++) step();
    paint();
  });
  return () => cancelAnimationFrame(frame);
}

/** A caption in the picture, with its answers. */
function bubble(
  ctx: CanvasRenderingContext2D,
  { text, answers }: Caption,
  at: { x: number; y: number },
  scale: number,
): void {
  const high = answers.length > 0 ? 58 : 30;
  ctx.font = '600 15px "Public Sans Variable", sans-serif';
  const wide = Math.max(ctx.measureText(text).width + 24, answers.length * 60 + 16);
  ctx.setTransform(scale, 0, 0, scale, at.x, Math.max(at.y, (high + 10) * scale));
  ctx.textAlign = 'center';
  const box = (x: number, y: number, w: number, h: number, words: string, ink: boolean) => {
    ctx.fillStyle = ink ? '#26332d' : '#fffdf6';
    ctx.beginPath();
    ctx.roundRect(x - w / 2, y, w, h, 9);
    ctx.fill();
    ctx.fillStyle = ink ? '#fffdf6' : '#26332d';
    ctx.fillText(words, x, y + 20);
  };
  box(0, -high - 8, wide, high, text, false);
  answers.forEach((a, i) => {
    box((i - (answers.length - 1) / 2) * 60, -36, 52, 28, a.text, true);
  });
  ctx.textAlign = 'start';
  ctx.setTransform(1, 0, 0, 1, 0, 0);
}

/** Where the pointer is in the picture. */
function pointer(ctx: CanvasRenderingContext2D, at: { x: number; y: number }, scale: number): void {
  ctx.setTransform(scale, 0, 0, scale, at.x, at.y);
  ctx.beginPath();
  ctx.moveTo(0, 0);
  ctx.lineTo(0, 34);
  ctx.lineTo(9, 26);
  ctx.lineTo(24, 26);
  ctx.closePath();
  ctx.fillStyle = '#20302a';
  ctx.strokeStyle = '#fffcf5';
  ctx.lineWidth = 3;
  ctx.stroke();
  ctx.fill();
  ctx.setTransform(1, 0, 0, 1, 0, 0);
}
