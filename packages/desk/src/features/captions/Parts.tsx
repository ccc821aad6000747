/** What captions, sounds and effects say besides what they are about. */
import type { Action } from '@apple-tick/core/model';
import { Plus, X } from 'lucide-react';
import type { OwnParts } from '../../sentences/own.ts';
import { useSession, useTable } from '../../session/hooks.ts';
import { valueWords } from '../../session/words/words.ts';
import { type Option, Pick, SecondsField, TextField } from '../../ui/fields.tsx';
import { answersOf } from '../effects/edit.ts';

type Caption = Action & { do: 'caption' };

const AGAIN: readonly Option[] = [
  ['restart', 'at once'],
  ['queue', 'after what it says'],
  ['ignore', 'unless it says something'],
];

/** What it says, for how long, what may be answered, and what becomes of a caption that is there. */
function CaptionParts({ a, onChange }: { a: Caption; onChange: (a: Action) => void }) {
  const s = useSession();
  const signals = useTable('signals').filter((x) => x.type !== 'pulse');
  const { text, answers = [] } = a;
  const plain = typeof text !== 'object';
  const signal = !plain && 'signal' in text ? text.signal : null;
  const put = (part: Partial<Caption>) => {
    const next = { ...a, ...part };
    return onChange(Object.fromEntries(Object.entries(next).filter(([, v]) => v !== undefined)) as Action);
  };
  const stays = a.seconds === null;
  const asks = (texts: readonly string[]) =>
    put({
      answers: texts.map((t, i) => ({ id: answers[i]?.id ?? s.newId('answers'), text: t })),
      ...(answers.length === 0 ? { seconds: null } : {}),
    });
  return (
    <>
      says
      {signals.length > 0 && (
        <Pick
          label="What it says"
          value={signal ?? ''}
          options={[
            ['', plain || signal !== null ? 'the words' : valueWords(s.store, text)],
            { group: 'The value of', options: signals.map((x): Option => [x.id, x.name]) },
          ]}
          onChange={(id) => put({ text: id === '' ? '' : { signal: id } })}
        />
      )}
      {plain && (
        <TextField
          label="Words of the caption"
          className="field flex-1 min-w-32"
          most={2000}
          value={String(text)}
          onChange={(t) => put({ text: t })}
        />
      )}
      <Pick
        label="How long it stays"
        value={stays ? 'stays' : 'for'}
        options={[
          ['for', 'for'],
          ['stays', answers.length > 0 ? 'until it is answered' : 'until another takes its place'],
        ]}
        onChange={(how) => put({ seconds: how === 'stays' ? null : 3 })}
      />
      {!stays && (
        <span className="flex w-14">
          <SecondsField
            label="Seconds of the caption"
            unit="s"
            value={a.seconds ?? 3}
            onChange={(n) => put({ seconds: n })}
          />
        </span>
      )}
      <Pick
        label="When another caption is there"
        value={a.again ?? 'restart'}
        options={AGAIN}
        onChange={(again) => put({ again: again === 'restart' ? undefined : (again as Caption['again']) })}
      />
      {answers.length === 0 ? (
        <button
          type="button"
          className="text-ink-2"
          onClick={() => s.step('Added answers', () => asks(['Yes', 'No']))}
        >
          + answers
        </button>
      ) : (
        <Answers answers={answers} onPut={(to) => put({ answers: to })} onAsk={asks} />
      )}
    </>
  );
}

/** Which answer is meant: of the captions that the object may have. */
export function AnswerPick(props: {
  object: string;
  value: string | undefined;
  onChange: (answer: string | undefined) => void;
}) {
  const s = useSession();
  useTable('reactions');
  const answers = answersOf(s.store, props.object);
  if (answers.length === 0 && props.value === undefined) return null;
  return (
    <Pick
      label="Answer of the event"
      value={props.value ?? ''}
      options={[['', 'whatever the answer'], ...answers.map((x): Option => [x.id, `with “${x.text}”`])]}
      onChange={(v) => props.onChange(v === '' ? undefined : v)}
    />
  );
}

/** The answers of a caption: two to four. */
function Answers({
  answers,
  onPut,
  onAsk,
}: {
  answers: NonNullable<Caption['answers']>;
  onPut: (answers: Caption['answers']) => void;
  onAsk: (texts: readonly string[]) => void;
}) {
  const s = useSession();
  return (
    <span className="flex flex-wrap items-center gap-1 basis-full">
      answers
      {answers.map((x, i) => (
        <span key={x.id} className="flex items-center">
          <TextField
            label={`Answer ${i + 1}`}
            className="field min-w-8"
            value={x.text}
            onChange={(t) => t.trim() !== '' && onPut(answers.with(i, { ...x, text: t.trim() }))}
          />
          <button
            type="button"
            aria-label={`Take ${x.text} away`}
            onClick={() => onPut(answers.length > 2 ? answers.toSpliced(i, 1) : undefined)}
          >
            <X size={12} />
          </button>
        </span>
      ))}
      {answers.length < 4 && (
        <button
          type="button"
          aria-label="Add an answer"
          onClick={() => s.step('Added an answer', () => onAsk([...answers.map((x) => x.text), 'Perhaps']))}
        >
          <Plus size={13} />
        </button>
      )}
    </span>
  );
}

/** The actions whose fields are edited here. */
export const own = {
  caption: { fields: ['text', 'seconds', 'answers', 'again'], Parts: CaptionParts },
} satisfies OwnParts;
