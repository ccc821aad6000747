/**
 * The visitor walks: along the screen by the keyboard keys that are held, or toward the pointer that is pressed on it.
 * Where it comes to is put, after all other values of a tick; that is never a jump.
 */
import { atan2Deg, MAT } from '../../base/index.ts';
import { CHANNELS, isSameKey, type Visitor } from '../../model/index.ts';
import type { Context } from '../../run/context.ts';
import { hold } from '../../run/movers.ts';
import type { Phases } from '../../run/phases.ts';
import type { RunBase } from '../../run/run-base.ts';
import type { Scene } from '../../run/scene.ts';
import { AZIMUTH, ELEVATION, POINTER_X, POINTER_Y } from '../../run/state.ts';
import { isShownNow, isWithin } from '../../run/tree.ts';
import { viewMatrix } from '../../world/index.ts';
import { HELD, HELD_X, HELD_Y, KEYS, SPEED, type VisitorRow } from './rows.ts';

const WAYS = ['left', 'right', 'up', 'down'] as const;
/** A way shorter than this is rounding, and none, px. */
const NO_DISTANCE = 1e-9;
/** A way on the screen that is shorter than this part of what made it is none: the plane is seen from its edge. */
const EDGE_ON = 1e-3;

export class Walking implements Phases {
  readonly #run: Context;
  readonly #scene: Scene;
  readonly #view = new Float64Array(MAT);
  readonly #pivot = new Float64Array(3);
  readonly #displacement = new Float64Array(3);
  /** The keys that were held before this tick's inputs. */
  #held = 0;

  constructor({ context, scene }: RunBase) {
    this.#run = context;
    this.#scene = scene;
  }

