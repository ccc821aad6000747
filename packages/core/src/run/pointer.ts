/** The pointer: what it is over, presses and clicks. */
import { SAME_INSTANT } from '../base/index.ts';
import type { EventName } from '../model/index.ts';
import type { ActionRunner } from './action-runner.ts';
import { aimAt } from './aim.ts';
import type { Context } from './context.ts';
import type { Scene } from './scene.ts';
import {
  CLICKED,
  CLICKED_T,
  POINTER_DOWN,
  POINTER_KNOWN,
  POINTER_OVER,
  POINTER_PRESENT,
  POINTER_PRESSED,
  POINTER_X,
  POINTER_Y,
  PRESSES,
} from './state.ts';
import { type Cause, NO_CAUSE } from './trace.ts';

type PointerEvent = Extract<EventName, `pointer.${string}`>;

/** Seconds within which the second click makes two of them one double click. */
const DOUBLE = 0.4;

export type PointerAction = 'click' | 'press' | 'release' | 'enter' | 'leave';

export class Pointer {
  readonly #run: Context;
  readonly #runner: ActionRunner;
  readonly #scene: Scene;

  constructor(run: Context, runner: ActionRunner, scene: Scene) {
    this.#run = run;
    this.#runner = runner;
    this.#scene = scene;
  }

  /** Raises it where there is something; returns its record. */
  #event(event: PointerEvent, object: number, cause: Cause): number | null {
    const id = this.#run.program.objects[object]?.id;
    if (id === undefined) return null;
    const rec = this.#run.raise({ kind: 'event', event, object: id }, cause);
    this.#run.queueEvent(rec, cause, object);
    return rec.id;
  }

  /** It does something at an object, by its name or id. */
  byName(what: PointerAction, name: string): void {
    const run = this.#run;
    const { one } = run.state;
    const [id, object] = run.find(name);
    const named = object < 0 ? {} : { object: id };
    if (what === 'leave') {
      const cause = this.#run.recordInput({ input: what, ...named });
      one[POINTER_PRESENT] = 0;
      this.#hover(cause);
      return;
    }
    const point = object < 0 ? null : aimAt(run, this.#scene, object);
    if (!point) {
      this.#run.recordInput({ input: what, ...named, missed: true });
      return;
    }
    const cause = this.#run.recordInput({ input: what, ...named });
    if (what === 'enter') {
      one[POINTER_PRESENT] = 1;
      one[POINTER_KNOWN] = 1;
      one[POINTER_X] = point[0];
      one[POINTER_Y] = point[1];
      this.#hover(cause);
      return;
    }
    const hit = this.#scene.hit(point[0], point[1]);
    if (what !== 'release') this.#press(hit, cause);
    if (what !== 'press') this.#release(hit, cause);
  }

  #press(hit: number, cause: Cause): void {
    const run = this.#run;
    const { one } = run.state;
    one[POINTER_PRESSED] = hit;
    one[PRESSES] = (one[PRESSES] as number) + 1;
    run.schedule.markThose(run.program.asking.pointer);
    const rec = this.#event('pointer.press', hit, cause);
    if (rec !== null) this.#runner.waitForLong(one[PRESSES], { rec, depth: 0 });
  }

  #release(hit: number, cause: Cause): void {
    const { one } = this.#run.state;
    for (const x of this.#run.phases.release) x.release();
    const pressed = one[POINTER_PRESSED] as number;
    one[POINTER_PRESSED] = -1;
    this.#run.schedule.markThose(this.#run.program.asking.pointer);
    const rec = this.#event('pointer.release', hit, cause);
    let isClick = true;
    for (const x of this.#run.phases.released) if (x.released(rec ?? cause.rec)) isClick = false;
    if (isClick) this.#click(this.#commonParent(pressed, hit), cause);
  }

  #click(object: number, cause: Cause): void {
    const { state, t } = this.#run;
    const { one } = state;
    this.#event('pointer.click', object, cause);
    const since = t - (one[CLICKED_T] as number);
    const isSecond = object >= 0 && one[CLICKED] === object && since <= DOUBLE + SAME_INSTANT;
    if (isSecond) this.#event('pointer.double', object, cause);
    one[CLICKED] = isSecond ? -1 : object;
    one[CLICKED_T] = t;
  }

  /** The innermost object that both are or lie below; −1 when there is none. */
  #commonParent(a: number, b: number): number {
    const { parent } = this.#run.program.geometry;
    for (let x = a; x >= 0; x = parent[x] as number)
      for (let y = b; y >= 0; y = parent[y] as number) if (x === y) return x;
    return -1;
  }

  /** It is somewhere, px of the frame from its top left corner; null: nowhere. */
  move(to: { x: number; y: number; down: boolean } | null): void {
    const { one } = this.#run.state;
    const cause = this.#run.recordInput({ input: 'pointer' });
    one[POINTER_PRESENT] = to === null ? 0 : 1;
    if (to) {
      one[POINTER_KNOWN] = 1;
      const { width, height } = this.#run.program.piece.frame;
      one[POINTER_X] = to.x - width / 2;
      one[POINTER_Y] = height / 2 - to.y;
    }
    this.#hover(cause);
    const down = to?.down ?? false;
    if (down === this.#run.state.pointerDown) {
      if (down) for (const x of this.#run.phases.moved) x.moved(cause);
      return;
    }
    one[POINTER_DOWN] = down ? 1 : 0;
    const hit = to ? this.#under() : -1;
    if (!down) return this.#release(hit, cause);
    this.#press(hit, cause);
    for (const x of this.#run.phases.press) x.press(hit);
  }

  /** Things may have moved under a pointer that stands still. */
  detect(): void {
    if (this.#run.state.one[POINTER_PRESENT] === 1) this.#hover(NO_CAUSE);
  }

  #under(): number {
    const { one } = this.#run.state;
    return this.#scene.hit(one[POINTER_X] as number, one[POINTER_Y] as number);
  }

  #hover(cause: Cause): void {
    const { one } = this.#run.state;
    const { parent } = this.#run.program.geometry;
    const before = one[POINTER_OVER] as number;
    const over = one[POINTER_PRESENT] === 1 ? this.#under() : -1;
    if (over === before) return;
    const shared = this.#commonParent(before, over);
    // Left from inside out, entered from outside in.
    for (let o = before; o !== shared && o >= 0; o = parent[o] as number)
      this.#event('pointer.leave', o, cause);
    const entered: number[] = [];
    for (let o = over; o !== shared && o >= 0; o = parent[o] as number) entered.unshift(o);
    for (const o of entered) this.#event('pointer.enter', o, cause);
    one[POINTER_OVER] = over;
    this.#run.schedule.markThose(this.#run.program.asking.pointer);
  }
}
