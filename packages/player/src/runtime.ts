/**
 * A running piece in a page: frames of the screen become ticks, what people do on its canvas becomes inputs, poses
 * become a picture, sounds are heard. It sleeps while its canvas cannot be seen. One canvas at a time.
 */
import { heardBy, hearsKey, type SceneObject } from '@apple-tick/core/model';
import { type Angle, FaceBuilder, type Program, type TraceRecord } from '@apple-tick/core/run';
import type { Pictures } from '@apple-tick/painter';
import type { Overlay, PagePart, Standing } from './page-part.ts';
import { type FrameView, paintFrame } from './paint-frame.ts';
import { Player } from './player.ts';
import { ThingButtons } from './thing-buttons.ts';

/** Ms beyond which a tick is slow, and so many frames of the screen after which that is said. */
const SLOW = 60;
const SLOW_FRAMES = 12;

/** Where and how the piece is shown on its canvas. */
export interface Placed extends Angle, Pick<FrameView, 'size' | 'seen' | 'masks'> {
  readonly x: number;
  readonly y: number;
  readonly scale: number;
}

export interface RuntimeOptions {
  readonly view?: Angle;
  readonly pictures: Pictures;
  /** What features show in the page, or let people hear. */
  readonly parts: readonly PagePart[];
  /** Hears that ticks have been slow for a while, as many ms each; the run pauses, and `goOn` lets it go on as it is. */
  readonly onSlow?: (ms: number) => void;
  /** Hears what happened in a frame in which ticks were done; `over`: the object that the pointer is over then. */
  readonly onTicks: (records: readonly TraceRecord[], over: SceneObject | undefined) => void;
}

export class Runtime {
  readonly player: Player;
  readonly #options: RuntimeOptions;
  readonly #builder = new FaceBuilder();
  /** What stands beside the canvas. */
  #standing: readonly Standing[] = [];
  #canvas: HTMLCanvasElement | null = null;
  #placed: (() => Placed) | null = null;
  #frame = 0;
  #asleep = false;
  #stopped = false;
  /** Something is to be painted that no tick has changed. */
  #stale = true;

  constructor(program: Program, options: RuntimeOptions) {
    this.#options = options;
    this.player = new Player(program, options.view);
    this.#tell(this.player.run.takeTrace());
    this.#wake();
  }

