/** Inputs as they act, and the pointer: what it is over, presses and clicks. */
import { hitTop, visiblePoint } from '../world/index.ts';
import { findObject, type Input } from './input.ts';
import type { Run } from './run.ts';
import { type Cause, NO_CAUSE, type TraceFields } from './trace.ts';

type PointerEvent = 'pointer.press' | 'pointer.release' | 'pointer.click' | 'pointer.enter' | 'pointer.leave';

export class PointerTracker {
  private readonly run: Run;
  constructor(run: Run) {
    this.run = run;
  }

  input(input: Input): void {
    if ('pointer' in input) return this.move(input.pointer);
    if ('click' in input) return this.byName('click', input.click);
    if ('press' in input) return this.byName('press', input.press);
    if ('release' in input) return this.byName('release', input.release);
    if ('enter' in input) return this.byName('enter', input.enter);
    if ('leave' in input) return this.byName('leave', input.leave);
    const { actions } = this.run;
    if ('key' in input) {
      const key = input.key.length === 1 ? input.key.toLowerCase() : input.key;
      const cause = this.record({ input: 'key', key });
      const event = input.down ? 'key.down' : 'key.up';
      this.run.queueEvent(this.run.raise({ kind: 'event', event, key }, cause), cause, -1);
    } else if ('set' in input) {
      for (const [name, value] of Object.entries(input.set)) {
        const signal = this.idOf('signals', name);
        actions.setSignal(signal, value, this.record({ input: 'set', signal, to: value }));
      }
    } else if ('pulse' in input) {
      const signal = this.idOf('signals', input.pulse);
      actions.pulse(signal, this.record({ input: 'pulse', signal }));
    } else if ('send' in input) {
      const message = this.idOf('messages', input.send);
      actions.send(message, this.record({ input: 'send', message }));
    } else {
      const { object, property, value } = input.put;
      const id = findObject(this.run.program.piece, object)?.id ?? object;
      actions.put(id, property, value, this.record({ input: 'put', object: id, property, to: value }));
    }
  }

  private record(fields: Omit<TraceFields, 'kind'>): Cause {
    return { rec: this.run.raise({ kind: 'input', ...fields }, NO_CAUSE).id, depth: 0 };
  }

  private idOf(table: 'signals' | 'messages', name: string): string {
    const records = this.run.program.piece[table];
    if (Object.hasOwn(records, name)) return name;
    return Object.values(records).find((r) => r.name === name)?.id ?? name;
  }

  private event(event: PointerEvent, object: number, cause: Cause): void {
    const id = this.run.program.objects[object]?.id;
    if (id === undefined) return;
    this.run.queueEvent(this.run.raise({ kind: 'event', event, object: id }, cause), cause, object);
  }

  private byName(what: 'click' | 'press' | 'release' | 'enter' | 'leave', name: string): void {
    const run = this.run;
    const id = findObject(run.program.piece, name)?.id;
    const object = id === undefined ? -1 : (run.program.objectIndex.get(id) as number);
    const named = id === undefined ? {} : { object: id };
    if (what === 'leave') {
      const cause = this.record({ input: what, ...named });
      run.state.pointer.present = false;
      this.hover(cause);
      return;
    }
    const point = object < 0 ? null : this.aim(object);
    if (!point) {
      this.record({ input: what, ...named, missed: true });
      return;
    }
    const cause = this.record({ input: what, ...named });
    const hit = hitTop(run.scene.faces(), point[0], point[1]);
    const pointer = run.state.pointer;
    if (what === 'enter') {
      pointer.present = true;
      pointer.x = point[0];
      pointer.y = point[1];
      this.hover(cause);
      return;
    }
    if (what !== 'release') this.press(hit, cause);
    if (what !== 'press') this.release(hit, cause);
  }

  /** A visible point of an object: of its own faces, else of what lies below it; null when none can be seen. */
  private aim(object: number): [number, number] | null {
    const { parent } = this.run.program.geometry;
    const { width, height } = this.run.program.piece.frame;
    const faces = this.run.scene.faces();
    const below = (o: number) => {
      for (let at = o; at >= 0; at = parent[at] as number) if (at === object) return true;
      return false;
    };
    return (
      visiblePoint(faces, (o) => o === object, width / 2, height / 2) ??
      visiblePoint(faces, below, width / 2, height / 2)
    );
  }

  private press(hit: number, cause: Cause): void {
    this.run.state.pointer.pressed = hit;
    this.event('pointer.press', hit, cause);
  }

  private release(hit: number, cause: Cause): void {
    const pointer = this.run.state.pointer;
    const pressed = pointer.pressed;
    pointer.pressed = -1;
    this.event('pointer.release', hit, cause);
    this.event('pointer.click', this.commonParent(pressed, hit), cause);
  }

  /** The innermost object that both are or lie below; −1 when there is none. */
  private commonParent(a: number, b: number): number {
    const { parent } = this.run.program.geometry;
    for (let x = a; x >= 0; x = parent[x] as number)
      for (let y = b; y >= 0; y = parent[y] as number) if (x === y) return x;
    return -1;
  }

  private move(to: { x: number; y: number; down: boolean } | null): void {
    const pointer = this.run.state.pointer;
    const cause = this.record({ input: 'pointer' });
    pointer.present = to !== null;
    if (to) {
      const { width, height } = this.run.program.piece.frame;
      pointer.x = to.x - width / 2;
      pointer.y = height / 2 - to.y;
    }
    this.hover(cause);
    const down = to?.down ?? false;
    if (down === pointer.down) return;
    pointer.down = down;
    const hit = to ? hitTop(this.run.scene.faces(), pointer.x, pointer.y) : -1;
    if (down) this.press(hit, cause);
    else this.release(hit, cause);
  }

  /** Things may have moved under a pointer that stands still. */
  notice(): void {
    if (this.run.state.pointer.present) this.hover(NO_CAUSE);
  }

  private hover(cause: Cause): void {
    const pointer = this.run.state.pointer;
    const { parent } = this.run.program.geometry;
    const over = pointer.present ? hitTop(this.run.scene.faces(), pointer.x, pointer.y) : -1;
    if (over === pointer.over) return;
    const shared = this.commonParent(pointer.over, over);
    // Left from inside out, entered from outside in.
    for (let o = pointer.over; o !== shared && o >= 0; o = parent[o] as number)
      this.event('pointer.leave', o, cause);
    const entered: number[] = [];
    for (let o = over; o !== shared && o >= 0; o = parent[o] as number) entered.unshift(o);
    for (const o of entered) this.event('pointer.enter', o, cause);
    pointer.over = over;
  }
}
