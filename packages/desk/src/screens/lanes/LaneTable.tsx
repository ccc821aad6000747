import {
  type Clip,
  clipsPlayed,
  type Lane,
  type Machine,
  onePlay,
  propertyUnit,
  type Track,
} from '@apple-tick/core/model';
import { useIdleTable, useIdleVersion, useSession, useUi } from '../../session/hooks.ts';
import { addTransition, fillGap } from '../../session/motion/machines.ts';
import { labelOf, nameOf, ticketWords } from '../../session/words/words.ts';

/** A lane as two tables: which state leads to which, and which state keys which property. */
export function LaneTable({ machine, lane }: { machine: Machine; lane: Lane }) {
  return (
    <div className="flex-1 min-h-0 overflow-auto p-3 pt-4 flex gap-6 items-start">
      <WhoGoesWhere machine={machine} lane={lane} />
      <WhoKeysWhat lane={lane} />
    </div>
  );
}

const HEAD = 'font-semibold text-left px-2 py-1 whitespace-nowrap';
const CELL = 'border border-line px-1.5 py-1 align-top';

/** From each state (a row) to each (a column): what leads there, and a place to add more. */
function WhoGoesWhere({ machine, lane }: { machine: Machine; lane: Lane }) {
  const s = useSession();
  useIdleVersion();
  const selected = useUi((u) => u.selected);
  const rows = [...lane.states.map((x) => ({ id: x.id, name: x.name })), { id: '*', name: 'anywhere' }];
  return (
    <table className="border-collapse flex-none" aria-label="Who goes where">
      <thead>
        <tr>
          <th className={`${HEAD} text-ink-2`}>from ↓ to →</th>
          {lane.states.map((x) => (
            <th key={x.id} className={HEAD}>
              {x.name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((from) => (
          <tr key={from.id}>
            <th className={HEAD}>{from.name}</th>
            {lane.states.map((to) => {
              const there = lane.transitions.filter((t) => t.from === from.id && t.to === to.id);
              return (
                <td key={to.id} className={`${CELL} ${from.id === to.id ? 'bg-paper' : ''}`}>
                  <div className="flex items-center gap-1 min-h-[22px]">
                    {there.map((t) => {
                      const words = ticketWords(s.store, t, machine, lane);
                      const chosen = selected?.kind === 'transition' && selected.id === t.id;
                      return (
                        <button
                          key={t.id}
                          type="button"
                          title={words}
                          aria-pressed={chosen}
                          className={`max-w-[150px] truncate px-1.5 py-[1px] rounded-[5px] border text-[11.5px] ${chosen ? 'border-brass bg-chosen' : 'border-line bg-card'} ${t.set ? '' : 'border-dashed text-ink-2'}`}
                          onClick={() =>
                            s.select({ kind: 'transition', machine: machine.id, lane: lane.id, id: t.id })
                          }
                        >
                          {words}
                        </button>
                      );
                    })}
                    {!s.state.readOnly && (
                      <button
                        type="button"
                        aria-label={`Add a transition from ${from.name} to ${to.name}`}
                        className="px-1 rounded-[5px] text-ink-3 hover:bg-chosen hover:text-ink ml-auto"
                        onClick={() => addTransition(s, machine.id, lane, from.id, to.id)}
                      >
                        +
                      </button>
                    )}
                  </div>
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Of each state (a row), what its clip does to each property that any state of the lane keys; gaps are filled by a click. */
function WhoKeysWhat({ lane }: { lane: Lane }) {
  const s = useSession();
  const clips = useIdleTable('clips');
  const clipOf = (x: Lane['states'][number]) => clips.find((c) => c.id === onePlay(x.play)?.clip);
  const allOf = (x: Lane['states'][number]) => clips.filter((c) => clipsPlayed(x.play).includes(c.id));
  const columns = new Map<string, { object: string; property: string }>();
  for (const x of lane.states)
    for (const { object, property } of allOf(x).flatMap((c) => c.tracks))
      columns.set(`${object} ${property}`, { object, property });
  if (columns.size === 0) return <p className="text-ink-2">No state of this lane keys anything yet.</p>;
  const gap = lane.unkeyed === 'base' ? 'goes back' : 'stays';
  return (
    <table className="border-collapse flex-none" aria-label="Which state keys what">
      <thead>
        <tr>
          <th className={`${HEAD} text-ink-2`}>keys</th>
          {[...columns.values()].map(({ object, property }) => (
            <th key={`${object} ${property}`} className={HEAD}>
              {nameOf(s.store, object)}{' '}
              <span className="font-normal text-ink-2">{labelOf(s.store, property)}</span>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {lane.states.map((x) => {
          const clip = clipOf(x);
          return (
            <tr key={x.id}>
              <th className={HEAD}>{x.name}</th>
              {[...columns.values()].map(({ object, property }) => (
                <td key={`${object} ${property}`} className={`${CELL} whitespace-nowrap`}>
                  <Keyed
                    blended={allOf(x)}
                    state={x.name}
                    play={x.play}
                    clip={clip}
                    object={object}
                    property={property}
                    gap={gap}
                  />
                </td>
              ))}
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

function Keyed(props: {
  state: string;
  play: Lane['states'][number]['play'];
  clip: Clip | undefined;
  /** All clips that it plays at once. */
  blended: readonly Clip[];
  object: string;
  property: string;
  gap: string;
}) {
  const { state, play, clip, blended, object, property, gap } = props;
  const s = useSession();
  const track = clip?.tracks.find((t) => t.object === object && t.property === property);
  const { speed } = onePlay(play) ?? {};
  const back = typeof speed === 'number' && speed < 0;
  if (track) return <span className="num">{wayOf(track, back)}</span>;
  if (blended.length > 1) {
    const n = blended.filter((c) =>
      c.tracks.some((t) => t.object === object && t.property === property),
    ).length;
    return <span className="num">{n === 0 ? gap : `in ${n} of ${blended.length}`}</span>;
  }
  if (!clip) return <span className="text-ink-2">{play === 'hold' ? 'as it was' : 'goes back'}</span>;
  return (
    <span className="flex items-center gap-1.5 text-ink-2">
      {gap}
      {!s.state.readOnly && (
        <button
          type="button"
          className="btn !py-0 !px-1.5"
          aria-label={`Key ${labelOf(s.store, property)} of ${nameOf(s.store, object)} in ${state}`}
          onClick={() => fillGap(s, clip, object, property)}
        >
          key it
        </button>
      )}
    </span>
  );
}

/** From what to what, or between what and what where it comes back to its start; and how many keys. */
function wayOf({ keys, property, mode }: Track, back: boolean): string {
  const words = (v: number | boolean | string | undefined) =>
    typeof v === 'number'
      ? `${mode === 'offset' && v >= 0 ? '+' : ''}${String(Math.round(v * 10) / 10).replace('-', '−')}${propertyUnit(property)}`
      : v === true
        ? 'on'
        : v === false
          ? 'off'
          : String(v ?? '');
  const ends = [words(keys[0]?.value), words(keys.at(-1)?.value)];
  const [first, last] = back ? ends.reverse() : ends;
  const numbers = keys.flatMap((k) => (typeof k.value === 'number' ? [k.value] : []));
  if (keys.length > 2 && first === last && numbers.length === keys.length)
    return `${words(Math.min(...numbers))} … ${words(Math.max(...numbers))} · ${keys.length} keys`;
  return keys.length === 1
    ? String(first)
    : `${first} → ${last}${keys.length > 2 ? ` · ${keys.length} keys` : ''}`;
}