  /** Ends it: nothing is done any more, and nobody is listened to. */
  stop(): void {
    this.#stopped = true;
    cancelAnimationFrame(this.#frame);
  }

  /**
   * Shows the piece on a canvas, where `placed` says, and listens to what people do there; returns how to let go of it.
   * While the canvas or a thing on it has the focus, the keyboard keys that the piece hears are the piece's alone; all
   * others are whose the page says, and Tab goes on. Escape leaves.
   */
  attach(canvas: HTMLCanvasElement, placed: () => Placed): () => void {
    const gone = new AbortController();
    const { signal } = gone;
    const on = <K extends keyof HTMLElementEventMap>(what: K, hear: (e: HTMLElementEventMap[K]) => void) =>
      canvas.addEventListener(what, hear, { signal });
    const pointer = (e: PointerEvent, down: boolean) => {
      const { x, y, scale } = placed();
      const box = canvas.getBoundingClientRect();
      const { width, height } = this.player.run.program.piece.frame;
      const at = { x: (e.clientX - box.left - x) / scale, y: (e.clientY - box.top - y) / scale };
      this.player.input({ pointer: { x: at.x + width / 2, y: at.y + height / 2, down } });
    };
    on('pointerdown', (e) => {
      if (e.button !== 0) return;
      canvas.focus();
      canvas.setPointerCapture(e.pointerId);
      pointer(e, true);
    });
    on('pointermove', (e) => pointer(e, e.buttons === 1));
    on('pointerup', (e) => pointer(e, false));
    on('pointerleave', () => this.player.input({ pointer: null }));
    const things = new ThingButtons(canvas, (input) => this.player.input(input));
    // Keys that are down, as they were told to the piece: whoever leaves lets go of them.
    const held = new Set<string>();
    const letGo = (key: string) => held.delete(key) && this.player.input({ key, down: false });
    const onKey = (e: KeyboardEvent) => {
      if (e.key === 'Escape') (document.activeElement as HTMLElement | null)?.blur();
      else if (e.ctrlKey || e.metaKey || e.key === 'Tab') return;
      else if (!hearsKey(heardBy(this.player.run.program.piece), e.key)) return;
      else {
        // It does nothing else, and a key that is held goes down once.
        e.preventDefault();
        if (!held.has(e.key)) this.player.input({ key: e.key, down: true });
        held.add(e.key);
      }
      e.stopPropagation();
    };
    for (const el of [canvas, things.root]) {
      el.addEventListener('keydown', onKey, { signal });
      el.addEventListener('keyup', (e) => letGo(e.key), { signal });
      el.addEventListener('focusout', () => held.forEach(letGo), { signal });
    }
    const seen = new IntersectionObserver((list) => {
      this.#asleep = list.at(-1)?.isIntersecting === false;
      this.#wake();
    });
    seen.observe(canvas);
    this.#canvas = canvas;
    const standing = this.#options.parts.flatMap(
      (part) => part.attach?.(canvas, (input) => this.player.input(input)) ?? [],
    );
    this.#standing = [...standing, things];
    this.#placed = placed;
    this.repaint();
    return () => {
      gone.abort();
      seen.disconnect();
      for (const x of [...standing, things]) x.remove();
      if (this.#canvas !== canvas) return;
      this.#canvas = null;
      this.#standing = [];
      this.#placed = null;
      this.#asleep = false;
    };
  }

  /** Paints with the next frame, also when no tick has changed anything: the place, a picture or a font is another. */
  repaint(): void {
    this.#stale = true;
    this.#wake();
  }

  /** One tick, also while paused. */
  tick(): void {
    this.#stale = true;
    this.#tell(this.player.tick());
  }

  #wake(): void {
    cancelAnimationFrame(this.#frame);
    if (!this.#stopped && !this.#asleep) this.#frame = requestAnimationFrame(this.#doFrame);
  }

  /** A tick took so many ms: when one after another is slow, it is said. */
  #watch(ms: number): void {
    this.#slow = ms > SLOW ? this.#slow + 1 : 0;
    if (this.#slow < SLOW_FRAMES || this.#isPatient || !this.#options.onSlow) return;
    this.#slow = 0;
    this.player.paused = true;
    this.#options.onSlow(ms);
  }
  #slow = 0;
  #isPatient = false;

  /** Goes on however slow it is. */
  goOn(): void {
    this.#isPatient = true;
    this.player.paused = false;
  }

  readonly #doFrame = (milliseconds: number): void => {
    const { player } = this;
    const before = player.run.tick;
    const began = performance.now();
    const records = player.advance(milliseconds);
    if (player.run.tick !== before) {
      this.#tell(records);
      this.#watch((performance.now() - began) / (player.run.tick - before));
    }
    if (player.run.tick !== before || this.#stale) this.#paint();
    this.#wake();
  };

  #tell(records: readonly TraceRecord[]): void {
    const { run } = this.player;
    for (const part of this.#options.parts) part.tell?.(records, run);
    this.#options.onTicks(records, run.program.objects[run.state.over]);
  }

  #paint(): void {
    const ctx = this.#canvas?.getContext('2d');
    const placed = this.#placed;
    if (!ctx || !placed) return;
    const at = placed();
    const { player } = this;
    player.look(at);
    player.fit(at.seen);
    const { program, state } = player.run;
    const faces = this.#builder.build(program, state.values, at, program.guides, at.seen);
    let overlay: Overlay | undefined;
    for (const part of this.#options.parts)
      overlay = part.overlay?.(player.run, this.#builder, at) ?? overlay;
    const { pictures } = this.#options;
    const ground = program.piece.frame.background;
    paintFrame(ctx, {
      size: at.size,
      screen: at,
      seen: at.seen,
      faces,
      ground,
      cut: true,
      pictures,
      masks: at.masks,
      overlay,
    });
    for (const x of this.#standing) x.show(player.run, this.#builder, at);
    this.#stale = false;
  }
}
