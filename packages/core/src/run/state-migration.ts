/** State of a run carried over to a program compiled after an edit: everything is found again by its id. */
import { EASE_ROW, MAX_SPEED, newPlay, PLAY_ROW } from '../anim/index.ts';
import { clamp, tickTime } from '../base/index.ts';
import { CHANNELS, fitsSignal, onePlay, type Piece } from '../model/index.ts';
import { compilePieceAgain } from './compile-again.ts';
import { featuresOf } from './feature.ts';
import { directsOf, gainOfPlay } from './layers.ts';
import type { Migration } from './migration.ts';
import { settleBase } from './presence.ts';
import type { LaneProgram, Program, StateProgram } from './program.ts';
import { MOTOR_ROW, SPAWN_ROW, TWEEN_ROW } from './row-widths.ts';
import type { Run } from './run.ts';
import {
  CLICKED,
  DIRECTS,
  FRAME_HEIGHT,
  FRAME_WIDTH,
  type MigratedState,
  MOST_ASKED,
  newState,
  POINTER_OVER,
  POINTER_PRESSED,
  PUTS,
  type RunState,
  SEED,
  TICK,
} from './state.ts';

/** An edit while running: compiled anew, state carried over. Takes effect from the next tick on. */
export function editRun(run: Run, piece: Piece): void {
  const program = compilePieceAgain(piece, featuresOf(run.program), run.program);
  run.goOn(program, new StateMigration(run.program, run.state, program).result());
}

class StateMigration implements Migration {
  readonly old: Program;
  readonly before: RunState;
  readonly next: Program;
  readonly state: RunState;
  private readonly now: number;

  constructor(old: Program, s: RunState, next: Program) {
    this.old = old;
    this.before = s;
    this.next = next;
    this.state = newState(next, s.one[SEED] as number);
    this.now = tickTime(s.one[TICK] as number);
  }

  result(): MigratedState {
    this.single();
    this.spawned();
    this.random();
    this.puts();
    this.signals();
    for (const f of featuresOf(this.next).list) f.migrate?.(this);
    this.reactions();
    this.scheduled();
    return { state: this.state, fresh: this.lanes() };
  }

  private single(): void {
    const { before: s, state, old, next } = this;
    const { one } = state;
    one.set(s.one);
    one[PUTS] = 0;
    one[DIRECTS] = 0;
    // The frame follows its piece where it was shown as it is.
    if (s.one[FRAME_WIDTH] === old.piece.frame.width && s.one[FRAME_HEIGHT] === old.piece.frame.height) {
      one[FRAME_WIDTH] = next.piece.frame.width;
      one[FRAME_HEIGHT] = next.piece.frame.height;
    }
    for (const at of [POINTER_OVER, POINTER_PRESSED, CLICKED]) one[at] = this.objectOf(s.one[at] as number);
  }

  /** What is spawned, and which signals others give. */
  private spawned(): void {
    const { before: s, state, old, next } = this;
    next.spawns.places.forEach((place, k) => {
      const from = old.spawns.index.get(place.id);
      if (from !== undefined)
        state.spawned.set(s.spawned.subarray(from * SPAWN_ROW, (from + 1) * SPAWN_ROW), k * SPAWN_ROW);
      settleBase(next, state, k);
    });
    state.values.set(state.base);
    next.spawns.templates.forEach(({ id }, i) => {
      const from = old.spawns.templates.findIndex((t) => t.id === id);
      if (from >= 0) state.spawnCounts[i] = s.spawnCounts[from] as number;
    });
  }

  readonly objectOf = (from: number): number =>
    this.next.objectIndex.get(this.old.objects[from]?.id ?? '') ?? -1;
  readonly objectBefore = (to: number): number =>
    this.old.objectIndex.get(this.next.objects[to]?.id ?? '') ?? -1;

  private random(): void {
    const { before: s, state, old, next } = this;
    next.streams.forEach((consumer, i) => {
      const j = old.streamIndex.get(consumer);
      if (j !== undefined) state.random.set(s.random.subarray(j * 4, j * 4 + 4), i * 4);
    });
  }

  private puts(): void {
    const { before: s, state, old, next } = this;
    for (let k = 0; k < (s.one[PUTS] as number); k++) {
      const from = s.putList[k] as number;
      const id = old.objects[Math.floor(from / CHANNELS)]?.id ?? '';
      const object = next.objectIndex.get(id);
      if (object !== undefined) state.setPut(object * CHANNELS + (from % CHANNELS), s.putV[from] as number);
    }
    this.rows(old.tweenAts, next.tweenRows, s.tweens, state.tweens, TWEEN_ROW);
    this.rows(old.motorAts, next.motorRows, s.motors, state.motors, MOTOR_ROW);
    // Curves are found again by their names; where one is gone the tween is over.
    const names = new Map([...old.curveAt].map(([name, at]) => [at, name]));
    for (let o = 0; o < state.tweens.length; o += TWEEN_ROW) {
      const curve = state.tweens[o + 5] as number;
      if (state.tweens[o] === 0 || curve < 0) continue;
      const at = next.curveAt.get(names.get(curve) ?? '');
      state.tweens[o + 5] = at ?? 0;
      if (at === undefined) state.tweens[o + 2] = 0;
    }
  }

