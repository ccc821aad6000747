/** Inputs as they act, and the pointer: what it is over, presses and clicks. */
import { LINEAR } from '../anim/index.ts';
import { SAME_DATE } from '../base/index.ts';
import {
  CAPTION_SECONDS,
  type EventName,
  type PropertyInfo,
  propertyInfo,
  type SceneObject,
} from '../model/index.ts';
import type { Acting } from './acting.ts';
import { aimAt } from './aim.ts';
import type { Context } from './context.ts';
import type { Dragging } from './dragging.ts';
import { findObject, type Input } from './input.ts';
import type { Notices } from './notices.ts';
import type { Noticing } from './noticing.ts';
import type { Scene } from './scene.ts';
import { placeName } from './spawned.ts';
import {
  AZIMUTH,
  CLICKED,
  CLICKED_T,
  ELEVATION,
  FRAME_HEIGHT,
  FRAME_WIDTH,
  POINTER_DOWN,
  POINTER_KNOWN,
  POINTER_OVER,
  POINTER_PRESENT,
  POINTER_PRESSED,
  POINTER_X,
  POINTER_Y,
  PRESSES,
} from './state.ts';
import type { Touching } from './touching.ts';
import { type Cause, NO_CAUSE, type TraceFields } from './trace.ts';
import type { Walking } from './walking.ts';

type PointerEvent = Extract<EventName, `pointer.${string}`>;

/** Seconds within which the second click makes two of them one double click. */
const DOUBLE = 0.4;

export class Pointer {
  readonly #run: Context;
  readonly #acting: Acting;
  readonly #scene: Scene;
  readonly #dragging: Dragging;
  readonly #walking: Walking;
  readonly #noticing: Noticing;
  readonly #touching: Touching;
  readonly #notices: Notices;

  constructor(
    run: Context,
    acting: Acting,
    scene: Scene,
    dragging: Dragging,
    walking: Walking,
    noticing: Noticing,
    touching: Touching,
    notices: Notices,
  ) {
    this.#dragging = dragging;
    this.#walking = walking;
    this.#noticing = noticing;
    this.#touching = touching;
    this.#notices = notices;
    this.#run = run;
    this.#acting = acting;
    this.#scene = scene;
  }

