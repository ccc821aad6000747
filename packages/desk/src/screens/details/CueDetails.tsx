import type { ActionName, Clip, ClipCue } from '@apple-tick/core/model';
import { runCommand } from '../../commands/registry.ts';
import { ActionList } from '../../sentences/ActionList.tsx';
import { newAction } from '../../session/doings/new-action.ts';
import { useSession } from '../../session/hooks.ts';
import { Heading, Pick, Row, SecondsField } from '../../ui/fields.tsx';

/** What usually stands at a moment of a clip. */
const USUAL: readonly (readonly [ActionName, string])[] = [
  ['sound', 'plays a sound'],
  ['send', 'sends a message'],
  ['pulse', 'pulses a signal'],
  ['set', 'sets a signal'],
  ['show', 'shows a thing'],
  ['hide', 'hides a thing'],
  ['look', 'changes a look'],
  ['burst', 'sets off a burst'],
  ['caption', 'shows a caption'],
];

/** A cue of a clip: when it is met, and what it then does. */
export function CueDetails({ clip, cue }: { clip: Clip; cue: ClipCue }) {
  const s = useSession();
  const change = (name: string, part: Partial<ClipCue>) =>
    s.edit(name, (e) =>
      e.update('clips', clip.id, (c) => ({
        ...c,
        cues: c.cues.map((q) => (q.id === cue.id ? { ...q, ...part } : q)),
      })),
    );
  return (
    <div className="p-3.5 space-y-2">
      <Heading label="" name={`${clip.name} at ${cue.t.toFixed(2)} s`} kind="cue" />
      <Row title="Time s">
        <SecondsField
          label="Time of the cue"
          step={1 / 60}
          value={cue.t}
          onChange={(t) => t >= 0 && t <= clip.duration && change('Moved a cue', { t })}
        />
      </Row>
      <Row title="Met">
        <Pick
          label="When it is met"
          value={cue.when}
          options={[
            ['forwards', 'forwards'],
            ['backwards', 'backwards'],
            ['both', 'both ways'],
          ]}
          onChange={(when) => change('Changed a cue', { when: when as ClipCue['when'] })}
        />
      </Row>
      <h3 className="text-[13px]">Does</h3>
      {cue.actions.length === 0 && (
        <div className="flex flex-wrap gap-1.5" role="group" aria-label="What usually stands there">
          {USUAL.map(([action, words]) => (
            <button
              key={action}
              type="button"
              className="btn"
              onClick={() =>
                s.step(`A cue that ${words}`, () =>
                  change(`A cue that ${words}`, { actions: [newAction(s, action, clip.root)] }),
                )
              }
            >
              {words}
            </button>
          ))}
        </div>
      )}
      <ActionList
        actions={cue.actions}
        owner={clip.root}
        mayBeEmpty
        onChange={(actions) => change('Changed a cue', { actions })}
      />
      <button type="button" className="btn" onClick={() => runCommand(s, 'delete')}>
        Delete the cue
      </button>
    </div>
  );
}
