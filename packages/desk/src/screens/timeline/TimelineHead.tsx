import type { Clip } from '@apple-tick/core/model';
import { ChevronLeft, ChevronRight, Pause, Play } from 'lucide-react';
import { useHead, useSession, useUi } from '../../session/hooks.ts';
import { renameClip, setLength, togglePlay } from '../../session/motion/clips.ts';
import { addCue } from '../../session/motion/keys.ts';
import { Pick, SecondsField, TextField } from '../../ui/fields.tsx';

/** What concerns the whole clip: name, how it repeats, length, where one looks, playing it. */
export function TimelineHead(props: {
  clip: Clip;
  search: string;
  onSearch: ((text: string) => void) | null;
}) {
  const { clip } = props;
  const s = useSession();
  const { fps } = useHead();
  const playing = useUi((u) => u.playing);
  const pace = useUi((u) => u.pace);
  const step = (by: number) =>
    s.set({ playing: false, playhead: Math.max(0, Math.round(s.state.playhead * fps) + by) / fps });
  return (
    <div className="flex items-center gap-1.5 px-3 h-[34px] border-b border-line flex-none overflow-hidden">
      <TextField
        label="Name of the clip"
        className="font-semibold bg-transparent w-28 min-w-14 flex-shrink"
        value={clip.name}
        onChange={(name) => renameClip(s, clip, name)}
      />
      <span className="flex-none">
        <Pick
          label="Repeats"
          value={clip.loop}
          options={[
            ['once', 'once'],
            ['loop', 'loops'],
            ['there-and-back', 'there and back'],
          ]}
          onChange={(v) =>
            s.edit('Changed how the clip repeats', (e) =>
              e.update('clips', clip.id, (c) => ({ ...c, loop: v as Clip['loop'] })),
            )
          }
        />
      </span>
      <span className="w-[72px] flex flex-none">
        <SecondsField
          label="Length, seconds"
          unit="s"
          value={clip.duration}
          onChange={(d) => (d === 0 || d >= 0.001) && setLength(s, clip, d, 'keep')}
        />
      </span>
      <LengthOffer clip={clip} />
      <button type="button" className="btn flex items-center gap-1.5 flex-none" onClick={() => togglePlay(s)}>
        {playing ? <Pause size={11} aria-hidden="true" /> : <Play size={11} aria-hidden="true" />}
        {playing ? 'Pause' : 'Play'}
      </button>
      <span className="flex-none">
        <Pick
          label="Speed of the preview"
          value={String(pace)}
          options={[
            ['0.25', '¼×'],
            ['0.5', '½×'],
            ['1', '1×'],
          ]}
          onChange={(v) => s.set({ pace: Number(v) })}
        />
      </span>
      <button type="button" className="btn px-1 flex-none" aria-label="A frame back" onClick={() => step(-1)}>
        <ChevronLeft size={14} aria-hidden="true" />
      </button>
      <PlayheadField />
      <button type="button" className="btn px-1 flex-none" aria-label="A frame on" onClick={() => step(1)}>
        <ChevronRight size={14} aria-hidden="true" />
      </button>
      <button type="button" className="btn flex-none" onClick={() => addCue(s, clip, s.state.playhead)}>
        Add a cue
      </button>
      <span className="flex-1" />
      {props.onSearch && (
        <input
          aria-label="Search the rows"
          placeholder="Search the rows"
          className="field w-28 min-w-16 flex-shrink"
          value={props.search}
          onChange={(e) => props.onSearch?.(e.target.value)}
        />
      )}
      <FrameNumber />
    </div>
  );
}

/** After the length was changed, typed or dragged: whether the keys keep their times or stretch with it. */
function LengthOffer({ clip }: { clip: Clip }) {
  const s = useSession();
  const resized = useUi((u) => u.resized);
  if (resized?.before.id !== clip.id || resized.to !== clip.duration || clip.tracks.length === 0) return null;
  const other = resized.how === 'keep' ? 'stretch' : 'keep';
  return (
    <button
      type="button"
      className="btn flex-none whitespace-nowrap text-brass"
      onClick={() => setLength(s, resized.before, resized.to, other)}
    >
      {other === 'stretch' ? 'Stretch the keys' : 'Keep the keys’ times'}
    </button>
  );
}

function PlayheadField() {
  const s = useSession();
  const playhead = useUi((u) => u.playhead);
  return (
    <span className="w-[84px] flex flex-none">
      <SecondsField
        label="Playhead, seconds"
        axis="at"
        step={1 / s.store.head.fps}
        value={playhead}
        onChange={(t) => s.set({ playhead: t })}
      />
    </span>
  );
}

function FrameNumber() {
  const { fps } = useHead();
  const frame = useUi((u) => Math.round(u.playhead * fps));
  return (
    <span
      className="num text-ink-2 whitespace-nowrap flex-none @max-[690px]/deck:hidden"
      title={`${fps} frame numbers a second`}
    >
      frame number {frame}
    </span>
  );
}
