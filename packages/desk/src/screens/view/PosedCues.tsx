/** While a clip is open: what its cues say at the playhead, and, as that goes on, the sounds that they play. */
import type { Action, ClipCue, Value } from '@apple-tick/core/model';
import { CAPTION_SECONDS, initialValue, wordsOf } from '@apple-tick/core/model';
import { captionPlace } from '@apple-tick/core/run';
import { useEffect, useRef } from 'react';
import { listen } from '../../features/sounds/edit.ts';
import { useOpen, useSession, useUi } from '../../session/hooks.ts';
import type { Session } from '../../session/session.ts';
import type { Posed } from '../../session/view/drag.ts';
import type { Screen } from '../../session/view/view-math.ts';

/** Seconds of the clip that the playhead goes at most from one frame to the next while it plays or is moved slowly. */
const SLOWLY = 0.25;

/** The actions of cues that are met on the way forwards, each with the time at which it acts. */
function acts(cues: readonly ClipCue[]): { t: number; a: Action }[] {
  return cues.flatMap((q) =>
    q.when === 'backwards' ? [] : q.actions.map((a) => ({ t: q.t + (a.after ?? 0), a })),
  );
}

function wordsAtRest(s: Session, v: Value): string {
  if (typeof v !== 'object') return wordsOf(v);
  const signal = 'signal' in v ? s.store.get('signals', v.signal) : undefined;
  return signal ? wordsOf(initialValue(signal) ?? '') : '…';
}

export function PosedCues(props: {
  posed: Posed;
  screen: Screen;
  seen: { readonly width: number; readonly height: number };
}) {
  const { posed, screen, seen } = props;
  const s = useSession();
  const clip = useOpen()?.clip;
  const playhead = useUi((u) => u.playhead);
  const last = useRef(playhead);
  useEffect(() => {
    const [from, to] = [last.current, playhead];
    last.current = playhead;
    if (!clip || !(to > from) || to - from > SLOWLY) return;
    for (const { t, a } of acts(clip.cues)) {
      // The way is half open, and what lies at the very start is met as one sets out.
      const isMet = (t > from || (from === 0 && t === 0)) && t <= to;
      const sound = isMet && a.do === 'sound' ? s.store.get('sounds', a.sound) : undefined;
      if (sound) void listen(s, sound);
    }
  }, [playhead, clip, s]);
  if (!clip) return null;
  const said = new Map<string, { t: number; text: string }>();
  for (const { t, a } of acts(clip.cues)) {
    if (a.do !== 'caption' || t > playhead) continue;
    const seconds = a.seconds === null ? Number.POSITIVE_INFINITY : (a.seconds ?? CAPTION_SECONDS);
    const text = wordsAtRest(s, a.text);
    // The later one takes the place of the one before.
    if (playhead < t + seconds && t >= (said.get(a.object)?.t ?? 0)) said.set(a.object, { t, text });
  }
  return [...said].map(([object, { text }]) => {
    const i = posed.program.objectIndex.get(object);
    if (i === undefined || text === '') return null;
    const [x, y] = captionPlace(posed.program, posed.values, posed.builder, i, seen);
    return (
      <div
        key={object}
        data-posed-caption
        className="absolute pointer-events-none bg-card text-ink rounded-[10px] px-3 py-2 font-medium text-center max-w-[19em] shadow-sm border border-line"
        style={{
          left: screen.x + (x - seen.width / 2) * screen.scale,
          top: screen.y + (y - seen.height / 2) * screen.scale - 8,
          transform: 'translate(-50%, -100%)',
        }}
      >
        {text}
      </div>
    );
  });
}
