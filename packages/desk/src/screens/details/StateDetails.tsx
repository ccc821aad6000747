import { type Lane, type Machine, onePlay, partsAt, type State } from '@apple-tick/core/model';
import { useState } from 'react';
import { runCommand } from '../../commands/registry.ts';
import { BlendDetails } from '../../features/blends/Details.tsx';
import { blendState } from '../../features/blends/edit.ts';
import { kindOf, placeBy, placeFollow, type SourceKind } from '../../features/follows/edit.ts';
import { FollowParts, SourceKindPick } from '../../features/follows/Parts.tsx';
import { ActionList } from '../../sentences/ActionList.tsx';
import { useSession, useTable } from '../../session/hooks.ts';
import { editLane, openPanel, renameState } from '../../session/motion/machines.ts';
import { nameOf } from '../../session/words/words.ts';
import { Heading, NumberField, type Option, Pick, Row } from '../../ui/fields.tsx';
import { OntoDialog } from '../../ui/OntoDialog.tsx';
import { Section } from '../../ui/Section.tsx';

type OnePlay = NonNullable<ReturnType<typeof onePlay>>;

/** Stand in the list of clips for what plays several. */
const [RANGE, STACK] = ['(range)', '(stack)'];

export function StateDetails({ machine, lane, state }: { machine: Machine; lane: Lane; state: State }) {
  const s = useSession();
  const change = (name: string, part: Partial<State>) =>
    editLane(s, name, machine.id, lane.id, (l) => ({
      ...l,
      states: l.states.map((x) => (x.id === state.id ? { ...x, ...part } : x)),
    }));
  const play = state.play;
  const one = onePlay(play);
  const actionsIn = (title: string, field: 'onEntry' | 'onExit') => (
    <Section title={title} open={(state[field]?.length ?? 0) > 0}>
      <ActionList
        actions={state[field] ?? []}
        owner={machine.object}
        mayBeEmpty
        onChange={(actions) => change(`Changed ${state.name}`, { [field]: actions })}
      />
    </Section>
  );
  return (
    <div className="p-3.5 space-y-2">
      <Heading
        label="Name of the state"
        name={state.name}
        kind="state"
        onRename={(name) => renameState(s, machine.id, lane, state, name)}
      />
      <Does machine={machine} lane={lane} state={state} change={change} />
      {typeof play !== 'object' && (
        <p className="text-ink-2">
          {play === 'rest'
            ? 'It rests: what the states of this lane key goes back to what lies below, mostly the base.'
            : 'It holds: everything stays as it was when the state was entered.'}
        </p>
      )}
      {typeof play === 'object' && !('clip' in play) && (
        <BlendDetails
          machine={machine}
          lane={lane}
          play={play}
          onChange={(to) => change(`Changed ${state.name}`, { play: to })}
        />
      )}
      {one && <PlaysOne machine={machine} lane={lane} state={state} play={one} change={change} />}
      <Starts machine={machine} lane={lane} state={state} />
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={state.final ?? false}
          onChange={(e) => change(`Changed ${state.name}`, { final: e.target.checked })}
        />
        finishes its lane
      </label>
      {actionsIn('On entry', 'onEntry')}
      {actionsIn('On exit', 'onExit')}
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

type Change = (name: string, part: Partial<State>) => void;
interface Of {
  machine: Machine;
  lane: Lane;
  state: State;
  change: Change;
}

/** What the state does: rest, hold, play a clip, or several. */
function Does({ machine, lane, state, change }: Of) {
  const s = useSession();
  const all = useTable('clips');
  const clips = all.filter((c) => c.root === machine.object);
  const others = all.filter((c) => c.root !== machine.object);
  const play = state.play;
  const one = onePlay(play);
  return (
    <Row title="Does">
      <Pick
        label="What the state does"
        value={one ? one.clip : typeof play !== 'object' ? play : 'range' in play ? RANGE : STACK}
        options={[
          ['rest', 'rests'],
          ['hold', 'holds'],
          [RANGE, 'blends by a number'],
          [STACK, 'adds clips up'],
          ...clips.map((c): Option => [c.id, `plays ${c.name}`]),
          {
            group: 'Clips of other objects',
            options: others.map((c): Option => [c.id, `${c.name} of ${nameOf(s.store, c.root)}`]),
          },
        ]}
        onChange={(v) =>
          v === RANGE || v === STACK
            ? blendState(s, machine, lane, state, v === RANGE)
            : change(`Changed ${state.name}`, {
                play: v === 'rest' || v === 'hold' ? v : { clip: v, speed: 1, from: 'here' },
              })
        }
      />
    </Row>
  );
}

/** How a clip is played: how fast, from where, by what; and where it may be played elsewhere. */
function PlaysOne({ machine, lane, state, change, play: one }: Of & { play: OnePlay }) {
  const s = useSession();
  useTable('follows');
  const placed = placeFollow(s.store, lane.id, one.clip) !== undefined;
  const set = (name: string) => (play: OnePlay) => change(name, { play });
  return (
    <>
      {!placed && <Speed play={one} onChange={set(`Changed the speed of ${state.name}`)} />}
      {!placed && <Begins play={one} onChange={set(`Changed ${state.name}`)} />}
      <TurnsBack lane={lane} play={one} onChange={set(`Changed ${state.name}`)} />
      <PlacedBy lane={lane.id} clip={one.clip} object={machine.object} />
      <Elsewhere
        key={one.clip}
        clip={one.clip}
        object={machine.object}
        onMade={(clip) => change(`Changed ${state.name}`, { play: { ...one, clip } })}
      />
      <button type="button" className="btn" onClick={() => openPanel(s, machine.id, lane, state)}>
        Unfold its timeline
      </button>
    </>
  );
}

interface OfPlay {
  play: OnePlay;
  onChange: (play: OnePlay) => void;
}

function Speed({ play: one, onChange }: OfPlay) {
  const numbers = useTable('signals').filter((x) => x.type === 'number');
  return (
    <Row title="Speed">
      {typeof one.speed === 'number' && (
        <NumberField
          label="Speed"
          step={0.1}
          value={one.speed}
          onChange={(speed) => onChange({ ...one, speed })}
        />
      )}
      {(numbers.length > 0 || typeof one.speed === 'object') && (
        <Pick
          label="Where the speed comes from"
          value={typeof one.speed === 'object' ? one.speed.signal : ''}
          options={[['', 'times'], { group: 'Signals', options: numbers.map((x): Option => [x.id, x.name]) }]}
          onChange={(v) => onChange({ ...one, speed: v === '' ? 1 : { signal: v } })}
        />
      )}
    </Row>
  );
}

function Begins({ play: one, onChange }: OfPlay) {
  const from = one.from ?? 'start';
  return (
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
          onChange({
            ...one,
            from: v === 'seconds' ? { seconds: 0 } : v === 'percent' ? { percent: 50 } : (v as 'here'),
          })
        }
      />
      {typeof from === 'object' && (
        <NumberField
          label="Begins at"
          step={'seconds' in from ? 0.1 : 5}
          value={'seconds' in from ? from.seconds : from.percent}
          onChange={(n) =>
            onChange({
              ...one,
              from: 'seconds' in from ? { seconds: Math.max(0, n) } : { percent: Math.max(0, n) },
            })
          }
        />
      )}
    </Row>
  );
}

const isBack = (x: State['play']) => {
  const speed = onePlay(x)?.speed ?? 1;
  return typeof speed === 'number' && speed < 0;
};

/** Another state plays the same clip the other way round from where it is, and this one jumps: that is told. */
function TurnsBack({ lane, play: one, onChange }: OfPlay & { lane: Lane }) {
  const from = one.from ?? 'start';
  const backFrom = lane.states.find((x) => {
    const other = onePlay(x.play);
    return other?.clip === one.clip && other.from === 'here' && isBack(x.play) !== isBack(one);
  });
  if (!backFrom || typeof from !== 'object') return null;
  return (
    <p className="text-ink-2">
      {backFrom.name} turns back from wherever it is; this state then jumps to where it begins.{' '}
      <button type="button" className="btn" onClick={() => onChange({ ...one, from: 'here' })}>
        Begin from there, too
      </button>
    </p>
  );
}

/** Where the lane starts: in one state, or in one that is drawn by odds. */
function Starts({ machine, lane, state }: { machine: Machine; lane: Lane; state: State }) {
  const s = useSession();
  const set = (name: string, initial: Lane['initial']) =>
    editLane(s, name, machine.id, lane.id, (l) => ({ ...l, initial }));
  const draw = typeof lane.initial === 'object' ? lane.initial.draw : null;
  const odds = draw?.find((d) => d.state === state.id)?.odds ?? 0;
  const total = draw?.reduce((n, d) => n + d.odds, 0) ?? 0;
  return (
    <div className="flex items-center gap-2 flex-wrap">
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          checked={draw ? odds > 0 : lane.initial === state.id}
          disabled={draw !== null}
          onChange={() => set(`Starts in ${state.name}`, state.id)}
        />
        starts here
      </label>
      {draw && (
        <span className="flex w-20">
          <NumberField
            label="Odds of starting here"
            axis="odds"
            value={odds}
            onChange={(n) =>
              set(`Changed the odds of ${state.name}`, {
                draw: lane.states.map((x) => ({
                  state: x.id,
                  odds: x.id === state.id ? Math.max(0, n) : (draw.find((d) => d.state === x.id)?.odds ?? 0),
                })),
              })
            }
          />
        </span>
      )}
      {draw && total > 0 && <span className="text-ink-2">{Math.round((odds / total) * 100)} %</span>}
      {(draw || lane.states.length > 1) && (
        <button
          type="button"
          className="btn"
          onClick={() =>
            draw
              ? set(`Starts in ${state.name}`, state.id)
              : set('Starts by odds', { draw: lane.states.map((x) => ({ state: x.id, odds: 1 })) })
          }
        >
          {draw ? 'always here' : 'draw by odds'}
        </button>
      )}
    </div>
  );
}

/** Whether the clip goes by time, or its place follows something. */
function PlacedBy({ lane, clip, object }: { lane: string; clip: string; object: string }) {
  const s = useSession();
  const follow = placeFollow(s.store, lane, clip);
  const kind = follow ? kindOf(follow.source) : 'time';
  return (
    <fieldset aria-label="Goes by" className="sentence flex flex-wrap gap-x-1 gap-y-1 items-center">
      <span className="w-16 flex-none">Goes by</span>
      {follow ? (
        <FollowParts
          follow={follow}
          owner={object}
          more={[['time', 'time']]}
          onMore={() => placeBy(s, lane, clip, object, null)}
          onChange={(f) =>
            s.edit(`Changed what ${nameOf(s.store, clip)} follows`, (e) => e.update('follows', f.id, () => f))
          }
        />
      ) : (
        <SourceKindPick
          value={kind}
          more={[['time', 'time']]}
          onKind={(k) => placeBy(s, lane, clip, object, k as SourceKind)}
        />
      )}
    </fieldset>
  );
}

/** Of a clip that is another object's: what it finds here by name, and the way to one that is made for this one. */
function Elsewhere(props: { clip: string; object: string; onMade: (clip: string) => void }) {
  const s = useSession();
  const [open, setOpen] = useState(false);
  const clip = useTable('clips').find((c) => c.id === props.clip);
  const objects = useTable('objects');
  if (!clip || clip.root === props.object) return null;
  const parts = [...partsAt(objects, clip, props.object)];
  const missing = parts.filter(([, at]) => at === null).map(([part]) => nameOf(s.store, part));
  return (
    <div className="space-y-1.5">
      <p className="text-ink-2">
        It is made for {nameOf(s.store, clip.root)}; here it moves what has the same names.
        {missing.length > 0 && ` Not found here: ${missing.join(', ')}.`}
      </p>
      <button type="button" className="btn" onClick={() => setOpen(true)}>
        Make one for {nameOf(s.store, props.object)}…
      </button>
      {open && (
        <OntoDialog clip={clip} to={props.object} onClose={() => setOpen(false)} onDone={props.onMade} />
      )}
    </div>
  );
}
