/** State of a run carried over to a program compiled after an edit: everything is found again by its id. */
import { EASE_ROW, MAX_SPEED, newPlay, PLAY_ROW } from '../anim/index.ts';
import { clamp, tickTime } from '../base/index.ts';
import { CHANNELS, fitsSignal, onePlay, type Piece } from '../model/index.ts';
import { heaviest, passRate } from './blending.ts';
import { compileAgain } from './compile-again.ts';
import { directsOf, gainOfPlay } from './layers.ts';
import type { LaneProgram, Program, StateProgram } from './program.ts';
import {
  CAPTION_ROW,
  CUE_ACT_ROW,
  CUE_ROW,
  DRAG_ROW,
  FOLLOW_ROW,
  MOTOR_ROW,
  NODE_ROW,
  SHEET_ROW,
  SHOW_ROW,
  SPAWN_ROW,
  TWEEN_ROW,
} from './rows.ts';
import type { Run } from './run.ts';
import { settleBase } from './spawned.ts';
import {
  CAPTIONS,
  type Carried,
  CLICKED,
  DIRECTS,
  DRAGS,
  DROPPED,
  DUE_ACTION,
  DUE_CAPTION,
  DUE_CUE,
  DUE_CUE_ACT,
  DUE_LONG,
  DUE_LOOK,
  DUE_REACTION,
  DUE_SHEET,
  DUE_SPAWN,
  DUE_TIMER,
  DUES,
  type Due,
  FRAME_HEIGHT,
  FRAME_WIDTH,
  HELD,
  MOST_ASKED,
  newState,
  POINTER_OVER,
  POINTER_PRESSED,
  PUTS,
  type RunState,
  SEED,
  SHEETS,
  SHOWS,
  TICK,
  WALK_HELD,
  WALK_KEYS,
  WALKED,
} from './state.ts';

/** An edit while running: compiled anew, state carried over. Takes effect from the next tick on. */
export function editRun(run: Run, piece: Piece): void {
  const program = compileAgain(piece, run.program);
  run.goOn(program, new Carrying(run.program, run.state, program).result());
}

class Carrying {
  private readonly old: Program;
  private readonly s: RunState;
  private readonly next: Program;
  private readonly state: RunState;
  private readonly now: number;

  constructor(old: Program, s: RunState, next: Program) {
    this.old = old;
    this.s = s;
    this.next = next;
    this.state = newState(next, s.one[SEED] as number);
    this.now = tickTime(s.one[TICK] as number);
  }

  result(): Carried {
    this.single();
    this.spawned();
    this.random();
    this.puts();
    this.signals();
    this.holding();
    this.meeting();
    this.touching();
    this.showing();
    this.sheets();
    const timers = this.reactions();
    this.dues();
    return { state: this.state, fresh: this.lanes(), timers };
  }

  private single(): void {
    const { s, state, old, next } = this;
    const { one } = state;
    one.set(s.one);
    // Other keys, or another figure: nothing is held any more.
    if (JSON.stringify(old.piece.visitor) !== JSON.stringify(next.piece.visitor))
      for (const at of [WALK_KEYS, WALK_HELD, WALKED]) one[at] = 0;
    one[PUTS] = 0;
    one[DUES] = 0;
    one[DIRECTS] = 0;
    one[SHOWS] = 0;
    one[CAPTIONS] = 0;
    // The frame follows its piece where it was shown as it is.
    if (s.one[FRAME_WIDTH] === old.piece.frame.width && s.one[FRAME_HEIGHT] === old.piece.frame.height) {
      one[FRAME_WIDTH] = next.piece.frame.width;
      one[FRAME_HEIGHT] = next.piece.frame.height;
    }
    for (const at of [POINTER_OVER, POINTER_PRESSED, CLICKED]) one[at] = this.objectOf(s.one[at] as number);
  }

