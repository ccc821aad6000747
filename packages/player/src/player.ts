/** A run in a page: turns time into ticks and pointer moves into inputs. The core knows neither. */
import {
  type Angle,
  type Input,
  type InputKind,
  type Program,
  Run,
  type TraceRecord,
} from '@apple-tick/core/run';

/** Ticks done at most in one frame of the screen; after a long pause the run goes on, it does not catch up. */
const MAX_TICKS = 12;
/** Milliseconds after which a frame begins no further tick. */
const MAX_WORK = 40;

interface Size {
  readonly width: number;
  readonly height: number;
}

export class Player {
  readonly run: Run;
  speed = 1;
  paused = false;
  #due = 0;
  #last: number | null = null;
  #pending: Input[] = [];

  /** `view`: the angle from which people look, when it is not the piece's own. Tick 0 is done at once. */
  constructor(program: Program, view: Angle = program.piece.view) {
    const { piece } = program;
    this.run = new Run(program);
    this.#view = piece.view;
    this.#frame = piece.frame;
    this.look(view);
    this.#tickNow();
  }

  /** The angle from which people look, from the next tick on. */
  look(view: Angle): void {
    const { azimuth, elevation } = view;
    if (azimuth === this.#view.azimuth && elevation === this.#view.elevation) return;
    this.#view = { azimuth, elevation };
    this.input({ view: this.#view });
  }
  #view: Angle;

  /** What people see of the piece where it is shown, px, from the next tick on. */
  fit(frame: Size): void {
    const { width, height } = frame;
    if (width === this.#frame.width && height === this.#frame.height) return;
    this.#frame = { width, height };
    this.input({ frame: this.#frame });
  }
  #frame: Size;

  /** An input for the next tick. */
  input(input: InputKind): void {
    const at = (this.run.tick + 1) / 60;
    // Only the newest of several moves within one tick counts; presses and releases all do.
    const previous = this.#pending.at(-1);
    const move = (i: object | undefined) =>
      i && 'pointer' in i ? (i.pointer as { down: boolean } | null) : undefined;
    const a = move(previous);
    const b = move(input);
    if (a && b && a.down === b.down && this.run.state.pointerDown === b.down) this.#pending.pop();
    this.#pending.push({ ...input, at } as Input);
  }

  /** Does the ticks that are due at `milliseconds` of the page's clock; returns what happened in them. */
  advance(milliseconds: number): TraceRecord[] {
    const passed = this.#last === null ? 0 : (milliseconds - this.#last) / 1000;
    this.#last = milliseconds;
    if (this.paused) return [];
    this.#due += Math.max(0, passed) * this.speed * 60;
    let n = Math.floor(this.#due);
    this.#due -= n;
    if (n > MAX_TICKS) n = MAX_TICKS;
    const out: TraceRecord[] = [];
    const start = performance.now();
    for (let i = 0; i < n; i++) {
      for (const r of this.tick()) out.push(r);
      // A piece whose ticks take long runs slowly; it does not hold up the page.
      if (performance.now() - start > MAX_WORK) break;
    }
    return out;
  }

  /** One tick, also while paused. */
  tick(): TraceRecord[] {
    this.#tickNow();
    return this.run.takeTrace();
  }

  #tickNow(): void {
    const inputs = this.#pending;
    this.#pending = [];
    this.run.step(inputs);
  }
}
