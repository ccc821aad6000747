import { ACTIONS, type Action, type ActionName } from '@apple-tick/core/model';
import { Plus, X } from 'lucide-react';
import { type ReactNode, useRef, useState } from 'react';
import { makingFor, replacing } from '../session/doings/made-on-the-way.ts';
import { newAction } from '../session/doings/new-action.ts';
import { useSession, useTable } from '../session/hooks.ts';
import { fieldWords, plainStart } from '../session/words/plain-forms.ts';
import { actionWords } from '../session/words/words.ts';
import { type Option, Pick, SecondsField } from '../ui/fields.tsx';
import { Parts } from './ActionParts.tsx';
import { FormField } from './FormField.tsx';
import { ownParts, restOf } from './own-parts.ts';

const DEEDS = Object.keys(ACTIONS) as ActionName[];

interface ActionListProps {
  actions: readonly Action[];
  owner: string;
  /** A last action can be deleted only where nothing being done is sensible (entry, exit, cue). */
  mayBeEmpty: boolean;
  /** Whether what is answered has a thing of its own, which can be acted on. */
  thing?: boolean;
  /** What else there is to add, beside another action. */
  more?: ReactNode;
  onChange: (actions: Action[]) => void;
}

/** What is done, in order: each a sentence whose words are picked from lists. `owner` is what new ones are about. */
export function ActionList(props: ActionListProps) {
  const { actions, owner, onChange } = props;
  const s = useSession();
  const clips = useTable('clips').length > 0;
  const templates = useTable('templates').length > 0;
  const isThere = (d: ActionName) =>
    d === 'play' || d === 'stop' ? clips : d === 'spawn' || d === 'remove' ? templates : true;
  const put = (i: number, a: Action) =>
    replacing(s, actions[i], a, () => onChange(actions.map((x, n) => (n === i ? a : x))));
  const [asks, setAsks] = useState(false);
  const asked = useTable('reactions');
  // What the piece does already is the likeliest to be done again.
  const used = [...new Set(asked.flatMap((r) => r.actions.map((a) => a.do)).reverse())].slice(0, 3);
  const asksNow = asks || actions.length === 0;
  const kinds = (now?: ActionName) =>
    DEEDS.filter((d) => d === now || isThere(d)).map((d) => [d, ACTIONS[d].pick] as const);
  const latest = useRef(props);
  latest.current = props;
  return (
    <div
      className="space-y-1.5"
      onFocus={(e) => {
        const at = Number(e.target.closest('[data-action]')?.getAttribute('data-action') ?? Number.NaN);
        s.worked = {
          owner,
          action: latest.current.actions[at],
          take: () => latest.current.onChange(latest.current.actions.filter((_, n) => n !== at)),
          putActions: (more) => latest.current.onChange([...latest.current.actions, ...more]),
        };
      }}
      onBlur={() => {
        s.worked = null;
      }}
    >
      {actions.map((a, i) => (
        <fieldset
          data-action={i}
          // biome-ignore lint/suspicious/noArrayIndexKey: actions have no ids and are few
          key={i}
          className="group sentence flex flex-wrap gap-x-1 items-center"
          aria-label={actionWords(s.store, a)}
        >
          <Pick
            label="Action"
            value={a.do}
            options={kinds(a.do)}
            onChange={(d) =>
              s.step('Changed an action', () =>
                put(
                  i,
                  makingFor(s, () => newAction(s, d as ActionName, owner)),
                ),
              )
            }
          />
          <Parts a={a} thing={props.thing ?? false} onChange={(to) => put(i, to)} />
          <OwnParts a={a} thing={props.thing ?? false} onChange={(to) => put(i, to)} />
          <Rest a={a} onChange={(to) => put(i, to)} />
          <After a={a} onChange={(to) => put(i, to)} />
          {(actions.length > 1 || props.mayBeEmpty) && (
            <button
              type="button"
              aria-label="Delete the action"
              onClick={() => onChange(actions.filter((_, n) => n !== i))}
            >
              <X size={13} />
            </button>
          )}
        </fieldset>
      ))}
      {asksNow && (
        <AskAction
          first={actions.length === 0}
          used={used}
          kinds={kinds()}
          onPick={(kind) => {
            setAsks(false);
            if (kind === null) return;
            s.step('Added an action', () =>
              onChange([...actions, makingFor(s, () => newAction(s, kind, owner))]),
            );
          }}
        />
      )}
      <div className="flex gap-3 text-[11.5px] text-ink-2 empty:hidden">
        {!asksNow && (
          <button
            type="button"
            className="inline-flex items-center gap-0.5 hover:text-ink"
            onClick={() => setAsks(true)}
          >
            <Plus size={11} aria-hidden="true" /> action
          </button>
        )}
        {props.more}
      </div>
    </div>
  );
}

