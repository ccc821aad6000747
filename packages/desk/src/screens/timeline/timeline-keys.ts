/** The timeline's own keys. */
import type { Clip } from '@apple-tick/core/model';
import { localKey } from '../../commands/local-keys.ts';
import { togglePlay } from '../../session/motion/clips.ts';
import { nudgeKeys } from '../../session/motion/keys.ts';
import type { Session } from '../../session/session.ts';
import { keyTimes } from './scale.ts';

export function hearTimelineKey(
  s: Session,
  clip: Clip,
  zoom: { zoomAbout: (t: number, factor: number) => void; showAll: () => void },
  e: React.KeyboardEvent,
): void {
  const inPip = e.target instanceof SVGElement;
  if (e.target !== e.currentTarget && !inPip) return;
  const key = localKey('timeline', e);
  // A pip is taken by the key that plays.
  if (!key || (key === 'play' && inPip)) return;
  e.preventDefault();
  e.stopPropagation();
  const { fps } = s.store.head;
  const { playhead } = s.state;
  const way = e.key === 'ArrowRight' ? 1 : -1;
  if (key === 'play') togglePlay(s);
  else if (key === 'nudge') nudgeKeys(s, way * (e.shiftKey ? 10 : 1));
  else if (key === 'step') s.set({ playhead: Math.max(0, (Math.round(playhead * fps) + way) / fps) });
  else if (key === 'jump') {
    const times = keyTimes(clip);
    const to = way > 0 ? times.find((t) => t > playhead + 1e-6) : times.findLast((t) => t < playhead - 1e-6);
    s.set({ playhead: Math.max(0, to ?? playhead) });
  } else if (key === 'whole') zoom.showAll();
  else zoom.zoomAbout(playhead, key === 'nearer' ? 0.8 : 1.25);
}
