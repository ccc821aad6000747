import { useEffect, useRef } from 'react';
import { useSession } from '../session/hooks.ts';
import type { Gesture } from '../session/session.ts';

/** A colour. All that is tried while its picker is open is one step, of the name `step`. */
export function ColorField(props: {
  label: string;
  step: string;
  value: string;
  onChange: (color: string) => void;
}) {
  const s = useSession();
  const input = useRef<HTMLInputElement>(null);
  const gesture = useRef<Gesture | null>(null);
  useEffect(() => {
    const el = input.current;
    const end = () => gesture.current?.end();
    // The browser's own event: React's of this name comes at each colour that is tried.
    el?.addEventListener('change', end);
    return () => {
      el?.removeEventListener('change', end);
      end();
    };
  }, []);
  return (
    <input
      ref={input}
      type="color"
      aria-label={props.label}
      className="w-10 h-6 flex-none"
      value={props.value}
      onChange={(e) => {
        gesture.current ??= s.beginGesture(props.step, () => {
          gesture.current = null;
        });
        props.onChange(e.target.value);
      }}
      onBlur={() => gesture.current?.end()}
    />
  );
}
