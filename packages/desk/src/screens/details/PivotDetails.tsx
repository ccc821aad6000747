import { boundsOf, type SceneObject, type Vec3 } from '@apple-tick/core/model';
import { memo } from 'react';
import { useIdleTable, useSession } from '../../session/hooks.ts';
import { isBare } from '../../session/model-help.ts';
import { drawnBox } from '../../session/things/box.ts';
import { NumberField } from '../../ui/fields.tsx';
import { sameBut } from './same-but.ts';

/** The box of what is drawn of an object: of a group, of all that lies below it. Null where nothing is. */
function useOwnBox(object: SceneObject) {
  const { store } = useSession();
  // What lies below a group changes its box.
  useIdleTable('objects');
  if (isBare(object)) return drawnBox(store, object.id, object.id);
  const [least, most] = boundsOf(object);
  return { least, most };
}

export const Pivot = memo(function Pivot({ object }: { object: SceneObject }) {
  const s = useSession();
  const box = useOwnBox(object);
  /** The least side, the middle or the greatest side of an axis, for −1, 0, 1. */
  const side = (k: 0 | 1, way: number) =>
    box ? (box.least[k] * (1 - way) + box.most[k] * (1 + way)) / 2 : 0;
  const p = object.base.pivot;
  const move = (to: Vec3) => s.movePivot(object.id, to, 'fields');
  const words = [
    ['bottom', 'middle', 'top'],
    ['left', 'centre', 'right'],
  ] as const;
  return (
    <div className="flex gap-3 items-start">
      <div className="w-16 flex-none">
        <h3 className="text-[13px] mb-1">Pivot</h3>
        {box && (
          <fieldset className="grid grid-cols-3 w-11" aria-label="Pivot at">
            {[1, 0, -1].flatMap((y) =>
              [-1, 0, 1].map((x) => {
                const here = Math.abs(p[0] - side(0, x)) < 0.01 && Math.abs(p[1] - side(1, y)) < 0.01;
                return (
                  <button
                    key={`${x}${y}`}
                    type="button"
                    className="w-[14px] h-[14px] grid place-items-center"
                    aria-label={`Pivot ${words[0][y + 1]} ${words[1][x + 1]}`}
                    aria-pressed={here}
                    onClick={() => move([side(0, x), side(1, y), p[2]])}
                  >
                    <span
                      className={`rounded-full ${here ? 'w-2.5 h-2.5 bg-brass' : 'w-1.5 h-1.5 bg-ink-3'}`}
                    />
                  </button>
                );
              }),
            )}
          </fieldset>
        )}
      </div>
      <div className="flex-1 space-y-1.5">
        <div className="flex gap-1.5">
          {p.map((n, k) => (
            <NumberField
              // biome-ignore lint/suspicious/noArrayIndexKey: the axes are fixed
              key={k}
              short
              axis={'xyz'[k] as string}
              label={`Pivot ${'xyz'[k]}`}
              value={n}
              onChange={(to) => move(p.map((x, j) => (j === k ? to : x)) as Vec3)}
            />
          ))}
        </div>
        <button
          type="button"
          className="underline text-ink-2"
          onClick={() => s.set({ tool: 'pivot', swing: s.state.swing === object.id ? null : object.id })}
        >
          show the swing
        </button>
      </div>
    </div>
  );
}, sameBut('pivot'));
