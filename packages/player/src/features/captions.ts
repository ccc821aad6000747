/** Captions over a canvas: words over things, with buttons where they ask. They are part of the page, so all can read them. */
import { type Caption, captionPlace, captionsOf, type FaceBuilder, type Run } from '@apple-tick/core/run';
import type { PagePart, Standing } from '../page-part.ts';
import type { Placed } from '../runtime.ts';

/** Px between a caption's tip and its object's top, and between the caption and the frame's edge. */
const TIP = 8;
const STYLE = `
.tick-captions { position: absolute; inset: 0; overflow: hidden; pointer-events: none; z-index: 3; }
.tick-caption {
  position: absolute; left: 0; top: 0; max-width: 19em; padding: 8px 12px; border-radius: 10px;
  background: #fffdf6; color: #26332d; box-shadow: 0 1px 0 #26332d26, 0 6px 18px #26332d3d;
  font: 500 1em/1.35 "Public Sans Variable", sans-serif; text-align: center; overflow-wrap: anywhere;
}
.tick-caption::after {
  content: ""; position: absolute; left: calc(50% + var(--tip, 0px)); bottom: -6px; width: 12px; height: 12px;
  background: inherit; transform: translateX(-50%) rotate(45deg); border-radius: 0 0 3px 0;
}
.tick-answers { display: flex; flex-wrap: wrap; gap: 6px; justify-content: center; margin-top: 8px; }
.tick-answers button {
  pointer-events: auto; cursor: pointer; border: 0; border-radius: 7px; padding: 4px 12px; min-height: 28px;
  background: #26332d; color: #fffdf6; font: inherit;
}
.tick-answers button:hover { background: #45564d; }
.tick-answers button:focus-visible { outline: 2px solid #b98b2f; outline-offset: 2px; }
`;

class CaptionLayer implements Standing {
  readonly #root: HTMLElement;
  readonly #style = new CSSStyleSheet();
  readonly #canvas: HTMLCanvasElement;
  readonly #answer: (given: { object: string; answer: string }) => void;
  readonly #shown = new Map<number, HTMLElement>();

  /** The canvas must lie at the left top of its parent, which is positioned. */
  constructor(canvas: HTMLCanvasElement, answer: (given: { object: string; answer: string }) => void) {
    this.#canvas = canvas;
    this.#answer = answer;
    this.#root = document.createElement('div');
    this.#root.className = 'tick-captions';
    this.#root.setAttribute('aria-live', 'polite');
    // A page that lets no style in may still make sheets by script.
    this.#style.replaceSync(STYLE);
    document.adoptedStyleSheets.push(this.#style);
    canvas.after(this.#root);
  }

  remove(): void {
    this.#root.remove();
    document.adoptedStyleSheets = document.adoptedStyleSheets.filter((x) => x !== this.#style);
  }

  /** Shows the captions that stand, each where its object is. */
  show(run: Run, laid: FaceBuilder, at: Placed): void {
    const { program, state } = run;
    const captions = captionsOf(program, state);
    for (const [n, el] of this.#shown)
      if (!captions.some((c) => c.n === n)) {
        // Whoever answered by keyboard goes on in the piece.
        if (el.contains(document.activeElement)) this.#canvas.focus();
        el.remove();
        this.#shown.delete(n);
      }
    // As large as the piece is shown, but always to be read.
    this.#root.style.fontSize = `${Math.max(12.5, Math.min(22, 17 * at.scale))}px`;
    for (const c of captions) {
      const el = this.#shown.get(c.n) ?? this.#make(c, program.objects[c.object]?.id as string);
      const [x, y] = captionPlace(program, state.values, laid, c.object, at.seen);
      const left = at.x - (at.seen.width / 2) * at.scale;
      const right = at.x + (at.seen.width / 2) * at.scale;
      const top = at.y - (at.seen.height / 2) * at.scale;
      const [w, h] = [el.offsetWidth, el.offsetHeight];
      const tip = left + x * at.scale;
      const middle = Math.max(left + TIP + w / 2, Math.min(right - TIP - w / 2, tip));
      const room = w / 2 - 16;
      el.style.setProperty('--tip', `${Math.max(-room, Math.min(room, tip - middle))}px`);
      const over = Math.max(top + TIP, top + y * at.scale - h - TIP);
      el.style.transform = `translate(${Math.round(middle - w / 2)}px, ${Math.round(over)}px)`;
    }
  }

  #make(c: Caption, object: string): HTMLElement {
    const el = document.createElement('div');
    el.className = 'tick-caption';
    const words = document.createElement('div');
    words.textContent = c.text;
    el.append(words);
    if (c.answers.length > 0) {
      const answers = document.createElement('div');
      answers.className = 'tick-answers';
      for (const { id, text } of c.answers) {
        const button = document.createElement('button');
        button.type = 'button';
        button.textContent = text;
        button.addEventListener('click', () => this.#answer({ object, answer: id }));
        answers.append(button);
      }
      el.append(answers);
    }
    this.#root.append(el);
    this.#shown.set(c.n, el);
    return el;
  }
}

/** Captions over the canvas; an answer is an input. */
export function captions(): PagePart {
  return { attach: (canvas, input) => new CaptionLayer(canvas, (answer) => input({ answer })) };
}
