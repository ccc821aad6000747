/** Reactions, actions, timers and everything delayed. */
import { clamp, drawUnit, SAME_DATE, snapDate } from '../base/index.ts';
import { readValue, toNumber } from '../logic/index.ts';
import {
  type Action,
  CHANNELS,
  fitsProperty,
  fitsSignal,
  propertyInfo,
  type Signal,
  type SignalValue,
  type Value,
  writeValue,
} from '../model/index.ts';
import type { ActionList, ReactionProgram } from './compile.ts';
import type { Run } from './run.ts';
import type { Due } from './state.ts';
import { type Cause, NO_CAUSE } from './trace.ts';

export class Actions {
  private readonly run: Run;
  constructor(run: Run) {
    this.run = run;
  }

  private delay(d: Omit<Due, 'seq' | 't'>, seconds: number): void {
    const s = this.run.state;
    s.dues.push({ ...d, seq: s.nextSeq++, t: snapDate(this.run.t + seconds) });
  }

  /** Lays the nth firing of a reaction's timer on its grid, give or take its jitter. */
  addTimer(reaction: number, n: number): void {
    const { program, state } = this.run;
    const { reaction: r, jitterStream } = program.reactions[reaction] as ReactionProgram;
    const { after, every, jitter } = r.on;
    if (n > 0 && every === undefined) return;
    const first = after ?? every ?? 0;
    // Firings that lie a whole round behind (the timer was changed in a run, or passed over) are not made up for.
    const behind =
      every === undefined ? 0 : Math.ceil((this.run.t - (jitter ?? 0) - first - SAME_DATE) / every);
    const at = Math.max(n, behind);
    let t = first + at * (every ?? 0);
    if (jitter && jitterStream >= 0) t += (2 * drawUnit(state.random, jitterStream * 4) - 1) * jitter;
    const due = { what: 'timer' as const, index: reaction, action: 0, n: at, cause: null };
    state.dues.push({ ...due, seq: state.nextSeq++, t: Math.max(this.run.t, snapDate(t)) });
  }

  /** Lays the timer of a reaction that an edit has made in a running piece, unless its only firing has passed. */
  addTimerLate(reaction: number): void {
    const { after, every } = (this.run.program.reactions[reaction] as ReactionProgram).reaction.on;
    if (every !== undefined || (after ?? 0) > this.run.t) this.addTimer(reaction, 0);
  }

  due(d: Due): void {
    const cause: Cause = { rec: d.cause, depth: 0 };
    if (d.what === 'action') this.act(d.index, d.action, cause);
    else if (d.what === 'reaction') this.reactNow(d.index, cause);
    else {
      const { reaction, object } = this.run.program.reactions[d.index] as ReactionProgram;
      const rec = this.run.raise({ kind: 'event', event: 'timer', reaction: reaction.id }, NO_CAUSE);
      this.run.queueEvent(rec, NO_CAUSE, object);
      this.addTimer(d.index, d.n + 1);
    }
  }

  /** A reaction whose guards hold: now, or after its delay. */
  react(index: number, cause: Cause): void {
    const { reaction } = this.run.program.reactions[index] as ReactionProgram;
    const s = this.run.state;
    s.cooldownUntil[index] = this.run.t + reaction.cooldown;
    if (reaction.limit !== 'always') s.spent[index] = 1;
    if (reaction.after > 0)
      this.delay({ what: 'reaction', index, action: 0, n: 0, cause: cause.rec }, reaction.after);
    else this.reactNow(index, cause);
  }

  private reactNow(index: number, cause: Cause): void {
    const { reaction, actions } = this.run.program.reactions[index] as ReactionProgram;
    const rec = this.run.raise({ kind: 'reaction', reaction: reaction.id, object: reaction.object }, cause);
    this.actAll(actions, { rec: rec.id, depth: cause.depth });
  }

  /** All actions of a list; `inState`: of an onEntry or onExit, where a `go` counts one deeper, like an event. */
  actAll(list: number, cause: Cause, inState = false): void {
    const { actions } = this.run.program.lists[list] as ActionList;
    actions.forEach((a, i) => {
      if (a.after) this.delay({ what: 'action', index: list, action: i, n: 0, cause: cause.rec }, a.after);
      else this.act(list, i, inState && a.do === 'go' ? { rec: cause.rec, depth: cause.depth + 1 } : cause);
    });
  }

