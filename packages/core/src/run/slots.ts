/** What a lane writes, in slots: one number each, a colour three in a row. */
import { MIX_COLOR, mixOf } from '../anim/index.ts';
import { CHANNELS, type PropertyInfo } from '../model/index.ts';

export const NO_SLOTS = new Int32Array(0);

/** The slots of a lane, as the tracks of its clips ask for them. */
export class SlotTable {
  readonly values: number[] = [];
  readonly modes: number[] = [];
  readonly #known = new Map<number, number>();

  slot(object: number, info: PropertyInfo): number {
    const value = object * CHANNELS + info.channel;
    let at = this.#known.get(value);
    if (at === undefined) {
      at = this.values.length;
      this.#known.set(value, at);
      for (let i = 0; i < info.width; i++) {
        this.values.push(value + i);
        this.modes.push(mixOf(info));
      }
    }
    return at;
  }
}

/** 1 for each slot that a state's tracks write; a colour's track writes three. */
export function keyedSlots(trackSlots: Int32Array, slots: SlotTable): Uint8Array {
  const out = new Uint8Array(slots.values.length);
  for (const slot of trackSlots)
    if (slot >= 0) out.fill(1, slot, slot + (slots.modes[slot] === MIX_COLOR ? 3 : 1));
  return out;
}
