import { type Collider, cuesIn, EVENT_NAMES, EVENTS, type EventName, type On } from '@apple-tick/core/model';
import { AnswerPick } from '../features/captions/Parts.tsx';
import { firstZone } from '../features/zones/edit.ts';
import { offered, picked } from '../session/doings/made-on-the-way.ts';
import { addMessage, firstSignal } from '../session/doings/signals.ts';
import { useSession, useTable, useVersion } from '../session/hooks.ts';
import type { PieceStore } from '../session/model-help.ts';
import type { Session } from '../session/session.ts';
import { cueName } from '../session/words/words.ts';
import { NumberField, type Option, type OptionGroup, Pick } from '../ui/fields.tsx';
import { ThingPick } from './ThingPick.tsx';

type Target =
  | 'object'
  | 'collider'
  | 'key'
  | 'signal'
  | 'pulse'
  | 'message'
  | 'state'
  | 'lane'
  | 'clip'
  | 'cue'
  | 'sheet'
  | 'template'
  | 'timer'
  | null;

/** What an event is picked by. */
function targetOf(event: EventName): Target {
  const [first] = EVENTS[event].by;
  if (first === undefined) return null;
  if (event === 'pulse') return 'pulse';
  if (first === 'other' || first === 'tags' || first === 'answer') return null;
  return first === 'after' || first === 'every' || first === 'jitter' ? 'timer' : first;
}
const GROUPS = [...new Set(EVENT_NAMES.map((n) => EVENTS[n].group))];

/** The event of a reaction or transition: what kind, and what it happens to, picked from lists. */
export function EventPick(props: {
  label: string;
  on: On | null;
  /** The object that a pointer event without a name means. */
  owner: string;
  /** Transitions may go without an event, know "done", and hear no timers. */
  transition: boolean;
  /** Of a cue, which cannot wait for a timer either. */
  wait?: boolean;
  onChange: (on: On | null) => void;
}) {
  const { on, transition, onChange } = props;
  const s = useSession();
  const events: (Option | OptionGroup)[] = transition
    ? [
        ['', 'as soon as'],
        ['own.done', 'this state is done'],
      ]
    : [];
  for (const group of GROUPS) {
    const names = EVENT_NAMES.filter(
      (n) =>
        EVENTS[n].group === group &&
        !((transition || props.wait) && n === 'timer') &&
        (targetOf(n) !== 'template' || s.store.ids('templates').length > 0 || n === on?.event),
    );
    events.push({ group, options: names.map((n) => [n, EVENTS[n].pick] as const) });
  }
  const own = transition && on?.event === 'state.done' && on.state === undefined && on.lane === undefined;
  // "Flap is clicked" reads from the object on; elsewhere the kind of thing comes first: "a state is entered: open".
  const aboutObject = on !== null && targetOf(on.event) === 'object';
  const pick = (v: string) => {
    if (v === '') onChange(null);
    else if (v === 'own.done') onChange({ event: 'state.done' });
    else s.step('Changed an event', () => onChange(withTarget(s, v as EventName, props.owner)));
  };
  return (
    <>
      {aboutObject && on && <Target on={on} owner={props.owner} onChange={onChange} />}
      <Pick
        label={props.label}
        value={on === null ? '' : own ? 'own.done' : on.event}
        options={events}
        onChange={pick}
      />
      {on && !own && !aboutObject && <Target on={on} owner={props.owner} onChange={onChange} />}
      {on?.event === 'caption.answer' && (
        <AnswerPick
          object={on.object ?? props.owner}
          value={on.answer}
          onChange={(answer) => {
            const { answer: _, ...rest } = on;
            onChange(answer === undefined ? rest : { ...rest, answer });
          }}
        />
      )}
    </>
  );
}

const roleOf = (event: EventName) => EVENTS[event].role as Collider['role'];

