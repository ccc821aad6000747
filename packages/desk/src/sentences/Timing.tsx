import type { TweenEasing } from '@apple-tick/core/model';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { TWEEN_EASINGS, tweenEasingName } from '../session/words/words.ts';
import { EasingButton } from '../ui/EasingPicker.tsx';
import { SecondsField } from '../ui/fields.tsx';

/** In how long something goes its way, and how. */
export function Timing(props: {
  /** What the two fields are called. */
  labels: readonly [seconds: string, easing: string];
  seconds: number;
  easing: TweenEasing;
  onChange: (part: { seconds: number } | { easing: TweenEasing }) => void;
}) {
  const { labels, seconds, onChange } = props;
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
      <EasingWord label={labels[1]} value={props.easing} onChange={(easing) => onChange({ easing })} />
    </>
  );
}

/** An easing as a word in a sentence; pressed, all that there are as pictures. */
function EasingWord(props: { label: string; value: TweenEasing; onChange: (easing: TweenEasing) => void }) {
  const { label, value, onChange } = props;
  const [open, setOpen] = useState(false);
  const now = tweenEasingName(value);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger
        aria-label={`${label}: ${now}`}
        className="font-medium border-b border-dotted border-ink-3 hover:bg-chosen leading-[1.35]"
      >
        {now}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content className="menu w-[270px]" collisionPadding={8} aria-label={label}>
          <div className="grid grid-cols-3 gap-1.5">
            {TWEEN_EASINGS.map(([words, easing]) => (
              <EasingButton
                key={words}
                words={words}
                easing={easing}
                chosen={words === now}
                onPick={() => {
                  onChange(easing);
                  setOpen(false);
                }}
              />
            ))}
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