function OwnParts({ a, thing, onChange }: { a: Action; thing: boolean; onChange: (a: Action) => void }) {
  const own = ownParts(a.do);
  return own && <own.Parts a={a} thing={thing} onChange={onChange} />;
}

/** What else the action may say, by the forms of its fields; what it does not say yet is offered. */
function Rest({ a, onChange }: { a: Action; onChange: (a: Action) => void }) {
  const of = a as unknown as Readonly<Record<string, unknown>>;
  const put = (field: string, value: unknown) => onChange({ ...a, [field]: value } as Action);
  return restOf(a.do).map(([field, form]) =>
    of[field] === undefined ? (
      <button
        key={field}
        type="button"
        className="quiet text-ink-2"
        onClick={() => put(field, plainStart(form))}
      >
        + {fieldWords(field)}
      </button>
    ) : (
      <span key={field} className="flex items-center gap-[0.3em]">
        {fieldWords(field)}
        <FormField label={fieldWords(field)} form={form} value={of[field]} onChange={(v) => put(field, v)} />
        {form.optional && (
          <button
            type="button"
            className="text-ink-3 hover:text-ink"
            aria-label={`Leave out ${fieldWords(field)}`}
            onClick={() => {
              const { [field]: _, ...rest } = of;
              onChange(rest as unknown as Action);
            }}
          >
            <X size={11} />
          </button>
        )}
      </span>
    ),
  );
}

/** The delay of one action; shown once it has one, or asked for. */
function After({ a, onChange }: { a: Action; onChange: (a: Action) => void }) {
  if (a.after === undefined)
    return (
      <button type="button" className="quiet text-ink-2" onClick={() => onChange({ ...a, after: 0.5 })}>
        + delay
      </button>
    );
  return (
    <span className="flex items-center gap-[0.3em]">
      after
      <span className="flex">
        <SecondsField
          label="Delay, seconds"
          unit="s"
          value={a.after}
          onChange={(n) => {
            const { after: _, ...rest } = a;
            onChange((n > 0 ? { ...rest, after: n } : rest) as Action);
          }}
        />
      </span>
    </span>
  );
}

/** Another action, asked for: nothing is added before it is said what. */
function AskAction({
  first,
  used,
  kinds,
  onPick,
}: {
  first: boolean;
  used: readonly ActionName[];
  kinds: Option[];
  onPick: (kind: ActionName | null) => void;
}) {
  return (
    <div className="sentence flex flex-wrap gap-x-1 items-center">
      <Pick
        label={first ? 'Action' : 'Another action'}
        value=""
        options={[
          ['', 'does what?'],
          { group: 'Used last', options: kinds.filter(([d]) => used.includes(d as ActionName)) },
          { group: 'All', options: kinds },
        ]}
        onChange={(d) => onPick(d === '' ? null : (d as ActionName))}
      />
      {!first && (
        <button type="button" aria-label="No other action" onClick={() => onPick(null)}>
          <X size={13} />
        </button>
      )}
    </div>
  );
}
