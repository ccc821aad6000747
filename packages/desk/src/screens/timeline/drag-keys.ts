import {
  type Clip,
  changeKeys,
  copyKeysBy,
  type KeyId,
  keysTrack,
  moveKeys,
  valueInfo,
} from '@apple-tick/core/model';
import { applyKeys, howMany } from '../../session/motion/keys.ts';
import type { Session } from '../../session/session.ts';
import { dragGesture } from '../../session/view/drag-gesture.ts';
import { clipTimes } from './scale.ts';

/**
 * Chosen keys follow the pointer along time, or along their value: whichever way the drag sets out. Begun with Alt, copies
 * go along time and the keys stay.
 */
export function dragKeys(
  s: Session,
  clip: string,
  meant: readonly KeyId[],
  held: KeyId,
  e: React.PointerEvent,
  perPx: number,
  timeUnder: (clientX: number, targets: readonly number[]) => number,
): void {
  const was = s.store.get('clips', clip) as Clip;
  const isMeant = new Set(meant.map((k) => `${keysTrack(k)} ${k.t}`));
  const targets = clipTimes({
    ...was,
    tracks: was.tracks.map((t) => ({
      keys: t.keys.filter((k) => !isMeant.has(`${keysTrack(t)} ${k.t}`)),
    })),
  });
  const info = valueInfo(held.property);
  let way: 'time' | 'value' | null = null;
  dragGesture(s, `${e.altKey ? 'Copied' : 'Moved'} ${howMany(meant.length)}`, {
    move: (ev) => {
      const [dx, dy] = [ev.clientX - e.clientX, ev.clientY - e.clientY];
      if (way === null && Math.max(Math.abs(dx), Math.abs(dy)) >= 4)
        way = Math.abs(dy) > Math.abs(dx) && perPx > 0 && !e.altKey ? 'value' : 'time';
      if (way === 'time')
        applyKeys(
          s,
          e.altKey ? 'Copied keys' : 'Moved keys',
          (e.altKey ? copyKeysBy : moveKeys)(
            was,
            meant,
            timeUnder(ev.clientX, [...targets, s.state.playhead]) - held.t,
          ),
        );
      if (way === 'value') {
        const grid = perPx < 0.1 ? 100 : perPx < 1 ? 10 : 1;
        const by = Math.round(-dy * perPx * grid) / grid;
        applyKeys(
          s,
          'Moved keys',
          changeKeys(was, meant, (k, t) =>
            typeof k.value !== 'number' || t.property !== held.property
              ? k
              : {
                  ...k,
                  value:
                    info?.kind === 'amount' ? Math.max(0, Math.min(1, k.value + by)) : round(k.value + by),
                },
          ),
        );
      }
    },
  });
}
const round = (n: number) => Math.round(n * 1000) / 1000;
