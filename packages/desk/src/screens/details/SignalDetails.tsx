import type { Message, Signal } from '@apple-tick/core/model';
import { uniqueName } from '@apple-tick/core/model';
import { runCommand } from '../../commands/registry.ts';
import { useSession } from '../../session/hooks.ts';
import { Heading, NumberField, type Option, Pick, Row, SecondsField, TextField } from '../../ui/fields.tsx';
import { Uses } from '../../ui/Uses.tsx';

/** A signal: its name everywhere, what it is before anything sets it, and its range. */
export function SignalDetails({ signal }: { signal: Signal }) {
  const s = useSession();
  const change = (name: string, part: object) =>
    s.edit(name, (e) => e.update('signals', signal.id, (x) => ({ ...x, ...part }) as Signal));
  const changed = `Changed ${signal.name}`;
  return (
    <div className="p-3.5 space-y-2">
      <Heading
        label="Name of the signal"
        name={signal.name}
        kind={signal.type}
        onRename={(n) =>
          change(`Renamed ${signal.name}`, {
            name: uniqueName(
              n,
              new Set(s.store.all('signals').flatMap((x) => (x.id === signal.id ? [] : x.name))),
            ),
          })
        }
      />
      <Initial signal={signal} onChange={(part) => change(changed, part)} />
      <Row title="Note">
        <TextField
          label="Note"
          most={10000}
          value={signal.note}
          onChange={(note) => change(changed, { note })}
        />
      </Row>
      <Uses id={signal.id} verb="Set" heard="Goes by it" />
      <button type="button" className="btn" onClick={() => runCommand(s, 'delete')}>
        Delete the signal
      </button>
    </div>
  );
}

function Initial({ signal, onChange }: { signal: Signal; onChange: (part: object) => void }) {
  switch (signal.type) {
    case 'pulse':
      return (
        <>
          <p className="text-ink-2">A pulse is up for a moment, then down again.</p>
          <Row title="Kept for">
            <SecondsField
              label="Seconds for which it is remembered"
              unit="s"
              least={0}
              step={0.1}
              value={signal.remember ?? 0}
              onChange={(n) => onChange({ remember: n > 0 ? n : undefined })}
            />
          </Row>
          <p className="text-ink-2">
            {signal.remember
              ? 'A lane that could not go at once goes as soon as it can, for so long.'
              : 'A lane that cannot go at that moment misses it.'}
          </p>
        </>
      );
    case 'switch':
      return (
        <Row title="Begins">
          <Pick
            label="Begins"
            value={signal.initial ? 'on' : 'off'}
            options={[
              ['off', 'off'],
              ['on', 'on'],
            ]}
            onChange={(v) => onChange({ initial: v === 'on' })}
          />
        </Row>
      );
    case 'number':
      return <NumberInitial signal={signal} onChange={onChange} />;
    case 'choice':
      return <ChoiceInitial signal={signal} onChange={onChange} />;
    case 'text':
      return (
        <Row title="Begins">
          <TextField
            label="Begins as"
            most={10000}
            value={signal.initial}
            onChange={(initial) => onChange({ initial })}
          />
        </Row>
      );
  }
}

const clamp = (n: number, min = Number.NEGATIVE_INFINITY, max = Number.POSITIVE_INFINITY) =>
  Math.min(max, Math.max(min, n));

export function MessageDetails({ message }: { message: Message }) {
  const s = useSession();
  return (
    <div className="p-3.5 space-y-2">
      <Heading
        label="Name of the message"
        name={message.name}
        kind="message"
        onRename={(n) => {
          const taken = new Set(s.store.all('messages').flatMap((x) => (x.id === message.id ? [] : x.name)));
          s.edit(`Renamed ${message.name}`, (e) =>
            e.update('messages', message.id, (m) => ({ ...m, name: uniqueName(n, taken) })),
          );
        }}
      />
      <p className="text-ink-2">
        A happening with a name: actions send it, reactions and transitions hear it.
      </p>
      <Uses id={message.id} verb="Sent" heard="Heard by" />
      <button type="button" className="btn" onClick={() => runCommand(s, 'delete')}>
        Delete the message
      </button>
    </div>
  );
}

function NumberInitial({
  signal,
  onChange,
}: {
  signal: Extract<Signal, { type: 'number' }>;
  onChange: (part: object) => void;
}) {
  return (
    <>
      <Row title="Begins">
        <NumberField
          label="Begins at"
          value={signal.initial}
          onChange={(n) => onChange({ initial: clamp(n, signal.min, signal.max) })}
        />
      </Row>
      <Row title="Range">
        <NumberField
          label="Least"
          axis="from"
          value={signal.min ?? 0}
          onChange={(min) => {
            const max = Math.max(min, signal.max ?? min);
            onChange({ min, max, initial: clamp(signal.initial, min, max) });
          }}
        />
        <NumberField
          label="Greatest"
          axis="to"
          value={signal.max ?? 100}
          onChange={(max) => {
            const min = Math.min(max, signal.min ?? max);
            onChange({ min, max, initial: clamp(signal.initial, min, max) });
          }}
        />
      </Row>
    </>
  );
}

function ChoiceInitial({
  signal,
  onChange,
}: {
  signal: Extract<Signal, { type: 'choice' }>;
  onChange: (part: object) => void;
}) {
  return (
    <>
      <Row title="Options">
        <TextField
          label="Options, separated by commas"
          most={10000}
          value={signal.options.join(', ')}
          onChange={(text) => {
            const options = [...new Set(text.split(',').map((o) => o.trim().slice(0, 200)))]
              .filter((o) => o !== '')
              .slice(0, 200);
            if (options.length > 0)
              onChange({
                options,
                initial: options.includes(signal.initial) ? signal.initial : options[0],
              });
          }}
        />
      </Row>
      <Row title="Begins">
        <Pick
          label="Begins"
          value={signal.initial}
          options={signal.options.map((o): Option => [o, o])}
          onChange={(initial) => onChange({ initial })}
        />
      </Row>
    </>
  );
}
