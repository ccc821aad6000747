import type { Given, Signal } from '@apple-tick/core/model';
import { likeSignals } from '../../session/doings/signals.ts';
import { useOpen, useSession, useTable, useUi } from '../../session/hooks.ts';
import { keyProperty, posedPart } from '../../session/things/properties.ts';
import { NumberField, type Option, Pick, TextField } from '../../ui/fields.tsx';
import {
  addInstance,
  cutLoose,
  give,
  givenTo,
  type Instance,
  openTemplate,
  timesWords,
  usesOfTemplate,
} from './edit.ts';

/** Which template it is a use of, and what it gives that one's signals. */
export function InstanceDetails({ instance }: { instance: Instance }) {
  const s = useSession();
  useTable('templates');
  useTable('signals');
  const template = s.store.get('templates', instance.template);
  if (!template) return null;
  const signals = s.store.within('signals', template.id).filter((x) => x.type !== 'pulse');
  const times = usesOfTemplate(s.store, template.id).length;
  return (
    <section aria-label="Instance" className="border-l-2 border-brass pl-2.5 space-y-1.5">
      <p>
        One of{' '}
        <button
          type="button"
          className="underline font-semibold"
          onClick={() => s.select({ kind: 'template', id: template.id })}
        >
          {template.name}
        </button>
        <span className="text-ink-2">, {timesWords(times)}</span>
      </p>
      {signals.map((x) => (
        <OwnValue key={x.id} instance={instance} signal={x} />
      ))}
      {signals.length === 0 && (
        <p className="text-ink-2">
          A signal made in the template has a value of its own here, in each place.
        </p>
      )}
      <div className="flex flex-wrap gap-1">
        <button type="button" className="btn btn-ink" onClick={() => openTemplate(s, instance.id)}>
          Open in place
        </button>
        <button type="button" className="btn" onClick={() => addInstance(s, template.id)}>
          Place another
        </button>
        <button type="button" className="btn" onClick={() => cutLoose(s, instance.id)}>
          Cut loose
        </button>
      </div>
    </section>
  );
}

/** What the instance gives one signal of its template: what it has itself is marked, and can be given back. */
function OwnValue({ instance, signal: x }: { instance: Instance; signal: Signal }) {
  const s = useSession();
  const open = useOpen();
  const keying = useUi((u) => u.keying) && open !== null;
  useUi((u) => u.playhead);
  const property = `signal.${x.id}`;
  const keyed = open?.clip.tracks.some((t) => t.object === instance.id && t.property === property) ?? false;
  const given = givenTo(instance, x);
  if (!given) return null;
  const { own } = given;
  // While a clip is open its value is what that gives, at the playhead.
  const posed = keyed ? posedPart(s, instance.id, property) : null;
  const value = posed ?? given.value;
  const bound = typeof value === 'object' ? value.signal : '';
  const put = (to: Given) => {
    if (!keying || !open || typeof to === 'object') return give(s, instance, x, to);
    s.edit(`Keyed ${x.name} of ${instance.name}`, (e) =>
      keyProperty(e, open.clip.id, instance.id, property, to, s.state.playhead),
    );
  };
  const others = likeSignals(s.store, x).map((o): Option => [o.id, o.name]);
  const label = `${x.name} of ${instance.name}`;
  return (
    <div className="flex items-center gap-1.5">
      <span className={`w-20 flex-none truncate ${own ? 'font-semibold' : 'text-ink-2'}`} title={x.name}>
        {x.name}
      </span>
      {typeof value !== 'object' && (
        <span className={`flex flex-1 min-w-0 ${own || keyed ? '' : 'opacity-70'}`}>
          {x.type === 'number' && (
            <NumberField
              label={label}
              value={Number(value)}
              step={x.step ?? 1}
              least={x.min ?? -1e6}
              most={x.max ?? 1e6}
              keyed={keyed}
              onChange={put}
            />
          )}
          {x.type === 'switch' && (
            <Pick
              label={label}
              value={value === true ? 'on' : 'off'}
              options={[
                ['on', 'on'],
                ['off', 'off'],
              ]}
              onChange={(v) => put(v === 'on')}
            />
          )}
          {x.type === 'choice' && (
            <Pick
              label={label}
              value={String(value)}
              options={x.options.map((o): Option => [o, o])}
              onChange={put}
            />
          )}
          {x.type === 'text' && <TextField label={label} value={String(value)} onChange={put} />}
        </span>
      )}
      {(others.length > 0 || bound !== '') && !keying && (
        <Pick
          label={`Where ${label} comes from`}
          value={bound}
          options={[['', bound === '' ? 'its own' : 'a value'], { group: 'Goes with', options: others }]}
          onChange={(v) => give(s, instance, x, v === '' ? undefined : { signal: v })}
        />
      )}
      {own && (
        <button
          type="button"
          className="underline text-ink-2 text-[11.5px] whitespace-nowrap"
          aria-label={`Give ${label} back to the template`}
          title="As the template has it"
          onClick={() => give(s, instance, x, undefined)}
        >
          give back
        </button>
      )}
    </div>
  );
}
