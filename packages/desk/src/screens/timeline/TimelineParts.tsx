import { type Clip, PROPERTIES } from '@apple-tick/core/model';
import { placeIn, propertyValue } from '@apple-tick/core/run';
import { memo, useEffect } from 'react';
import { useOpen, useSession, useTick, useUi } from '../../session/hooks.ts';
import { selectKeys } from '../../session/motion/keys.ts';
import { partOption, partsOf, propertyOption } from '../../session/things/parts.ts';
import { keyProperty } from '../../session/things/properties.ts';
import { labelOf } from '../../session/words/words.ts';
import { AddMenu } from '../../ui/AddMenu.tsx';
import { RULER } from './Ruler.tsx';
import { HEAD, type TimeScale, xOf } from './scale.ts';

/** Goes on with the playhead while the clip is played, as it runs: once, round and round, or there and back. */
export const Playing = memo(function Playing({ clip }: { clip: Clip }) {
  const s = useSession();
  const playing = useUi((u) => u.playing);
  const pace = useUi((u) => u.pace);
  useEffect(() => {
    if (!playing) return;
    let last = performance.now();
    let frame = 0;
    let back = false;
    const step = (now: number) => {
      const { duration, loop } = clip;
      let t = s.state.playhead + ((back ? -1 : 1) * pace * (now - last)) / 1000;
      last = now;
      let goesOn = duration > 0;
      if (t >= duration) {
        if (loop === 'once') goesOn = false;
        if (loop === 'there-and-back') back = true;
        t = loop === 'loop' && duration > 0 ? t % duration : duration;
      } else if (t < 0) {
        back = false;
        t = 0;
      }
      s.set({ playhead: t, playing: goesOn });
      frame = requestAnimationFrame(step);
    };
    frame = requestAnimationFrame(step);
    return () => cancelAnimationFrame(frame);
  }, [playing, pace, clip, s]);
  return null;
});

/** A shade over what lies after the clip's end. */
export const AfterEnd = memo(function AfterEnd(props: {
  scale: TimeScale;
  duration: number;
  height: number;
}) {
  const { scale, duration, height } = props;
  const end = xOf(scale, duration);
  return (
    <svg
      className="absolute pointer-events-none"
      style={{ left: HEAD, top: 0 }}
      width={scale.width}
      height={height}
      aria-hidden="true"
    >
      {end < scale.width && (
        <rect
          x={Math.max(0, end)}
          y={RULER}
          width={Math.max(0, scale.width - Math.max(0, end))}
          height={height}
          fill="var(--line)"
          opacity="0.32"
        />
      )}
    </svg>
  );
});

/** The playhead, where the clip stands, also in a run. */
export function PlayheadMark(props: { clip: Clip; scale: TimeScale; height: number }) {
  const { clip, scale, height } = props;
  const s = useSession();
  const playhead = useUi((u) => u.playhead);
  const running = useUi((u) => u.running);
  const open = useOpen()?.at?.state.id;
  const tick = useTick();
  const run = running && tick >= 0 ? s.player?.run : undefined;
  let at = playhead;
  run?.program.lanes.forEach((lane, i) => {
    const p = placeIn(run, i);
    const there = lane.states[p.state];
    const isState = open !== undefined && there?.state.id === s.inRun(open);
    const here = isState || there?.clip === run.program.clipIndex.get(s.inRun(clip.id));
    if (here && p.place !== null) at = p.place;
  });
  const x = xOf(scale, at);
  if (x < -8 || x > scale.width + 8) return null;
  return (
    <svg
      className="absolute top-0 pointer-events-none"
      style={{ left: HEAD + x - 8 }}
      width="16"
      height={height}
      aria-hidden="true"
      data-playhead
    >
      <line x1="8" x2="8" y1="12" y2={height} stroke="var(--apple)" strokeWidth="1.6" />
      <path d="M8 0C11 5 14 7 14 10a6 5 0 0 1-12 0C2 7 5 5 8 0z" fill="var(--apple)" />
    </svg>
  );
}

/** Keys one more property of what is chosen, or of the clip's root, where the playhead stands. */
export function MoreProperties({ clip }: { clip: Clip }) {
  const s = useSession();
  const chosen = useUi((u) => u.object);
  const object = s.store.get('objects', chosen ?? clip.root) ?? s.store.get('objects', clip.root);
  if (!object) return null;
  const has = new Set(clip.tracks.filter((t) => t.object === object.id).map((t) => t.property));
  const parts = partsOf(s.store, object.id).filter((p) => !has.has(p.name));
  const kinds = [
    ...parts.map(partOption),
    ...PROPERTIES.filter((p) => !has.has(p.name) && (p.kind !== 'text' || object.kind === 'text')).map((p) =>
      propertyOption(p.name),
    ),
  ];
  return (
    <AddMenu
      className="text-ink-2 hover:text-ink"
      kinds={kinds}
      onPick={(property) => {
        const t = s.state.playhead;
        const { program } = s;
        const value =
          parts.find((p) => p.name === property)?.initial ??
          propertyValue(program.base, program.objectIndex.get(object.id) ?? -1, property);
        if (value === null) return;
        s.edit(`Keyed ${labelOf(s.store, property)} of ${object.name}`, (e) =>
          keyProperty(e, clip.id, object.id, property, value, t),
        );
        selectKeys(s, clip.id, [{ object: object.id, property, t }]);
      }}
    >
      + property of {object.name}
    </AddMenu>
  );
}
