import { isSet, type Lane, type Machine, type NotBefore, type Transition } from '@apple-tick/core/model';
import { useState } from 'react';
import { runCommand } from '../../commands/registry.ts';
import { ConditionList } from '../../sentences/ConditionList.tsx';
import { EventPick } from '../../sentences/EventPick.tsx';
import { useSession } from '../../session/hooks.ts';
import { editLane } from '../../session/motion/machines.ts';
import { drawnWith, nameOf, shareWords, ticketWords } from '../../session/words/words.ts';
import { Heading, NumberField, type Option, Pick, Row } from '../../ui/fields.tsx';
import { WhyNot } from './WhyNot.tsx';

/** Which transitions of the lane are changed along with one. */
const REACHES = {
  one: 'this one',
  out: 'all out of {state}',
  into: 'all into {state}',
  lane: 'all of the lane',
} as const;
type Reach = keyof typeof REACHES;

function reaches(reach: Reach, t: Transition, x: Transition): boolean {
  if (reach === 'lane') return true;
  return reach === 'out' ? x.from === t.from : reach === 'into' ? x.to === t.to : x.id === t.id;
}

export function TransitionDetails({
  machine,
  lane,
  transition: t,
}: {
  machine: Machine;
  lane: Lane;
  transition: Transition;
}) {
  const s = useSession();
  const [reach, setReach] = useState<Reach>('one');
  const meant = (x: Transition) => reaches(reach, t, x);
  const count = lane.transitions.filter(meant).length;
  const change = (part: Partial<Transition>) =>
    editLane(
      s,
      count === 1 ? 'Changed a transition' : `Changed ${count} transitions`,
      machine.id,
      lane.id,
      (l) => ({
        ...l,
        transitions: l.transitions.map((x) => {
          if (!meant(x)) return x;
          const next = { ...x, ...part };
          return { ...next, set: isSet(next) };
        }),
      }),
    );
  /** Where it leads from and to is always its own. */
  const lead = (part: Partial<Transition>) =>
    editLane(s, 'Changed a transition', machine.id, lane.id, (l) => ({
      ...l,
      transitions: l.transitions.map((x) => (x.id === t.id ? { ...x, ...part } : x)),
    }));
  const states = lane.states.map((x): Option => [x.id, x.name]);
  return (
    <div className="p-3.5 space-y-2">
      <Heading
        label=""
        name={`${t.from === '*' ? 'anywhere' : nameOf(s.store, t.from)} → ${nameOf(s.store, t.to)}`}
        kind="transition"
      />
      <p>{ticketWords(s.store, t, machine, lane)}</p>
      <WhyNot transition={t} owner={machine.object} />
      <Row title="From">
        <Pick
          label="From"
          value={t.from}
          options={[['*', 'anywhere'], ...states]}
          onChange={(from) => lead({ from })}
        />
        to
        <Pick label="To" value={t.to} options={states} onChange={(to) => lead({ to })} />
      </Row>
      {lane.transitions.length > 1 && (
        <Row title="Changes">
          <Pick
            label="Which transitions are changed"
            value={reach}
            options={(Object.keys(REACHES) as Reach[])
              .map((r): Option => {
                const n = lane.transitions.filter((x) => reaches(r, t, x)).length;
                const state = nameOf(s.store, r === 'into' ? t.to : t.from);
                return [r, r === 'one' ? REACHES.one : `${REACHES[r].replace('{state}', state)} (${n})`];
              })
              .filter(([r]) => r !== 'out' || t.from !== '*')}
            onChange={(r) => setReach(r as Reach)}
          />
        </Row>
      )}
      <div className="sentence flex flex-wrap gap-x-1 items-center">
        <span>Goes{t.on === null ? '' : ' when'}</span>
        <EventPick
          label="Event of the transition"
          on={t.on}
          owner={machine.object}
          transition
          onChange={(on) => change({ on })}
        />
      </div>
      <ConditionList when={t.when} first={t.on === null ? '' : 'and'} onChange={(when) => change({ when })} />
      <NotBeforeField value={t.notBefore} onChange={(notBefore) => change({ notBefore })} />
      <CrossfadeField value={t.crossfade} onChange={(crossfade) => change({ crossfade })} />
      <OddsField transition={t} machine={machine} lane={lane} onChange={change} />
      <label className="flex items-center gap-2">
        <input type="checkbox" checked={t.enabled} onChange={(e) => change({ enabled: e.target.checked })} />
        switched on
      </label>
      <button type="button" className="btn" onClick={() => runCommand(s, 'delete')}>
        Delete the transition
      </button>
    </div>
  );
}

