import type { TweenEasing } from '@apple-tick/core/model';
import { TWEEN_EASINGS, tweenEasingName } from '../../session/words.ts';
import { type Option, Pick, SecondsField } from '../fields.tsx';

/** In how long something goes its way, and how. */
export function Timing(props: {
  /** What the two fields are called. */
  labels: readonly [seconds: string, easing: string];
  seconds: number;
  easing: TweenEasing;
  onChange: (part: { seconds: number } | { easing: TweenEasing }) => void;
}) {
  const { labels, seconds, onChange } = props;
  const easings = TWEEN_EASINGS.map(([name]): Option => [name, name]);
  const easing = tweenEasingName(props.easing);
  return (
    <>
      <span className="flex w-14">
        <SecondsField
          label={labels[0]}
          unit="s"
          value={seconds}
          onChange={(to) => onChange({ seconds: to })}
        />
      </span>
      <Pick
        label={labels[1]}
        value={easing}
        options={easings.some(([e]) => e === easing) ? easings : [...easings, [easing, easing]]}
        onChange={(name) => {
          const found = TWEEN_EASINGS.find(([n]) => n === name);
          if (found) onChange({ easing: found[1] });
        }}
      />
    </>
  );
}