  get #row(): VisitorRow {
    return this.#run.state.parts.visitor as VisitorRow;
  }

  get #visitor(): Visitor | null {
    const { program } = this.#run;
    return program.visitor < 0 ? null : program.piece.visitor;
  }

  beginTick(): void {
    this.#held = this.#row[KEYS] as number;
  }

  /** A keyboard key goes down or comes up. */
  key(key: string, down: boolean): void {
    const { visitor } = this.#run.program.piece;
    if (!visitor) return;
    const row = this.#row;
    let bit = 0;
    for (const w of WAYS)
      for (const k of visitor.keys[w]) {
        if (isSameKey(k, key)) {
          const held = row[KEYS] as number;
          row[KEYS] = down ? held | (1 << bit) : held & ~(1 << bit);
        }
        bit++;
      }
  }

  /** The pointer is pressed on `hit`. */
  press(hit: number): void {
    const { program, state } = this.#run;
    const { one } = state;
    const row = this.#row;
    if (!this.#visitor?.drag || !isWithin(program, hit, program.visitor)) return;
    this.#scene.pivot(program.visitor, true, this.#pivot);
    row[HELD] = 1;
    row[HELD_X] = (one[POINTER_X] as number) - (this.#pivot[0] as number);
    row[HELD_Y] = (one[POINTER_Y] as number) - (this.#pivot[1] as number);
  }
  release(): void {
    this.#row[HELD] = 0;
  }

  /** Walks for one tick. */
  move(): void {
    const visitor = this.#visitor;
    if (!visitor) return;
    const { program, state, clock } = this.#run;
    const { one, values } = state;
    const row = this.#row;
    row[SPEED] = 0;
    if (!isShownNow(program, state, program.visitor)) return;
    if (row[HELD] !== 1 && this.#held === 0) return;
    const object = program.visitor;
    const speed =
      typeof visitor.speed === 'number'
        ? visitor.speed
        : Math.max(0, Number(this.#run.signalValue(program.signalIndex.get(visitor.speed.signal) ?? -1)));
    const displacement = this.#displacement.fill(0);
    viewMatrix({ azimuth: one[AZIMUTH] as number, elevation: one[ELEVATION] as number }, this.#view);
    if (row[HELD] === 1) this.#toPointer(visitor, object);
    else this.#byKeys(visitor);
    const far = Math.hypot(displacement[0] as number, displacement[1] as number, displacement[2] as number);
    if (far === 0) return;
    const step = row[HELD] === 1 ? Math.min(far, speed / 60) : speed / 60;
    for (let r = 0; r < 3; r++) displacement[r] = ((displacement[r] as number) * step) / far;
    this.#face(visitor, object);
    if (step === 0) return;
    this.#run.services.stop(object, displacement, visitor.plane);
    row[SPEED] =
      60 * Math.hypot(displacement[0] as number, displacement[1] as number, displacement[2] as number);
    const inParent = this.#scene.seenFromParent(object, [...displacement]);
    for (let axis = 0; axis < 3; axis++) {
      const by = inParent[axis] as number;
      if (Math.abs(by) < NO_DISTANCE) continue;
      const at = object * CHANNELS + axis;
      const place = (values[at] as number) + by;
      hold(program, state, at, place, clock);
      values[at] = place;
      state.setAlone(at);
    }
  }

  /** The way that the held keys lead: opposite ones cancel each other. */
  #byKeys(visitor: Visitor): void {
    let bit = 0;
    const goes = WAYS.map((w) => {
      const from = bit;
      bit += visitor.keys[w].length;
      return (this.#held >> from) & ((1 << visitor.keys[w].length) - 1) ? 1 : 0;
    });
    const [left, right, up, down] = goes as [number, number, number, number];
    const [across, ahead] = [right - left, up - down];
    const v = this.#view;
    const displacement = this.#displacement;
    // On the screen, x of the world goes this way, and z that way.
    const [cos, sin] = [v[0] as number, -(v[6] as number)];
    if (visitor.plane === 'xz') {
      displacement[0] = across * cos - ahead * sin;
      displacement[2] = -across * sin - ahead * cos;
      return;
    }
    displacement[0] = across * (cos < 0 ? -1 : 1);
    if (visitor.plane === 'xy') displacement[1] = ahead;
  }

  /** The way to where the pointer is, less where it took hold, in the plane in which it walks. */
  #toPointer({ plane }: Visitor, object: number): void {
    const { one } = this.#run.state;
    const row = this.#row;
    this.#scene.pivot(object, true, this.#pivot);
    const dx = (one[POINTER_X] as number) - (row[HELD_X] as number) - (this.#pivot[0] as number);
    const dy = (one[POINTER_Y] as number) - (row[HELD_Y] as number) - (this.#pivot[1] as number);
    const v = this.#view;
    const displacement = this.#displacement;
    const [ux, uy] = [v[0] as number, v[1] as number];
    const second = plane === 'xz' ? 2 : 1;
    const [wx, wy] = plane === 'x' ? [0, 0] : [v[3 * second] as number, v[3 * second + 1] as number];
    const det = ux * wy - uy * wx;
    if (Math.abs(det) > EDGE_ON) {
      displacement[0] = (dx * wy - dy * wx) / det;
      displacement[second] = (ux * dy - uy * dx) / det;
      return;
    }
    // Seen from the edge: along the one axis of the two that is seen.
    const along = Math.abs(ux) >= Math.abs(wx) ? 0 : second;
    const shown = along === 0 ? ux : wx;
    if (Math.abs(shown) > EDGE_ON) displacement[along] = dx / shown;
  }

  /** Turned to where it goes. */
  #face({ facing, plane }: Visitor, object: number): void {
    if (facing === 'none') return;
    const { program, state, clock } = this.#run;
    const [x, y, z] = this.#displacement as unknown as [number, number, number];
    const put = (channel: number, value: number) => {
      const at = object * CHANNELS + channel;
      if (state.values[at] === value) return;
      hold(program, state, at, value, clock);
      state.values[at] = value;
      state.setAlone(at);
    };
    if (facing === 'mirror') {
      const onScreen = x * (this.#view[0] as number) + z * (this.#view[6] as number);
      const size = Math.abs(state.values[object * CHANNELS + 6] as number);
      if (Math.abs(onScreen) > 1e-9) put(6, onScreen < 0 ? -size : size);
    } else if (plane === 'xy') put(5, atan2Deg(y, x));
    else put(4, atan2Deg(x, z));
  }
}