  private act(list: number, number: number, cause: Cause): void {
    const { program, state } = this.run;
    const { actions, stream } = program.lists[list] as ActionList;
    const a = actions[number] as Action;
    const read = (v: Value) =>
      readValue(v, {
        signal: (id) => this.run.signalValue(id),
        random: state.random,
        randomAt: stream * 4,
      });
    switch (a.do) {
      case 'set':
        return this.setSignal(a.signal, read(a.to), cause);
      case 'toggle':
        return this.setSignal(a.signal, !this.run.signalValue(a.signal), cause);
      case 'add':
        return this.setSignal(
          a.signal,
          toNumber(this.run.signalValue(a.signal)) + toNumber(read(a.by)),
          cause,
        );
      case 'pulse':
        return this.pulse(a.signal, cause);
      case 'send':
        return this.send(a.message, cause);
      case 'put':
        return this.put(a.object, a.property, read(a.to), cause);
      case 'show':
      case 'hide':
        return this.put(a.object, 'shown', a.do === 'show', cause);
      case 'look':
        return this.put(a.object, 'look', a.to, cause);
      case 'release':
        return this.release(a.object, a.property, cause);
      case 'sound':
        this.run.raise({ kind: 'sound', sound: a.sound }, cause);
        return;
      case 'go': {
        const lane = program.laneIndex.get(a.lane);
        const target = lane === undefined ? undefined : program.lanes[lane]?.stateIndex.get(a.state);
        if (lane !== undefined && target !== undefined) this.run.motion.go(lane, target, a.crossfade, cause);
      }
    }
  }

  /** Sets a signal at once; its change is queued. A value that does not fit is brought into range or ignored. */
  setSignal(id: string, value: SignalValue, cause: Cause): void {
    const { program, state } = this.run;
    const i = program.signalIndex.get(id);
    const def = i === undefined ? undefined : program.signals[i];
    if (i === undefined || !def) return;
    if (def.type === 'pulse') {
      if (value === true) this.pulse(id, cause);
      return;
    }
    const to = intoRange(def, value);
    if (to === null || to === state.signals[i]) return;
    state.signals[i] = to;
    const rec = this.run.raise({ kind: 'signal', event: 'signal.change', signal: id, to }, cause);
    state.signalRec[i] = rec.id;
    if (def.type === 'number') this.run.motion.speedChanged(id);
    this.run.queueEvent(rec, cause, -1);
  }

  pulse(id: string, cause: Cause): void {
    const { program, state } = this.run;
    const i = program.signalIndex.get(id);
    if (i === undefined) return;
    state.pulseSerial[i] = (state.pulseSerial[i] as number) + 1;
    const rec = this.run.raise({ kind: 'signal', event: 'pulse', signal: id }, cause);
    state.signalRec[i] = rec.id;
    this.run.queueEvent(rec, cause, -1);
  }

  send(id: string, cause: Cause): void {
    this.run.queueEvent(this.run.raise({ kind: 'message', event: 'message', message: id }, cause), cause, -1);
  }

  put(object: string, property: string, value: SignalValue, cause: Cause): void {
    const { program, state } = this.run;
    const info = propertyInfo(property);
    const o = program.objectIndex.get(object);
    if (!info || o === undefined || !fitsProperty(info, value)) return;
    const at = o * CHANNELS + info.channel;
    writeValue(info, info.kind === 'amount' ? clamp(value as number, 0, 1) : value, state.putV, at);
    state.putSet.fill(1, at, at + info.width);
    this.run.raise({ kind: 'action', action: 'put', object, property, to: value }, cause);
  }

  private release(object: string, property: string, cause: Cause): void {
    const { program, state } = this.run;
    const info = propertyInfo(property);
    const o = program.objectIndex.get(object);
    if (!info || o === undefined) return;
    const at = o * CHANNELS + info.channel;
    state.putSet.fill(0, at, at + info.width);
    this.run.raise({ kind: 'action', action: 'release', object, property }, cause);
  }
}

function intoRange(def: Signal, value: SignalValue): SignalValue | null {
  if (def.type !== 'number') return fitsSignal(def, value) ? value : null;
  let n = toNumber(value);
  if (!Number.isFinite(n)) return null;
  if (def.whole) n = Math.round(n);
  return clamp(n, def.min ?? Number.NEGATIVE_INFINITY, def.max ?? Number.POSITIVE_INFINITY);
}