  input(input: Input): void {
    if ('pointer' in input) return this.#move(input.pointer);
    if ('click' in input) return this.#byName('click', input.click);
    if ('press' in input) return this.#byName('press', input.press);
    if ('release' in input) return this.#byName('release', input.release);
    if ('enter' in input) return this.#byName('enter', input.enter);
    if ('leave' in input) return this.#byName('leave', input.leave);
    if ('view' in input) return this.#look(input.view);
    if ('answer' in input) return this.#answer(input.answer);
    if ('visitor' in input) return this.#place(input.visitor);
    if ('move' in input) return this.#carry(input.move);
    if ('say' in input) return this.#say(input.say);
    if ('sound' in input) return this.#sound(input.sound);
    if ('sheet' in input) return this.#sheet(input);
    if ('frame' in input) return this.#fit(input.frame);
    const acting = this.#acting;
    const { piece } = this.#run.program;
    if ('key' in input) {
      const key = input.key.length === 1 ? input.key.toLowerCase() : input.key;
      this.#walking.key(key, input.down);
      const cause = this.#record({ input: 'key', key });
      const event = input.down ? 'key.down' : 'key.up';
      this.#run.queueEvent(this.#run.raise({ kind: 'event', event, key }, cause), cause);
    } else if ('set' in input) {
      for (const [name, value] of Object.entries(input.set)) {
        const signal = idOf(piece.signals, name);
        acting.setSignal(this.#signal(signal), value, this.#record({ input: 'set', signal, to: value }));
      }
    } else if ('pulse' in input) {
      const signal = idOf(piece.signals, input.pulse);
      const cause = this.#record({ input: 'pulse', signal });
      if (this.#signal(signal) >= 0) acting.pulse(this.#signal(signal), cause);
    } else if ('send' in input) {
      const message = idOf(piece.messages, input.send);
      acting.send(message, this.#record({ input: 'send', message }));
    } else {
      const { object, property, value } = input.put;
      const id = this.#find(object)?.id ?? object;
      const cause = this.#record({ input: 'put', object: id, property, to: value });
      const info = propertyInfo(property);
      if (info) acting.put(this.#run.program.objectIndex.get(id) ?? -1, info, value, cause);
    }
  }

  /** The visitor is put somewhere. */
  #place(to: { x: number; y: number; z: number }): void {
    const { visitor } = this.#run.program;
    const cause = this.#record({ input: 'visitor', ...(visitor < 0 ? { missed: true } : {}) });
    for (const axis of ['x', 'y', 'z'] as const)
      this.#acting.put(visitor, propertyInfo(`position.${axis}`) as PropertyInfo, to[axis], cause);
  }

  /** Something is moved by hand. */
  #carry({
    object,
    to,
    over,
  }: {
    object: string;
    to: readonly [number, number, number];
    over?: number | undefined;
  }): void {
    const id = this.#find(object)?.id ?? object;
    const at = this.#run.program.objectIndex.get(id) ?? -1;
    const cause = this.#record({ input: 'move', object: id, ...(at < 0 ? { missed: true } : {}) });
    const goals = (['x', 'y', 'z'] as const).map((axis, k) => ({
      property: propertyInfo(`position.${axis}`) as PropertyInfo,
      mode: 'to' as const,
      value: () => to[k] as number,
    }));
    if (at >= 0) this.#acting.tween(at, goals, { seconds: over ?? 0, curve: LINEAR, fromNow: true }, cause);
  }

  #say({ object, text }: { object: string; text: string }): void {
    const id = this.#find(object)?.id ?? object;
    const at = this.#run.program.objectIndex.get(id) ?? -1;
    const missed = at < 0 ? { missed: true } : {};
    const cause = this.#record({ input: 'say', object: id, text, ...missed });
    const how = { seconds: CAPTION_SECONDS, answers: -1, again: 'restart' } as const;
    if (at >= 0) this.#acting.caption(at, text, how, cause);
  }

