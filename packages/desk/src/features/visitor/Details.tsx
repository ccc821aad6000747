import type { SceneObject, Visitor } from '@apple-tick/core/model';
import { useHead, useSession, useTable } from '../../session/hooks.ts';
import { NumberField, type Option, Pick } from '../../ui/fields.tsx';
import { canWalk, changeVisitor, setVisitor } from './edit.ts';

const PLANES: readonly Option[] = [
  ['xz', 'on the ground'],
  ['x', 'to left and right'],
  ['xy', 'up and down a wall'],
];
const FACINGS: readonly Option[] = [
  ['none', 'always looks the same way'],
  ['mirror', 'is mirrored to where it goes'],
  ['turn', 'turns to where it goes'],
];
const WAYS = ['left', 'right', 'up', 'down'] as const;

/** Whether the person walks this object, how fast, where, and by which keyboard keys. */
export function VisitorDetails({ object }: { object: SceneObject }) {
  const s = useSession();
  const { visitor } = useHead();
  const numbers = useTable('signals').filter((x) => x.type === 'number');
  if (visitor?.object !== object.id)
    return canWalk(s.store, object) ? (
      <button type="button" className="underline text-ink-2" onClick={() => setVisitor(s, object)}>
        let the person walk {object.name}
      </button>
    ) : null;
  const change = (part: Partial<Visitor>) => changeVisitor(s, part);
  const { speed } = visitor;
  return (
    <section aria-label="Visitor" className="border-l-2 border-brass pl-2.5 space-y-1.5">
      <div className="sentence flex flex-wrap gap-1 items-center">
        The person walks it at
        {numbers.length > 0 && (
          <Pick
            label="Where its speed comes from"
            value={typeof speed === 'object' ? speed.signal : ''}
            options={[
              ['', 'a speed of'],
              { group: 'The number', options: numbers.map((x): Option => [x.id, x.name]) },
            ]}
            onChange={(v) => change({ speed: v === '' ? 160 : { signal: v } })}
          />
        )}
        {typeof speed === 'number' && (
          <span className="flex w-16">
            <NumberField
              label="Speed, px a second"
              least={0}
              most={100000}
              value={speed}
              step={10}
              onChange={(n) => change({ speed: n })}
            />
          </span>
        )}
        px a second
        <Pick
          label="Where it walks"
          value={visitor.plane}
          options={PLANES}
          onChange={(plane) => change({ plane: plane as Visitor['plane'] })}
        />
      </div>
      <Pick
        label="How it faces"
        value={visitor.facing}
        options={FACINGS}
        onChange={(facing) => change({ facing: facing as Visitor['facing'] })}
      />
      {WAYS.filter((w) => visitor.plane !== 'x' || w === 'left' || w === 'right').map((w) => (
        <KeysOf
          key={w}
          way={w}
          keys={visitor.keys[w]}
          onChange={(keys) => change({ keys: { ...visitor.keys, [w]: keys } })}
        />
      ))}
      <label className="flex items-center gap-1.5">
        <input type="checkbox" checked={visitor.drag} onChange={(e) => change({ drag: e.target.checked })} />
        follows the pointer that is pressed on it
      </label>
      <button type="button" className="btn" onClick={() => setVisitor(s, null)}>
        Let it stand
      </button>
    </section>
  );
}

/** The keyboard keys for one way: a press on the field takes the key that is then pressed, once more lets go of it. */
function KeysOf(props: { way: string; keys: readonly string[]; onChange: (keys: string[]) => void }) {
  const { way, keys, onChange } = props;
  return (
    <div className="flex items-center gap-1.5">
      <span className="w-16 flex-none">{way}</span>
      <input
        aria-label={`Keyboard keys for ${way}`}
        title="Press a key here to take it, once more to let go of it"
        className="field flex-1 min-w-0"
        readOnly
        value={keys.map((k) => (k === ' ' ? 'Space' : k)).join(', ')}
        onKeyDown={(e) => {
          if (e.key === 'Tab' || e.key === 'Shift' || e.key === 'Control' || e.key === 'Meta') return;
          e.preventDefault();
          e.stopPropagation();
          const key = e.key.length === 1 ? e.key.toLowerCase() : e.key;
          if (key === 'Escape') e.currentTarget.blur();
          else onChange(keys.includes(key) ? keys.filter((k) => k !== key) : [...keys, key].slice(-8));
        }}
      />
    </div>
  );
}
