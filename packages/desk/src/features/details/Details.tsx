import { useSession, useTable, useUi, useVersion } from '../../session/hooks.ts';
import { KeyDetails } from './KeyDetails.tsx';
import { ObjectDetails } from './ObjectDetails.tsx';
import { StateDetails } from './StateDetails.tsx';
import { TransitionDetails } from './TransitionDetails.tsx';

/** The properties of whatever is selected. */
export function Details() {
  useVersion();
  const s = useSession();
  const selected = useUi((u) => u.selected);
  const machines = useTable('machines');
  if (!selected)
    return (
      <p className="p-4 text-ink-2">Select an object, a state or a transition to see what it is and does.</p>
    );
  if (selected.kind === 'object') {
    const o = s.store.get('objects', selected.id);
    return o ? <ObjectDetails object={o} /> : null;
  }
  if (selected.kind === 'key') return <KeyDetails at={selected} />;
  const machine = machines.find((m) => m.id === selected.machine);
  const lane = machine?.lanes.find((l) => l.id === selected.lane);
  if (!machine || !lane) return null;
  const state = lane.states.find((x) => x.id === selected.id);
  if (selected.kind === 'state')
    return state ? <StateDetails machine={machine} lane={lane} state={state} /> : null;
  const transition = lane.transitions.find((x) => x.id === selected.id);
  return transition ? <TransitionDetails machine={machine} lane={lane} transition={transition} /> : null;
}
