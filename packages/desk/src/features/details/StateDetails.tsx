import type { Lane, Machine, State } from '@apple-tick/core/model';
import { runCommand } from '../../commands/registry.ts';
import { useSession, useTable } from '../../session/hooks.ts';
import { editLane, openPanel } from '../../session/machines.ts';
import { Heading, NumberField, type Option, Pick, Row } from '../../ui/fields.tsx';
import { ActionList } from '../../ui/sentences/ActionList.tsx';

export function StateDetails({ machine, lane, state }: { machine: Machine; lane: Lane; state: State }) {
  const s = useSession();
  const clips = useTable('clips').filter((c) => c.root === machine.object);
  const numbers = useTable('signals').filter((x) => x.type === 'number');
  const change = (name: string, part: Partial<State>) =>
    editLane(s, name, machine.id, lane.id, (l) => ({
      ...l,
      states: l.states.map((x) => (x.id === state.id ? { ...x, ...part } : x)),
    }));
  const play = state.play;
  const from = typeof play === 'object' ? play.from : 'start';
  const deeds = (title: string, field: 'onEntry' | 'onExit') => (
    <details open={(state[field]?.length ?? 0) > 0}>
      <summary className="cursor-pointer font-serif font-semibold text-[13px]">{title}</summary>
      <div className="pt-1.5">
        <ActionList
          actions={state[field] ?? []}
          owner={machine.object}
          mayBeEmpty
          onChange={(actions) => change(`Changed ${state.name}`, { [field]: actions })}
        />
      </div>
    </details>
  );
  return (
    <div className="p-3.5 space-y-2">
      <Heading
        label="Name of the state"
        name={state.name}
        kind="state"
        onRename={(name) =>
          !lane.states.some((x) => x.name === name) && change(`Renamed ${state.name}`, { name })
        }
      />
      <Row title="Does">
        <Pick
          label="What the state does"
          value={typeof play === 'object' ? play.clip : play}
          options={[
            ['rest', 'rests'],
            ['hold', 'holds'],
            ...clips.map((c): Option => [c.id, `plays ${c.name}`]),
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
            {typeof play.speed === 'number' && (
              <NumberField
                label="Speed"
                step={0.1}
                value={play.speed}
                onChange={(speed) =>
                  change(`Changed the speed of ${state.name}`, { play: { ...play, speed } })
                }
              />
            )}
            {(numbers.length > 0 || typeof play.speed === 'object') && (
              <Pick
                label="Where the speed comes from"
                value={typeof play.speed === 'object' ? play.speed.signal : ''}
                options={[
                  ['', 'times'],
                  { group: 'Signals', options: numbers.map((x): Option => [x.id, x.name]) },
                ]}
                onChange={(v) =>
                  change(`Changed the speed of ${state.name}`, {
                    play: { ...play, speed: v === '' ? 1 : { signal: v } },
                  })
                }
              />
            )}
          </Row>
          <Row title="Begins">
            <Pick
              label="Begins"
              value={typeof from === 'string' ? from : 'seconds' in from ? 'seconds' : 'percent'}
              options={[
                ['here', 'from here'],
                ['start', 'at the start'],
                ['seconds', 'at seconds'],
                ['percent', 'at per cent'],
              ]}
              onChange={(v) =>
                change(`Changed ${state.name}`, {
                  play: {
                    ...play,
                    from:
                      v === 'seconds' ? { seconds: 0 } : v === 'percent' ? { percent: 50 } : (v as 'here'),
                  },
                })
              }
            />
            {typeof from === 'object' && (
              <NumberField
                label="Begins at"
                step={'seconds' in from ? 0.1 : 5}
                value={'seconds' in from ? from.seconds : from.percent}
                onChange={(n) =>
                  change(`Changed ${state.name}`, {
                    play: {
                      ...play,
                      from: 'seconds' in from ? { seconds: Math.max(0, n) } : { percent: Math.max(0, n) },
                    },
                  })
                }
              />
            )}
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
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={state.final ?? false}
          onChange={(e) => change(`Changed ${state.name}`, { final: e.target.checked })}
        />
        finishes its lane
      </label>
      {deeds('On entry', 'onEntry')}
      {deeds('On exit', 'onExit')}
      <button
        type="button"
        className="btn"
        disabled={lane.states.length < 2}
        onClick={() => runCommand(s, 'delete')}
      >
        Delete the state
      </button>
    </div>
  );
}