/** Whether it is drawn; then the weights of all that are drawn together, and how likely these make each. */
function OddsField(props: {
  transition: Transition;
  machine: Machine;
  lane: Lane;
  onChange: (part: Partial<Transition>) => void;
}) {
  const { transition: t, machine, lane, onChange } = props;
  const s = useSession();
  const { store } = s;
  const alike = drawnWith(lane, t);
  const putOdds = (id: string, odds: number) =>
    editLane(s, 'Changed the odds', machine.id, lane.id, (l) => ({
      ...l,
      transitions: l.transitions.map((x) => (x.id === id ? { ...x, odds } : x)),
    }));
  return (
    <>
      <Row title="Odds">
        <Pick
          label="Whether it is drawn"
          value={t.odds === null ? 'no' : 'yes'}
          options={[
            ['no', 'goes when it can'],
            ['yes', 'drawn by odds'],
          ]}
          onChange={(v) => onChange({ odds: v === 'no' ? null : 1 })}
        />
      </Row>
      {t.odds !== null && (
        <ul aria-label="Drawn among" className="space-y-1">
          {alike.map((x) => (
            <li
              key={x.id}
              className={`flex items-center gap-2 pl-2 border-l-[3px] ${x.id === t.id ? 'border-brass' : 'border-transparent'}`}
            >
              <button
                type="button"
                className="flex-1 min-w-0 truncate text-left hover:underline"
                onClick={() => s.select({ kind: 'transition', machine: machine.id, lane: lane.id, id: x.id })}
              >
                → {nameOf(store, x.to)}
              </button>
              <span className="flex w-20">
                <NumberField
                  label={x.id === t.id ? 'Odds' : `Odds of ${nameOf(store, x.to)}`}
                  value={x.odds ?? 0}
                  least={0}
                  most={1_000_000}
                  onChange={(odds) => putOdds(x.id, odds)}
                />
              </span>
              <span className="num text-ink-2 w-10 text-right">{shareWords(alike, x)}</span>
            </li>
          ))}
        </ul>
      )}
      {t.odds !== null && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={t.mayRepeat}
            onChange={(e) => onChange({ mayRepeat: e.target.checked })}
          />
          may come twice in a row
        </label>
      )}
      {t.from === '*' && t.odds === null && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={t.reenter}
            onChange={(e) => onChange({ reenter: e.target.checked })}
          />
          also from {nameOf(store, t.to)} itself
        </label>
      )}
    </>
  );
}

function NotBeforeField(props: { value: NotBefore | null; onChange: (v: NotBefore | null) => void }) {
  const { value, onChange } = props;
  const { fps } = useSession().store.head;
  const unit = value === null ? 'none' : value === 'loopEnd' ? value : 'seconds' in value ? 's' : '%';
  const amount =
    value === null || value === 'loopEnd' ? 0 : 'seconds' in value ? value.seconds : value.percent;
  const make = (u: string, n: number) =>
    onChange(u === 'none' ? null : u === 'loopEnd' ? 'loopEnd' : u === 's' ? { seconds: n } : { percent: n });
  return (
    <Row title="Not before">
      {(unit === 's' || unit === '%' || unit === 'none') && (
        <NumberField
          label={unit === '%' ? 'Not before, per cent' : 'Not before, seconds'}
          step={unit === '%' ? 5 : 0.1}
          least={0}
          {...(unit === '%' ? { most: 100_000 } : { fps, most: 86_400 })}
          value={amount}
          onChange={(n) => make(n <= 0 ? 'none' : unit === 'none' ? 's' : unit, n)}
        />
      )}
      <Pick
        label="Not before what"
        value={unit}
        options={[
          ['none', 'at once'],
          ['s', 'seconds'],
          ['%', '% of the clip'],
          ['loopEnd', 'end of the loop'],
        ]}
        onChange={(u) => make(u, u === '%' ? 50 : 0.5)}
      />
    </Row>
  );
}

function CrossfadeField(props: {
  value: Transition['crossfade'];
  onChange: (v: Transition['crossfade']) => void;
}) {
  const { value, onChange } = props;
  const { fps } = useSession().store.head;
  const inSeconds = 'seconds' in value;
  const amount = inSeconds ? value.seconds : value.percent;
  const rest = {
    ...(value.easing ? { easing: value.easing } : {}),
    ...(value.mustFinish ? { mustFinish: true } : {}),
  };
  const make = (u: string, n: number) =>
    onChange(u === '%' ? { percent: Math.max(0, n), ...rest } : { seconds: Math.max(0, n), ...rest });
  return (
    <>
      <Row title="Crossfade">
        <NumberField
          label={inSeconds ? 'Crossfade, seconds' : 'Crossfade, per cent'}
          step={inSeconds ? 0.1 : 5}
          least={0}
          {...(inSeconds ? { fps, most: 86_400 } : { most: 100_000 })}
          value={amount}
          onChange={(n) => make(inSeconds ? 's' : '%', n)}
        />
        <Pick
          label="Unit of the crossfade"
          value={inSeconds ? 's' : '%'}
          options={[
            ['s', 'seconds'],
            ['%', '% of what is left'],
          ]}
          onChange={(u) => make(u, amount === 0 ? 0 : u === '%' ? 50 : 0.5)}
        />
      </Row>
      {amount > 0 && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={value.mustFinish ?? false}
            onChange={(e) => {
              const { mustFinish: _, ...plain } = value;
              onChange(
                (e.target.checked ? { ...plain, mustFinish: true } : plain) as Transition['crossfade'],
              );
            }}
          />
          must finish before anything else goes
        </label>
      )}
    </>
  );
}
