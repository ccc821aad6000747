/** What hands do on the ruler: the playhead, the clip's end, and the span of the chosen keys. */
import { type Clip, type KeyId, moveKeys, stretchKeys } from '@apple-tick/core/model';
import { setLength } from '../../session/motion/clips.ts';
import { applyKeys, howMany } from '../../session/motion/keys.ts';
import type { Session } from '../../session/session.ts';
import { dragGesture, track as followPointer } from '../../session/view/drag-gesture.ts';
import { clipTimes, keyTimes, type TimeScale, timeAt } from './scale.ts';

interface Reach {
  readonly clip: Clip;
  readonly keys: readonly KeyId[];
  readonly scale: TimeScale;
  readonly localX: (clientX: number) => number;
  readonly timeUnder: (clientX: number, targets: readonly number[]) => number;
  readonly boxFrom: (e: { clientX: number; clientY: number; shiftKey: boolean }) => void;
}

/** A drag along time, to the times that it snaps to and the playhead. */
export function dragTime(
  s: Session,
  timeUnder: Reach['timeUnder'],
  name: string,
  targets: readonly number[],
  move: (t: number, e: PointerEvent) => void,
): void {
  dragGesture(s, name, { move: (e) => move(timeUnder(e.clientX, [...targets, s.state.playhead]), e) });
}

export function rulerHands(s: Session, { clip, keys, scale, localX, timeUnder, boxFrom }: Reach) {
  const { fps } = s.store.head;
  const setPlayhead = (t: number) => s.set({ playhead: t, playing: false });
  const drag = (name: string, targets: readonly number[], move: (t: number, e: PointerEvent) => void) =>
    dragTime(s, timeUnder, name, targets, move);
  return {
    onPlayhead: (e: React.PointerEvent) => {
      const targets = clipTimes(clip);
      const was = s.state.playhead;
      const pressed = { clientX: e.clientX, clientY: e.clientY, shiftKey: e.shiftKey };
      const below = e.currentTarget.getBoundingClientRect().bottom + 12;
      let boxes = false;
      setPlayhead(timeUnder(e.clientX, targets));
      followPointer((ev) => {
        if (boxes) return;
        if (ev.clientY < below) return setPlayhead(timeUnder(ev.clientX, targets));
        // It goes down into the rows: a box round pips is meant, not a time.
        boxes = true;
        setPlayhead(was);
        boxFrom(pressed);
      });
    },
    onEnd: () => {
      drag('Changed the length', keyTimes(clip), (t, ev) => {
        setLength(s, clip, Math.max(1 / fps, t), ev.altKey ? 'stretch' : 'keep');
      });
    },
    onStretch: (side: 'left' | 'right') => {
      const [t0, t1] = spanOf(keys);
      const [about, end] = side === 'left' ? [t1, t0] : [t0, t1];
      drag(`Stretched ${howMany(keys.length)}`, clipTimes({ ...clip, tracks: [] }), (t) => {
        const factor = (t - about) / (end - about);
        if (factor > 1e-3) applyKeys(s, 'Stretched keys', stretchKeys(clip, keys, about, factor));
      });
    },
    onMoveSpan: (e: React.PointerEvent) => {
      const [t0] = spanOf(keys);
      const grip = timeAt(scale, localX(e.clientX)) - t0;
      dragGesture(s, `Moved ${howMany(keys.length)}`, {
        move: (ev) => {
          const at = timeAt(scale, localX(ev.clientX)) - grip;
          const to = Math.max(0, Math.round(at * fps) / fps);
          applyKeys(s, 'Moved keys', moveKeys(clip, keys, to - t0));
        },
      });
    },
  };
}

function spanOf(keys: readonly KeyId[]): [number, number] {
  const times = keys.map((k) => k.t);
  return [Math.min(...times), Math.max(...times)];
}