  /** What is spawned, and which signals others give. */
  private spawned(): void {
    const { s, state, old, next } = this;
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

  /** What follows, and what is dragged. */
  private holding(): void {
    const { s, state, old, next } = this;
    old.follows.forEach(({ follow }, k) => {
      const row = next.followIndex.get(follow.id);
      if (row === undefined) return;
      // Words have their numbers in the run: what is other than before is worked out anew.
      const words = next.follows[row]?.words;
      const from = s.follows.subarray(k * FOLLOW_ROW, (k + 1) * FOLLOW_ROW);
      if (words === old.follows[k]?.words && !words) state.follows.set(from, row * FOLLOW_ROW);
    });
    const dragOf = (k: number) => next.dragOf.get(this.objectOf(old.drags[k]?.object ?? -1)) ?? -1;
    old.drags.forEach((_, k) => {
      const row = dragOf(k);
      if (row >= 0) state.drags.set(s.drags.subarray(k * DRAG_ROW, (k + 1) * DRAG_ROW), row * DRAG_ROW);
    });
    for (const at of [HELD, DROPPED]) state.one[at] = dragOf(s.one[at] as number);
    if (state.one[HELD] === -1) state.one[DRAGS] = 0;
  }

  /** Who is in which zone, and where all was at the last noticing. */
  private meeting(): void {
    const { s, state, old, next } = this;
    const { meeting: before } = old;
    const wasNode = (object: number) =>
      before.nodeOf.get(old.objectIndex.get(next.objects[object]?.id ?? '') ?? -1) ?? -1;
    next.meeting.nodes.forEach((object, k) => {
      const j = wasNode(object);
      if (j >= 0) state.nodes.set(s.nodes.subarray(j * NODE_ROW, (j + 1) * NODE_ROW), k * NODE_ROW);
    });
    next.meeting.colliders.forEach((c, n) => {
      const from = before.colliders[before.index.get(c.collider.id) ?? -1];
      if (!from) return;
      const was = before.index.get(c.collider.id) as number;
      state.zoneRec[n] = s.zoneRec[was] as number;
      state.zoneOn[n] = s.zoneOn[was] as number;
      next.meeting.nodes.forEach((object, k) => {
        const [rank, at] = [c.rank[k] as number, from.rank[wasNode(object)] ?? -1];
        if (rank >= 0 && at >= 0)
          state.noticed[c.firstPair + rank] = s.noticed[from.firstPair + at] as number;
      });
    });
  }

  /** What touches which blocker. */
  private touching(): void {
    const { s, state, old, next } = this;
    const before = new Map(old.blockers.map((b, k) => [b.blocker.id, k]));
    next.blockers.forEach(({ blocker }, n) => {
      const k = before.get(blocker.id);
      if (k === undefined) return;
      for (const which of [0, 1]) {
        const was = s.touched[2 * k + which] as number;
        if (was > 0) state.touched[2 * n + which] = this.objectOf(was - 1) + 1;
        state.crushed[2 * n + which] = s.crushed[2 * k + which] as number;
      }
    });
  }

  /** Cue sheets that run: their cues by their ids. What came new meanwhile comes with the next round. */
  private sheets(): void {
    const { s, state, old, next } = this;
    next.sheets.forEach(({ sheet }, i) => {
      const from = old.sheetIndex.get(sheet.id);
      if (from !== undefined)
        state.sheets.set(s.sheets.subarray(from * SHEET_ROW, (from + 1) * SHEET_ROW), i * SHEET_ROW);
    });
    next.cues.forEach((c, k) => {
      const from = this.cueFrom(c.cue.id);
      const before = old.cues[from];
      if (!before) return;
      state.cues.set(s.cues.subarray(from * CUE_ROW, (from + 1) * CUE_ROW), k * CUE_ROW);
      const acts = s.cueActs.subarray(before.firstAct * CUE_ACT_ROW);
      const same = Math.min(before.acts.length, c.acts.length) * CUE_ACT_ROW;
      state.cueActs.set(acts.subarray(0, same), c.firstAct * CUE_ACT_ROW);
    });
    state.one[SHEETS] = next.sheets.filter((_, i) => state.sheets[i * SHEET_ROW] === 1).length;
  }
  private cueFrom(id: string): number {
    return this.old.cues.findIndex((c) => c.cue.id === id);
  }

  /** What a due of a cue sheet is of now; undefined when that is gone. */
  private sheetDue(d: Due): number | undefined {
    const { old, next } = this;
    if (d.what === DUE_LOOK) return 0;
    if (d.what === DUE_SHEET) return next.sheetIndex.get(old.sheets[d.index]?.sheet.id ?? '');
    const id = old.cues[d.index]?.cue.id;
    const k = next.cues.findIndex((c) => c.cue.id === id);
    return k < 0 || (d.what === DUE_CUE_ACT && d.action >= (next.cues[k]?.acts.length ?? 0)) ? undefined : k;
  }

  /** Effects that are under way, and captions. */
  private showing(): void {
    const { s, state, old, next } = this;
    const effectOf = (from: number) => {
      const effect = old.effects[from]?.effect;
      const to = next.effectIndex.get(effect?.id ?? '') ?? -1;
      return next.effects[to]?.effect.kind === effect?.kind ? to : -1;
    };
    s.bursts.forEach((n, i) => {
      if (effectOf(i) >= 0) state.bursts[effectOf(i)] = n;
    });
    for (let k = 0; k < (s.one[SHOWS] as number); k++) {
      const row = s.shows.slice(k * SHOW_ROW, (k + 1) * SHOW_ROW);
      const [effect, object] = [row[0] as number, row[1] as number];
      if (effectOf(effect) < 0 || (object >= 0 && this.objectOf(object) < 0)) continue;
      state.addShow([effectOf(effect), object < 0 ? -1 : this.objectOf(object), ...row.subarray(2)]);
    }
    for (let k = 0; k < (s.one[CAPTIONS] as number); k++) {
      const row = s.captions.slice(k * CAPTION_ROW, (k + 1) * CAPTION_ROW);
      const [object, text, seconds, answers] = row as unknown as [number, number, number, number];
      if (this.objectOf(object) < 0) continue;
      const ids = (old.answers[answers] ?? []).map((a) => a.id).join();
      const words = state.texts.number(s.texts.list[text] as string);
      const asked = next.answersIndex.get(ids) ?? -1;
      state.addCaption([this.objectOf(object), words, seconds, asked, ...row.subarray(4)]);
    }
  }

  /** The new number of an object; −1 when it is gone. */
  private objectOf(from: number): number {
    return this.next.objectIndex.get(this.old.objects[from]?.id ?? '') ?? -1;
  }

  private random(): void {
    const { s, state, old, next } = this;
    next.streams.forEach((consumer, i) => {
      const j = old.streamIndex.get(consumer);
      if (j !== undefined) state.random.set(s.random.subarray(j * 4, j * 4 + 4), i * 4);
    });
  }

  private puts(): void {
    const { s, state, old, next } = this;
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
    const { s, state, old, next } = this;
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

  private reactions(): number[] {
    const { s, state, old, next } = this;
    const timers: number[] = [];
    next.reactions.forEach((r, i) => {
      const from = old.reactionIndex.get(r.reaction.id) ?? -1;
      if (r.reaction.on.event === 'timer' && old.reactions[from]?.reaction.on.event !== 'timer')
        timers.push(i);
      if (from < 0) return;
      state.cooldownUntil[i] = s.cooldownUntil[from] as number;
      state.spent[i] = s.spent[from] as number;
    });
    return timers;
  }

  private dues(): void {
    const { s, state, old, next } = this;
    for (let k = 0; k < s.dueCount; k++) {
      const d = s.dueAt(k);
      const index =
        d.what === DUE_LONG || d.what === DUE_CAPTION
          ? d.index
          : d.what === DUE_SPAWN
            ? next.spawns.index.get(old.spawns.places[d.index]?.id ?? '')
            : d.what >= DUE_CUE
              ? this.sheetDue(d)
              : d.what === DUE_ACTION
                ? next.listIndex.get(old.lists.keys[d.index] ?? '')
                : next.reactionIndex.get(old.reactions[d.index]?.reaction.id ?? '');
      if (index === undefined) continue;
      if (d.what === DUE_ACTION && !hasAction(next, index, d.action)) continue;
      if (d.what === DUE_TIMER && next.reactions[index]?.reaction.on.event !== 'timer') continue;
      // The thing of an event has another number now.
      const isDelayed = d.what === DUE_ACTION || d.what === DUE_REACTION;
      state.addDue({ ...d, index, ...(isDelayed ? { n: 1 + this.objectOf(d.n - 1) } : {}) });
    }
  }

  private lanes(): number[] {
    const { s, old, next } = this;
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
    const { s, state, old, next } = this;
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
      if (j >= 0) this.state.pulseUsed[to.firstPulse + k] = this.s.pulseUsed[from.firstPulse + j] as number;
    });
  }

  /** Lane `i` goes on from what lane `j` of the old program was doing. */
  private lane(j: number, i: number, from: LaneProgram, to: LaneProgram, target: number): void {
    const { s, state, old, next } = this;
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
      Object.assign(play, newPlay(0, this.now, is.blend.common ? passRate(next, state, is.blend) : 1));
      state.heavy[i] = heaviest(next, state, is.blend);
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
    const { s, state, old, next } = this;
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
    const { s, state, old, next } = this;
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

function hasAction({ lists }: Program, list: number, action: number): boolean {
  return (lists.first[list] as number) + action < (lists.first[list + 1] as number);
}

function speedText(s: StateProgram | undefined): string {
  return JSON.stringify(s ? onePlay(s.state.play)?.speed : undefined) ?? '';
}
/** What a blend is made of, all in all. */
function blendText(s: StateProgram | undefined): string {
  return JSON.stringify(s?.state.play ?? null);
}
