import type { Lane, Machine, State } from '@apple-tick/core/model';
import { useSession, useTable } from '../../session/hooks.ts';
import { editLane, openPanel } from '../../session/machines.ts';
import { NumberField, Pick, TextField } from '../../ui/fields.tsx';
import { Row } from './ObjectDetails.tsx';

export function StateDetails({ machine, lane, state }: { machine: Machine; lane: Lane; state: State }) {
  const s = useSession();
  const clips = useTable('clips').filter((c) => c.root === machine.object);
  const change = (name: string, part: Partial<State>) =>
    editLane(s, name, machine.id, lane.id, (l) => ({
      ...l,
      states: l.states.map((x) => (x.id === state.id ? { ...x, ...part } : x)),
    }));
  const play = state.play;
  return (
    <div className="p-3.5 space-y-3">
      <div className="flex items-baseline gap-2">
        <TextField
          label="Name of the state"
          className="font-serif text-[16px] font-semibold bg-transparent flex-1 min-w-0"
          value={state.name}
          onChange={(name) =>
            name.trim() !== '' &&
            !lane.states.some((x) => x.name === name.trim()) &&
            change(`Renamed ${state.name}`, { name: name.trim() })
          }
        />
        <span className="text-ink-2">state</span>
      </div>
      <Row title="Does">
        <Pick
          label="What the state does"
          value={typeof play === 'object' ? play.clip : play}
          options={[
            ['rest', 'rests'],
            ['hold', 'holds'],
            ...clips.map((c) => [c.id, `plays ${c.name}`] as const),
          ]}
          onChange={(v) =>
            change(`Changed ${state.name}`, {
              play: v === 'rest' || v === 'hold' ? v : { clip: v, speed: 1, from: 'here' },
            })
          }
        />
      </Row>
      {typeof play === 'object' && (
        <>
          <Row title="Speed">
            <NumberField
              label="Speed"
              step={0.1}
              value={typeof play.speed === 'number' ? play.speed : 1}
              onChange={(speed) => change(`Changed the speed of ${state.name}`, { play: { ...play, speed } })}
            />
          </Row>
          <Row title="Begins">
            <Pick
              label="Begins"
              value={typeof play.from === 'string' ? play.from : 'start'}
              options={[
                ['here', 'from here'],
                ['start', 'at the start'],
              ]}
              onChange={(from) =>
                change(`Changed ${state.name}`, { play: { ...play, from: from as 'here' | 'start' } })
              }
            />
          </Row>
          <button type="button" className="btn" onClick={() => openPanel(s, machine.id, lane, state)}>
            Unfold its timeline
          </button>
        </>
      )}
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={lane.initial === state.id}
          onChange={() =>
            editLane(s, `Starts in ${state.name}`, machine.id, lane.id, (l) => ({ ...l, initial: state.id }))
          }
        />
        starts here
      </label>
    </div>
  );
}
