import { type Sound, uniqueName } from '@apple-tick/core/model';
import { SYNTHS } from '@apple-tick/player';
import { Play } from 'lucide-react';
import { runCommand } from '../../commands/registry.ts';
import { useSession } from '../../session/hooks.ts';
import { Heading, type Option, Pick, Row } from '../../ui/fields.tsx';
import { Uses } from '../../ui/Uses.tsx';
import { listen } from './edit.ts';

/** A sound: its name, how long it is, and what it sounds like. */
export function SoundDetails({ sound }: { sound: Sound }) {
  const s = useSession();
  const asset = sound.asset === undefined ? undefined : s.store.get('assets', sound.asset);
  const file = asset?.kind === 'sound' ? asset : null;
  return (
    <div className="p-3.5 space-y-2">
      <Heading
        label="Name of the sound"
        name={sound.name}
        kind="sound"
        onRename={(n) => {
          const taken = new Set(s.store.all('sounds').flatMap((x) => (x.id === sound.id ? [] : x.name)));
          s.edit(`Renamed ${sound.name}`, (e) =>
            e.update('sounds', sound.id, (x) => ({ ...x, name: uniqueName(n, taken) })),
          );
        }}
      />
      {file ? (
        <p className="text-ink-2">
          <span className="num">{file.seconds.toFixed(2)} s</span>, {file.mime.slice(6)}. Reactions, cues and
          states play it: choose “play the sound” among what they do.
        </p>
      ) : (
        <Row title="Made as">
          <Pick
            label="What it is made as"
            value={sound.synth ?? ''}
            options={[...new Set([...SYNTHS, sound.synth ?? ''])].map((x): Option => [x, x])}
            onChange={(synth) =>
              s.edit(`Changed ${sound.name}`, (e) => e.update('sounds', sound.id, (x) => ({ ...x, synth })))
            }
          />
        </Row>
      )}
      <button
        type="button"
        className="btn inline-flex items-center gap-1"
        onClick={() =>
          void listen(s, sound).then((heard) => {
            if (heard) return;
            const why = file ? 'its file is not kept in this browser' : 'it is made in a way unknown here';
            s.set({ notice: `${sound.name} cannot be heard: ${why}.` });
          })
        }
      >
        <Play size={12} aria-hidden="true" /> Listen
      </button>
      <Uses id={sound.id} verb="Played" heard="Named by" />
      <div>
        <button type="button" className="btn" onClick={() => runCommand(s, 'delete')}>
          Delete the sound
        </button>
      </div>
    </div>
  );
}