/** An event of this kind about the first thing that it can be about; makes a signal or message when there is none. */
function withTarget(s: Session, event: EventName, owner: string): On {
  const lane = s.store.all('machines').flatMap((m) => m.lanes)[0];
  switch (targetOf(event)) {
    case 'object':
      return { event, object: owner };
    case 'collider':
      return { event, collider: firstZone(s, owner, roleOf(event)) };
    case 'key':
      return { event, key: 'ArrowRight' };
    case 'signal':
      return {
        event,
        signal: s.store.all('signals').find((x) => x.type !== 'pulse')?.id ?? firstSignal(s, 'switch', 'on'),
      };
    case 'pulse':
      return { event, signal: firstSignal(s, 'pulse', 'go') };
    case 'message':
      return { event, message: s.store.ids('messages')[0] ?? addMessage(s, 'ready') };
    case 'state':
      return { event, ...(lane?.states[0] ? { state: lane.states[0].id } : {}) };
    case 'lane':
      return { event, ...(lane ? { lane: lane.id } : {}) };
    case 'clip': {
      const clip = s.store.ids('clips')[0];
      return { event, ...(clip ? { clip } : {}) };
    }
    case 'cue': {
      const cue = s.store.all('clips').flatMap((c) => c.cues)[0];
      return { event, ...(cue ? { cue: cue.id } : {}) };
    }
    case 'sheet': {
      const sheet = s.store.ids('cueSheets')[0];
      return { event, ...(sheet ? { sheet } : {}) };
    }
    case 'template': {
      const template = s.store.ids('templates')[0];
      return { event, ...(template ? { template } : {}) };
    }
    case 'timer':
      return { event, after: 1 };
    default:
      return { event };
  }
}

type ListField = 'template' | 'sheet' | 'signal' | 'message' | 'state' | 'lane' | 'clip' | 'cue';
type Options = (Option | OptionGroup)[];
const named = (x: { id: string; name: string }): Option => [x.id, x.name];

/** What an event may be about that is one record of a list: how that is asked for, its field, and what there is. */
const LISTS: Readonly<
  Partial<Record<string, readonly [label: string, ListField, (store: PieceStore) => Options]>>
> = {
  signal: [
    'Signal of the event',
    'signal',
    (x) => [
      ...x
        .all('signals')
        .filter((y) => y.type !== 'pulse')
        .map(named),
      offered('switch', 'number'),
    ],
  ],
  pulse: [
    'Pulse of the event',
    'signal',
    (x) => [
      ...x
        .all('signals')
        .filter((y) => y.type === 'pulse')
        .map(named),
      offered('pulse'),
    ],
  ],
  message: ['Message of the event', 'message', (x) => [...x.all('messages').map(named), offered('message')]],
  state: [
    'State of the event',
    'state',
    (x) => lanesOf(x).map((l) => ({ group: l.name, options: l.states.map(named) })),
  ],
  lane: ['Lane of the event', 'lane', (x) => lanesOf(x).map(named)],
  clip: ['Clip of the event', 'clip', (x) => x.all('clips').map(named)],
  cue: [
    'Cue of the event',
    'cue',
    (x) =>
      [...x.all('clips').flatMap((c) => c.cues), ...x.all('cueSheets').flatMap(cuesIn)].map(
        (q) => [q.id, cueName(x, q.id)] as const,
      ),
  ],
  template: ['Template of the event', 'template', (x) => x.all('templates').map(named)],
  sheet: ['Cue sheet of the event', 'sheet', (x) => x.all('cueSheets').map(named)],
};

const lanesOf = (store: PieceStore) => store.all('machines').flatMap((m) => m.lanes);

interface TargetProps {
  on: On;
  owner: string;
  onChange: (on: On) => void;
}