  #sound(text: string): void {
    const { sounds } = this.#run.program.piece;
    const sound = idOf(sounds, text);
    const missed = Object.hasOwn(sounds, sound) ? {} : { missed: true };
    const cause = this.#record({ input: 'sound', sound, ...missed });
    if (!('missed' in missed)) this.#acting.sound(sound, 1, -1, cause);
  }

  #sheet({ sheet, skip }: { sheet: string; skip?: number | undefined }): void {
    const { program } = this.#run;
    const id = idOf(program.piece.cueSheets, sheet);
    const cause = this.#record({ input: 'sheet', sheet: id });
    const i = program.sheetIndex.get(id);
    if (i !== undefined) this.#acting.sheets.ask(i, cause, skip ?? 0);
  }

  #answer({ object, answer }: { object: string; answer: string }): void {
    const { program } = this.#run;
    const id = this.#find(object)?.id ?? object;
    const at = program.objectIndex.get(id) ?? -1;
    const given = this.#acting.showing.answerOf(at, answer);
    const missed = given === null ? { missed: true } : {};
    const cause = this.#record({ input: 'answer', object: id, answer: given ?? answer, ...missed });
    if (given !== null) this.#acting.showing.answer(at, given, cause);
  }

  /** An object by its id or name; of what was spawned by that of the one that is there. */
  #find(text: string): SceneObject | null {
    const { program, state } = this.#run;
    return findObject(program.piece, placeName(program, state, text));
  }

  #signal(id: string): number {
    return this.#run.program.signalIndex.get(id) ?? -1;
  }

  /** The angle from which people look, which decides what a point hits. */
  #look(view: { azimuth: number; elevation: number }): void {
    const { one } = this.#run.state;
    this.#record({ input: 'view', ...view });
    one[AZIMUTH] = view.azimuth;
    one[ELEVATION] = view.elevation;
    this.#scene.changed();
  }

  /** What people see of the piece where it is shown, px: objects on top stand at its edges. */
  #fit(frame: { width: number; height: number }): void {
    const { one } = this.#run.state;
    this.#record({ input: 'frame', ...frame });
    one[FRAME_WIDTH] = frame.width;
    one[FRAME_HEIGHT] = frame.height;
    this.#scene.changed();
  }

  #record(fields: Omit<TraceFields, 'kind'>): Cause {
    return { rec: this.#run.raise({ kind: 'input', ...fields }, NO_CAUSE).id, depth: 0 };
  }

  /** Raises it where there is something; returns its record. */
  #event(event: PointerEvent, object: number, cause: Cause): number | null {
    const id = this.#run.program.objects[object]?.id;
    if (id === undefined) return null;
    const rec = this.#run.raise({ kind: 'event', event, object: id }, cause);
    this.#run.queueEvent(rec, cause, object);
    return rec.id;
  }

  #byName(what: 'click' | 'press' | 'release' | 'enter' | 'leave', name: string): void {
    const run = this.#run;
    const { one } = run.state;
    const id = this.#find(name)?.id;
    const object = id === undefined ? -1 : (run.program.objectIndex.get(id) as number);
    const named = id === undefined ? {} : { object: id };
    if (what === 'leave') {
      const cause = this.#record({ input: what, ...named });
      one[POINTER_PRESENT] = 0;
      this.#hover(cause);
      return;
    }
    const point = object < 0 ? null : aimAt(run, this.#scene, object);
    if (!point) {
      this.#record({ input: what, ...named, missed: true });
      return;
    }
    const cause = this.#record({ input: what, ...named });
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
    run.agenda.markThose(run.program.asking.pointer);
    const rec = this.#event('pointer.press', hit, cause);
    if (rec !== null) this.#acting.waitForLong(one[PRESSES], { rec, depth: 0 });
  }

  #release(hit: number, cause: Cause): void {
    const { one } = this.#run.state;
    this.#walking.release();
    const pressed = one[POINTER_PRESSED] as number;
    one[POINTER_PRESSED] = -1;
    this.#run.agenda.markThose(this.#run.program.asking.pointer);
    const rec = this.#event('pointer.release', hit, cause);
    if (!this.#dragging.release(rec ?? cause.rec)) this.#click(this.#commonParent(pressed, hit), cause);
  }

  #click(object: number, cause: Cause): void {
    const { state, t } = this.#run;
    const { one } = state;
    this.#event('pointer.click', object, cause);
    const since = t - (one[CLICKED_T] as number);
    const isSecond = object >= 0 && one[CLICKED] === object && since <= DOUBLE + SAME_DATE;
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

  #move(to: { x: number; y: number; down: boolean } | null): void {
    const { one } = this.#run.state;
    const cause = this.#record({ input: 'pointer' });
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
      if (down) this.#dragging.moved(cause);
      return;
    }
    one[POINTER_DOWN] = down ? 1 : 0;
    const hit = to ? this.#under() : -1;
    if (!down) return this.#release(hit, cause);
    this.#press(hit, cause);
    this.#dragging.press(hit);
    this.#walking.press(hit);
  }

  /** Things may have moved: under a pointer that stands still, into zones and out of them. */
  notice(): void {
    if (this.#run.state.one[POINTER_PRESENT] === 1) this.#hover(NO_CAUSE);
    this.#noticing.notice();
    this.#touching.notice();
    this.#notices.tell(NO_CAUSE);
    this.#dragging.notice();
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
    this.#run.agenda.markThose(this.#run.program.asking.pointer);
  }
}

function idOf(records: Readonly<Record<string, { id: string; name: string }>>, name: string): string {
  if (Object.hasOwn(records, name)) return name;
  return Object.values(records).find((r) => r.name === name)?.id ?? name;
}