  /** Rows by value, from those of the old program to those of the new one. */
  private rows(
    ats: readonly number[],
    rows: ReadonlyMap<number, number>,
    from: Float64Array,
    to: Float64Array,
    width: number,
  ): void {
    const { old, next } = this;
    ats.forEach((at, k) => {
      const object = next.objectIndex.get(old.objects[Math.floor(at / CHANNELS)]?.id ?? '');
      const row = object === undefined ? undefined : rows.get(object * CHANNELS + (at % CHANNELS));
      if (row !== undefined) to.set(from.subarray(k * width, (k + 1) * width), row * width);
    });
  }

  private signals(): void {
    const { before: s, state, old, next } = this;
    next.signals.forEach((def, i) => {
      const from = this.signalFrom(i);
      const before = old.signals[from];
      if (!before) return;
      const value = s.signalValue(before, from);
      if (fitsSignal(def, value)) state.writeSignal(i, value);
      state.signalRec[i] = s.signalRec[from] as number;
      state.pulseSerial[i] = s.pulseSerial[from] as number;
      if ((next.remember[i] as number) > 0) {
        state.pulseUp[i] = s.pulseUp[from] as number;
        state.pulseUntil[i] = s.pulseUntil[from] as number;
      }
    });
  }

  /** The old number of a signal that is of the same type still; −1 for none. */
  private signalFrom(i: number): number {
    const def = this.next.signals[i];
    const from = this.old.signalIndex.get(def?.id ?? '') ?? -1;
    return this.old.signals[from]?.type === def?.type ? from : -1;
  }

  private reactions(): void {
    const { before: s, state, old, next } = this;
    next.reactions.forEach(({ id }, i) => {
      const from = old.reactionIndex.get(id);
      if (from === undefined) return;
      state.cooldownUntil[i] = s.cooldownUntil[from] as number;
      state.spent[i] = s.spent[from] as number;
    });
  }

  private scheduled(): void {
    const { before: s, state, next } = this;
    const features = featuresOf(next);
    for (let k = 0; k < s.scheduledCount; k++) {
      const item = s.scheduledAt(k);
      const migrated = features.scheduledKind(item.what)?.migrate(this, item);
      if (migrated) state.addScheduled(migrated);
    }
  }

  private lanes(): number[] {
    const { before: s, old, next } = this;
    const fresh: number[] = [];
    next.lanes.forEach((lane, i) => {
      const from = old.laneIndex.get(lane.lane.id);
      const before = from === undefined ? undefined : old.lanes[from];
      if (lane.direct) {
        if (from !== undefined && before) this.direct(from, i, before, lane);
        return;
      }
      if (from === undefined || !before) {
        fresh.push(i);
        return;
      }
      const active = before.states[s.active[from] as number];
      const target = active ? lane.stateIndex.get(active.state.id) : undefined;
      if (target === undefined) fresh.push(i);
      else this.lane(from, i, before, lane, target);
      this.pulsesUsed(before, lane);
    });
    const { state } = this;
    for (const j of directsOf(s)) {
      const i = next.laneIndex.get(old.lanes[j]?.lane.id ?? '') ?? -1;
      if ((state.active[i] ?? 0) > 0) state.directList[(state.one[DIRECTS] as number)++] = i;
    }
    return fresh;
  }

  /** A direct play goes on; one in a way that no action asks for any more is over. */
  private direct(j: number, i: number, from: LaneProgram, to: LaneProgram): void {
    const { before: s, state, old, next } = this;
    const stateOf = (k: number) => to.stateIndex.get(from.states[k]?.state.id ?? '') ?? 0;
    const target = stateOf(s.active[j] as number);
    if (target === 0) return;
    this.lane(j, i, from, to, target);
    const [k, was] = [i - next.firstDirect, j - old.firstDirect];
    state.begun[k] = s.begun[was] as number;
    for (let n = 0; n < (s.asked[was] as number); n++) {
      const asked = stateOf(s.askings[was * MOST_ASKED + n] as number);
      if (asked > 0) state.askDirect(k, asked);
    }
  }

  private pulsesUsed(from: LaneProgram, to: LaneProgram): void {
    to.pulses.forEach((signal, k) => {
      const j = from.pulses.indexOf(this.signalFrom(signal));
      if (j >= 0)
        this.state.pulseUsed[to.firstPulse + k] = this.before.pulseUsed[from.firstPulse + j] as number;
    });
  }

