/** How an action plays a clip, besides which and on what. */
import type { Action } from '@apple-tick/core/model';
import { useTable } from '../session/hooks.ts';
import { NumberField, type Option, Pick } from '../ui/fields.tsx';
import type { OwnParts } from './own.ts';

type Play = Action & { do: 'play' };

const AGAIN: readonly Option[] = [
  ['restart', 'begin anew if it plays'],
  ['ignore', 'let it be if it plays'],
  ['queue', 'after it if it plays'],
];
const TIMES = '';

/** At what speed, from where, and what happens where it plays already. */
function PlayParts({ a, onChange }: { a: Play; onChange: (a: Action) => void }) {
  const numbers = useTable('signals').filter((x) => x.type === 'number');
  const { speed = 1, from = 'start', again = 'restart', ...rest } = a;
  /** What is as usual is not written. */
  const put = (part: Partial<Play>) => {
    const next = { speed, from, again, ...part };
    onChange({
      ...rest,
      ...(next.speed === 1 ? {} : { speed: next.speed }),
      ...(next.from === 'start' ? {} : { from: next.from }),
      ...(next.again === 'restart' ? {} : { again: next.again }),
    });
  };
  return (
    <>
      {typeof speed === 'number' && (
        <span className="flex w-14">
          <NumberField
            label="Speed of the play"
            axis="×"
            step={0.1}
            value={speed}
            onChange={(n) => put({ speed: n })}
          />
        </span>
      )}
      {(numbers.length > 0 || typeof speed === 'object') && (
        <Pick
          label="Where its speed comes from"
          value={typeof speed === 'object' ? speed.signal : TIMES}
          options={[
            [TIMES, 'times'],
            { group: 'Signals', options: numbers.map((x): Option => [x.id, x.name]) },
          ]}
          onChange={(v) => put({ speed: v === TIMES ? 1 : { signal: v } })}
        />
      )}
      {typeof from === 'string' && (
        <Pick
          label="Where the play begins"
          value={from}
          options={[
            ['start', 'from the start'],
            ['here', 'from where it is'],
          ]}
          onChange={(v) => put({ from: v as 'start' | 'here' })}
        />
      )}
      <Pick
        label="When it plays already"
        value={again}
        options={AGAIN}
        onChange={(v) => put({ again: v as typeof again })}
      />
    </>
  );
}

/** The actions whose fields are edited here. */
export const own = {
  play: { fields: ['speed', 'from', 'again'], Parts: PlayParts },
} satisfies OwnParts;
