import { Fragment } from 'react';

/** A sentence in which the names of controls stand in brackets: they are set apart, without the brackets. */
export function Told({ say }: { say: string }) {
  return say.split(/(\[[^\]]+\])/).map((part, i) =>
    // biome-ignore lint/suspicious/noArrayIndexKey: a text that does not change
    part.startsWith('[') ? <b key={i}>{part.slice(1, -1)}</b> : <Fragment key={i}>{part}</Fragment>,
  );
}