  /** Lane `i` goes on from what lane `j` of the old program was doing. */
  private lane(j: number, i: number, from: LaneProgram, to: LaneProgram, target: number): void {
    const { before: s, state, old, next } = this;
    for (const row of LANE_ROWS) state[row][i] = s[row][j] as number;
    state.plays.set(s.plays.subarray(j * 2 * PLAY_ROW, (j + 1) * 2 * PLAY_ROW), i * 2 * PLAY_ROW);
    state.fadeEase.set(s.fadeEase.subarray(j * EASE_ROW, (j + 1) * EASE_ROW), i * EASE_ROW);
    state.active[i] = target;
    this.slots(from, to);
    const was = from.states[s.active[j] as number];
    const is = to.states[target] as StateProgram;
    const oldClip = old.clips[was?.clip ?? -1]?.clip;
    const newClip = next.clips[is.clip]?.clip;
    const play = newPlay(0, 0, 0);
    state.readPlay(i * 2, play);
    const anew = oldClip?.id !== newClip?.id || speedText(was) !== speedText(is);
    if (newClip && anew) {
      // Another clip or speed for the state that is active: it begins anew.
      const def = next.signals[is.speedSignal];
      const asked = def ? Number(state.signalValue(def, is.speedSignal)) : is.speed;
      const speed = clamp(asked, -MAX_SPEED, MAX_SPEED);
      Object.assign(play, newPlay(speed < 0 ? newClip.duration : 0, this.now, speed));
    } else if (newClip && newClip.loop === 'once' && play.p0 > newClip.duration) play.p0 = newClip.duration;
    if (is.blend && (!was?.blend || blendText(was) !== blendText(is))) {
      Object.assign(play, newPlay(0, this.now, is.blend.common ? is.blend.passRate(next, state) : 1));
      state.heavy[i] = is.blend.heaviest(next, state);
    }
    if (newClip ? newClip.loop !== oldClip?.loop : is.blend && !is.blend.once) play.ended = false;
    state.writePlay(i * 2, play);
    this.starts(i, to, is, anew ? undefined : was);
    const hereClip = old.clips[s.hereClip[j] as number]?.clip.id;
    state.hereClip[i] = hereClip === undefined ? -1 : (next.clipIndex.get(hereClip) ?? -1);
    const fading = from.states[s.fadeState[j] as number];
    const goesOn = fading ? (to.stateIndex.get(fading.state.id) ?? -1) : -1;
    state.fadeState[i] = goesOn;
    if (goesOn < 0) return;
    const fades = to.states[goesOn];
    const isSame =
      fading?.blend || fades?.blend
        ? blendText(fading) === blendText(fades)
        : old.clips[fading?.clip ?? -1]?.clip.id === next.clips[fades?.clip ?? -1]?.clip.id;
    if (isSame) return;
    state.fadeState[i] = -1;
    state.fadeLength[i] = 0;
  }

  /**
   * What the offset tracks of state `is` of lane i add to: what they did in state `was`, if it goes on; else they go on
   * from what is on the screen.
   */
  private starts(i: number, to: LaneProgram, is: StateProgram, was: StateProgram | undefined): void {
    const { before: s, state, old, next } = this;
    const data = next.clips[is.clip]?.data;
    if (!data?.offsets) return;
    const before = old.clips[was?.clip ?? -1]?.data;
    const clock = new Float64Array([this.now]);
    is.trackValues.forEach((at, k) => {
      if (at < 0 || data.offset[k] !== 1) return;
      const object = old.objectIndex.get(next.objects[Math.floor(at / CHANNELS)]?.id ?? '') ?? -1;
      const from = object * CHANNELS + (at % CHANNELS);
      if (was && object >= 0 && before?.offset[was.trackValues.indexOf(from)] === 1) return;
      const shown = object < 0 ? state.base[at] : s.values[from];
      const slot = to.firstSlot + (is.trackSlots[k] as number);
      state.startV[slot] = (shown as number) - gainOfPlay(next, state, i * 2, is.clip, k, clock);
    });
  }

  /** Slots are found again by object and channel. */
  private slots(from: LaneProgram, to: LaneProgram): void {
    const { before: s, state, old, next } = this;
    to.slots.forEach((value, k) => {
      const object = old.objectIndex.get(next.objects[Math.floor(value / CHANNELS)]?.id ?? '');
      const j = object === undefined ? -1 : from.slots.indexOf(object * CHANNELS + (value % CHANNELS));
      if (j < 0) return;
      for (const row of SLOT_ROWS) state[row][to.firstSlot + k] = s[row][from.firstSlot + j] as number;
    });
  }
}

const LANE_ROWS = [
  'entry',
  'entered',
  'entryRec',
  'entryDepth',
  'entryPhase',
  'finished',
  'here',
  'turnT',
  'fadeStart',
  'fadeLength',
  'mustFinish',
  'heavy',
] as const;
const SLOT_ROWS = ['heldV', 'heldW', 'fromV', 'fromW', 'overV', 'overSet', 'startV', 'fadeStartV'] as const;

function speedText(s: StateProgram | undefined): string {
  return JSON.stringify(s ? onePlay(s.state.play)?.speed : undefined) ?? '';
}
/** What a blend is made of, all in all. */
function blendText(s: StateProgram | undefined): string {
  return JSON.stringify(s?.state.play ?? null);
}
