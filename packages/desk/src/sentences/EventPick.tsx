import { type Collider, cuesIn, EVENT_NAMES, EVENTS, type EventName, type On } from '@apple-tick/core/model';
import { firstZone } from '../features/zones/edit.ts';
import { offered, picked } from '../session/doings/made-on-the-way.ts';
import { addMessage, firstSignal } from '../session/doings/signals.ts';
import { useSession, useTable } from '../session/hooks.ts';
import type { Session } from '../session/session.ts';
import { cueName } from '../session/words/words.ts';
import { NumberField, type Option, type OptionGroup, Pick } from '../ui/fields.tsx';
import { AnswerPick } from './ShowParts.tsx';
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

function Target({ on, owner, onChange }: { on: On; owner: string; onChange: (on: On) => void }) {
  const s = useSession();
  const objects = useTable('objects');
  const machines = useTable('machines');
  const clips = useTable('clips');
  const signals = useTable('signals');
  const messages = useTable('messages');
  const zones = useTable('colliders');
  const sheets = useTable('cueSheets');
  const templates = useTable('templates');
  const kind = targetOf(on.event);
  const list = (
    label: string,
    field: 'template' | 'sheet' | 'object' | 'signal' | 'message' | 'state' | 'lane' | 'clip' | 'cue',
    options: (Option | OptionGroup)[],
  ) => (
    <Pick
      label={label}
      value={on[field] ?? (field === 'object' ? owner : '')}
      options={on[field] === undefined && field !== 'object' ? [['', 'any'], ...options] : options}
      onChange={(v) =>
        v !== '' && s.step('Changed an event', () => onChange({ event: on.event, [field]: picked(s, v) }))
      }
    />
  );
  const named = (x: { id: string; name: string }): Option => [x.id, x.name];
  const lanes = machines.flatMap((m) => m.lanes);
  switch (kind) {
    case 'object':
      return (
        <>
          {on.collider === undefined ? (
            list('Object of the event', 'object', objects.map(named))
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
          {on.event === 'drag.drop' && zones.some((z) => z.role === 'zone') && (
            <Pick
              label="Dropped into"
              value={on.collider ?? ''}
              options={[
                ['', 'anywhere'],
                { group: 'Into', options: zones.filter((z) => z.role === 'zone').map(named) },
              ]}
              // Into a zone it is whatever comes; without one it is the object's own drop again.
              onChange={(v) =>
                onChange({ event: on.event, ...(v === '' ? { object: owner } : { collider: v }) })
              }
            />
          )}
        </>
      );
    case 'collider': {
      const fits = zones.filter((z) => z.role === roleOf(on.event));
      return (
        <>
          <Pick
            label="Zone of the event"
            value={on.collider ?? ''}
            options={
              on.collider === undefined ? [['', 'any of its own'], ...fits.map(named)] : fits.map(named)
            }
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
    case 'signal':
      return list('Signal of the event', 'signal', [
        ...signals.filter((x) => x.type !== 'pulse').map(named),
        offered('switch', 'number'),
      ]);
    case 'pulse':
      return list('Pulse of the event', 'signal', [
        ...signals.filter((x) => x.type === 'pulse').map(named),
        offered('pulse'),
      ]);
    case 'message':
      return list('Message of the event', 'message', [...messages.map(named), offered('message')]);
    case 'state':
      return list(
        'State of the event',
        'state',
        lanes.map((l) => ({ group: l.name, options: l.states.map(named) })),
      );
    case 'lane':
      return list('Lane of the event', 'lane', lanes.map(named));
    case 'clip':
      return list('Clip of the event', 'clip', clips.map(named));
    case 'cue':
      return list(
        'Cue of the event',
        'cue',
        [...clips.flatMap((c) => c.cues), ...sheets.flatMap(cuesIn)].map(
          (q) => [q.id, cueName(s.store, q.id)] as const,
        ),
      );
    case 'template':
      return list('Template of the event', 'template', templates.map(named));
    case 'sheet':
      return list('Cue sheet of the event', 'sheet', sheets.map(named));
    case 'key':
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
    case 'timer':
      return <TimerFields on={on} onChange={onChange} />;
    default:
      return null;
  }
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
