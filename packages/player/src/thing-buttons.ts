/**
 * Buttons over a canvas for those who use no pointer: one, not drawn, for each thing in the piece that hears it. Focus is
 * the pointer coming to the thing and going from it, Enter and Space are a press and a release; where the focus is a ring
 * stands round the thing.
 */
import { heardBy, type Piece } from '@apple-tick/core/model';
import { type Extent, extentOf, type FaceBuilder, type InputKind, type Run } from '@apple-tick/core/run';
import type { Placed } from './runtime.ts';

interface Thing {
  /** Number of the object. */
  readonly object: number;
  readonly button: HTMLButtonElement;
  /** By which inputs name it; null while it cannot be seen. */
  name: string | null;
}

/** Px of the page between a thing and the ring round it. */
const ROOM = 3;
const extent: Extent = [0, 0, 0, 0];

export class ThingButtons {
  readonly root: HTMLElement;
  readonly #canvas: HTMLCanvasElement;
  readonly #input: (input: InputKind) => void;
  #things: readonly Thing[] = [];
  #of: Piece | null = null;
  #focused: Thing | null = null;
  /** The thing that Enter or Space is held on. */
  #held: string | null = null;

  /** The canvas must lie at the left top of its parent, which is positioned. */
  constructor(canvas: HTMLCanvasElement, input: (input: InputKind) => void) {
    this.#canvas = canvas;
    this.#input = input;
    this.root = document.createElement('div');
    this.root.className = 'tick-things';
    Object.assign(this.root.style, {
      position: 'absolute',
      inset: '0',
      overflow: 'hidden',
      pointerEvents: 'none',
    });
    canvas.after(this.root);
  }

  remove(): void {
    this.#release();
    this.root.remove();
  }

  /** There is a button for each thing that can be seen now, and the ring is where the one with the focus is. */
  show(run: Run, laid: FaceBuilder, at: Placed): void {
    const { piece } = run.program;
    if (piece !== this.#of) this.#make(run, piece);
    for (const thing of this.#things) {
      const name = run.nameOfSeen(thing.object);
      if (name === thing.name) continue;
      thing.name = name;
      // Whoever was on what has gone goes on in the piece.
      if (name === null && thing === this.#focused) this.#canvas.focus();
      thing.button.hidden = name === null;
    }
    if (!this.#focused) return;
    const [left, bottom, right, top] = extentOf(
      run.program,
      run.state.values,
      laid,
      this.#focused.object,
      extent,
    );
    const { style } = this.#focused.button;
    const corner = [at.x + left * at.scale - ROOM, at.y - top * at.scale - ROOM] as const;
    style.transform = `translate(${Math.round(corner[0])}px, ${Math.round(corner[1])}px)`;
    style.width = `${Math.max(12, Math.round((right - left) * at.scale) + 2 * ROOM)}px`;
    style.height = `${Math.max(12, Math.round((top - bottom) * at.scale) + 2 * ROOM)}px`;
  }

  #make(run: Run, piece: Piece): void {
    this.#of = piece;
    const focused = this.#focused?.name ?? null;
    for (const { button } of this.#things) button.remove();
    this.#things = heardBy(piece).pointed.flatMap((id) => {
      const object = run.program.objectIndex.get(id);
      const o = piece.objects[id];
      return object === undefined || !o ? [] : [this.#thing(object, o.hint || o.name)];
    });
    if (focused === null) return;
    this.#things.find((x) => run.nameOfSeen(x.object) === focused)?.button.focus();
  }

  #thing(object: number, words: string): Thing {
    const button = document.createElement('button');
    button.type = 'button';
    button.setAttribute('aria-label', words);
    Object.assign(button.style, {
      ...{
        position: 'absolute',
        left: '0',
        top: '0',
        width: '1px',
        height: '1px',
        padding: '0',
        border: '0',
      },
      ...{
        background: 'none',
        color: 'transparent',
        overflow: 'hidden',
        borderRadius: '6px',
        outline: 'none',
      },
    });
    const thing: Thing = { object, button, name: null };
    button.hidden = true;
    button.addEventListener('focus', () => {
      this.#focused = thing;
      // Two colours, so that it is seen on light things and on dark ones.
      button.style.boxShadow = '0 0 0 2px #fffdf6, 0 0 0 4px #26332d';
      if (thing.name !== null) this.#input({ enter: thing.name });
    });
    button.addEventListener('blur', () => {
      this.#release();
      if (this.#focused === thing) this.#focused = null;
      button.style.boxShadow = '';
      if (thing.name !== null) this.#input({ leave: thing.name });
    });
    button.addEventListener('keydown', (e) => {
      if (!isPress(e)) return;
      e.preventDefault();
      e.stopPropagation();
      if (e.repeat || thing.name === null) return;
      this.#held = thing.name;
      this.#input({ press: thing.name });
    });
    button.addEventListener('keyup', (e) => {
      if (!isPress(e)) return;
      e.preventDefault();
      e.stopPropagation();
      this.#release();
    });
    // What reads the screen aloud presses buttons without keys.
    button.addEventListener('click', () => thing.name !== null && this.#input({ click: thing.name }));
    this.root.append(button);
    return thing;
  }

  #release(): void {
    if (this.#held !== null) this.#input({ release: this.#held });
    this.#held = null;
  }
}

function isPress(e: KeyboardEvent): boolean {
  return (e.key === 'Enter' || e.key === ' ') && !e.ctrlKey && !e.metaKey && !e.altKey;
}
