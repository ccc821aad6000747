import { useOpen, useSession, useUiParts } from '../../session/hooks.ts';
import { KIND_WORDS } from '../../session/model-help.ts';
import { takeKeysAlong } from '../../session/things/properties.ts';
import type { UiState } from '../../session/ui-state.ts';
import type { Screen } from '../../session/view/view-math.ts';
import { TOO_MUCH } from '../../session/words/log-words.ts';
import { nameOf } from '../../session/words/words.ts';
import { Refused } from '../../ui/Refused.tsx';

/** Over the view: the frame of what is keyed, and what there is to say. */
export function ViewMessages({ screen, width, height }: { screen: Screen; width: number; height: number }) {
  const s = useSession();
  const ui = useUiParts('running', 'refused', 'missing', 'notice', 'keying', 'offered', 'left', 'slow');
  useOpen();
  return (
    <>
      {s.keying !== null && (
        <div
          className="absolute pointer-events-none border-[5px] border-double border-brass rounded"
          style={{
            left: screen.x - width / 2 - 6,
            top: screen.y - height / 2 - 6,
            width: width + 12,
            height: height + 12,
          }}
        />
      )}
      {!ui.running && ui.offered && (
        <div
          role="status"
          className="absolute bottom-2 left-1/2 -translate-x-1/2 w-max max-w-[90%] bg-card border border-brass rounded-md px-3 py-1 flex gap-2 items-center flex-wrap z-10"
        >
          {ui.offered.words}
          <button type="button" className="btn" onClick={() => takeKeysAlong(s)}>
            Move its keys along
          </button>
          <button type="button" className="underline" onClick={() => s.set({ offered: null })}>
            Leave them
          </button>
        </div>
      )}
      {ui.running && ui.slow !== null && <Slow ms={ui.slow} />}
      {!ui.running && ui.left && <LeftClip left={ui.left} />}
      {ui.refused?.where === 'view' && (
        <div className="absolute top-2 left-1/2 -translate-x-1/2 max-w-[90%] z-10">
          <Refused words={ui.refused.words} />
        </div>
      )}
      {ui.missing.length > 0 && <Missing sentences={ui.missing} />}
      {ui.notice !== '' && (
        <div
          role="status"
          className="absolute top-2 left-1/2 -translate-x-1/2 bg-card border border-line rounded-md px-3 py-1 max-w-[90%]"
        >
          {ui.notice}{' '}
          <button type="button" className="underline" onClick={() => s.set({ notice: '' })}>
            Good
          </button>
        </div>
      )}
    </>
  );
}

/** Below the frame, where it covers nothing: what moves change, or what a live thing invites to. */
export function ViewLine() {
  const s = useSession();
  const ui = useUiParts('running', 'hint', 'keying', 'tool', 'shape');
  useOpen();
  const keyedInto = s.keying?.name;
  return (
    <p
      role={ui.running && ui.hint !== '' ? 'status' : undefined}
      className="flex-none h-[22px] leading-[20px] px-3 text-center font-semibold text-ink-2 truncate"
    >
      {ui.running ? (
        ui.hint
      ) : ui.tool === 'shape' ? (
        `Drag to draw a ${KIND_WORDS[ui.shape]}, or click; Escape ends`
      ) : keyedInto !== undefined ? (
        <span className="text-brass">Moves are keyed into {keyedInto}</span>
      ) : (
        'Moves change the base'
      )}
    </p>
  );
}

/** The run was paused since its ticks take long: why, as far as the log knows, and the ways on. */
function Slow({ ms }: { ms: number }) {
  const s = useSession();
  const storm = s.log.lines.findLast((l) => l.words.startsWith(TOO_MUCH));
  return (
    <div
      role="alert"
      className="absolute top-2 left-1/2 -translate-x-1/2 w-max max-w-[90%] bg-card border border-apple rounded-md px-3 py-1.5 flex gap-2 items-center flex-wrap z-10"
    >
      <span className="max-w-[420px]">
        The run is paused: each tick takes {ms} ms, and there are 60 a second.{' '}
        {storm ? `${storm.words}.` : 'Look at what is spawned, shown or moved most often.'}
      </span>
      <button
        type="button"
        className="btn"
        onClick={() => {
          s.set({ slow: null, paused: false });
          s.runtime?.goOn();
        }}
      >
        Go on
      </button>
      <button type="button" className="btn" onClick={() => s.set({ slow: null })}>
        Look
      </button>
      <button type="button" className="btn" onClick={() => s.stopRun()}>
        Stop
      </button>
    </div>
  );
}

/** A clip was left for something that does not belong to it: the way back, with it. */
function LeftClip({ left }: { left: NonNullable<UiState['left']> }) {
  const s = useSession();
  const clip = s.store.get('clips', left.clip);
  if (!clip || !s.store.has('objects', left.object)) return null;
  const name = nameOf(s.store, left.object);
  return (
    <div
      role="status"
      className="absolute bottom-2 left-1/2 -translate-x-1/2 w-max max-w-[90%] bg-card border border-brass rounded-md px-3 py-1 flex gap-2 items-center flex-wrap z-10"
    >
      {name} is not in {clip.name}, which is folded.
      <button type="button" className="btn" onClick={() => s.comeBack()}>
        Add it to {clip.name}
      </button>
      <button type="button" className="underline" onClick={() => s.set({ left: null })}>
        Good
      </button>
    </div>
  );
}

/** What of the piece is not there: the first of it in a sentence, the rest to be unfolded. */
function Missing({ sentences }: { sentences: readonly string[] }) {
  const s = useSession();
  return (
    <div
      role="status"
      className="absolute bottom-8 left-2 right-2 mx-auto w-fit max-w-[90%] bg-card border border-apple rounded-md px-3 py-1 z-10 flex gap-2 items-start"
    >
      {sentences.length === 1 ? (
        <p>{sentences[0]}</p>
      ) : (
        <details>
          <summary className="cursor-pointer">
            {sentences.length} things of this piece are missing or were broken and left out
          </summary>
          <ul className="max-h-32 overflow-auto text-[11.5px]">
            {sentences.map((x) => (
              <li key={x}>{x}</li>
            ))}
          </ul>
        </details>
      )}
      <button type="button" className="underline" onClick={() => s.set({ missing: [] })}>
        Good
      </button>
    </div>
  );
}