/** What an event is about: an object, a zone, a record of a list, a key, a time; or nothing. */
function Target({ on, owner, onChange }: TargetProps) {
  const s = useSession();
  useVersion();
  const kind = targetOf(on.event);
  if (kind === 'object') return <OfObject on={on} owner={owner} onChange={onChange} />;
  if (kind === 'collider') return <OfZone on={on} onChange={onChange} />;
  if (kind === 'key') return <OfKey on={on} onChange={onChange} />;
  if (kind === 'timer') return <TimerFields on={on} onChange={onChange} />;
  const list = kind === null ? undefined : LISTS[kind];
  if (!list) return null;
  const [label, field, options] = list;
  return (
    <Pick
      label={label}
      value={on[field] ?? ''}
      options={[...(on[field] === undefined ? [['', 'any'] as const] : []), ...options(s.store)]}
      onChange={(v) =>
        v !== '' && s.step('Changed an event', () => onChange({ event: on.event, [field]: picked(s, v) }))
      }
    />
  );
}

function OfObject({ on, owner, onChange }: TargetProps) {
  const s = useSession();
  const objects = useTable('objects');
  const zones = useTable('colliders').filter((z) => z.role === 'zone');
  return (
    <>
      {on.collider === undefined ? (
        <Pick
          label="Object of the event"
          value={on.object ?? owner}
          options={objects.map(named)}
          onChange={(v) =>
            v !== '' && s.step('Changed an event', () => onChange({ event: on.event, object: picked(s, v) }))
          }
        />
      ) : (
        <Pick
          label="Object of the event"
          value={on.object ?? ''}
          options={[['', 'something'], ...objects.map(named)]}
          onChange={(v) => {
            const { object: _, ...rest } = on;
            onChange(v === '' ? rest : { ...rest, object: v });
          }}
        />
      )}
      {on.event === 'drag.drop' && zones.length > 0 && (
        <Pick
          label="Dropped into"
          value={on.collider ?? ''}
          options={[['', 'anywhere'], { group: 'Into', options: zones.map(named) }]}
          // Into a zone it is whatever comes; without one it is the object's own drop again.
          onChange={(v) => onChange({ event: on.event, ...(v === '' ? { object: owner } : { collider: v }) })}
        />
      )}
    </>
  );
}

function OfZone({ on, onChange }: Omit<TargetProps, 'owner'>) {
  const fits = useTable('colliders').filter((z) => z.role === roleOf(on.event));
  return (
    <>
      <Pick
        label="Zone of the event"
        value={on.collider ?? ''}
        options={on.collider === undefined ? [['', 'any of its own'], ...fits.map(named)] : fits.map(named)}
        onChange={(v) => v !== '' && onChange({ event: on.event, collider: v })}
      />
      <ThingPick
        label="What is noticed"
        zone={on.collider}
        things={on}
        any="whatever it is"
        single
        onChange={(things) => {
          const { other: _, tags: _old, ...rest } = on;
          onChange({ ...rest, ...things });
        }}
      />
    </>
  );
}

function OfKey({ on, onChange }: Omit<TargetProps, 'owner'>) {
  return (
    <input
      aria-label="Keyboard key of the event"
      className="field w-24"
      readOnly
      value={on.key === ' ' ? 'Space' : (on.key ?? 'any')}
      onKeyDown={(e) => {
        if (e.key === 'Tab') return;
        e.preventDefault();
        onChange({ event: on.event, key: e.key.length === 1 ? e.key.toLowerCase() : e.key });
      }}
    />
  );
}

function TimerFields({ on, onChange }: { on: On; onChange: (on: On) => void }) {
  const field = (label: string, axis: string, k: 'after' | 'every' | 'jitter') => (
    <NumberField
      label={label}
      axis={axis}
      unit="s"
      step={0.1}
      value={on[k] ?? 0}
      onChange={(n) => {
        const next: On = { ...on };
        if (n > (k === 'every' ? 0.001 : 0)) next[k] = n;
        else delete next[k];
        // A timer needs a first moment: without one it is due at once.
        onChange(next.after === undefined && next.every === undefined ? { ...next, after: 0 } : next);
      }}
    />
  );
  return (
    <span className="flex gap-1 w-full">
      {field('After, seconds', 'after', 'after')}
      {field('Every, seconds', 'every', 'every')}
      {field('Give or take, seconds', '±', 'jitter')}
    </span>
  );
}
