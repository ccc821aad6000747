import { useRouteError } from 'react-router';
import { useStore } from 'zustand';
import { storage } from '../session/keep/storage.ts';
import { Notice } from '../ui/Notice.tsx';

/** An address at which there is nothing. */
export function NotFound() {
  return (
    <Notice title="There is nothing here" words="This address leads nowhere; your pieces are on the shelf." />
  );
}

/** Something in the program went wrong while it drew a page. */
export function Crashed() {
  const error = useRouteError();
  const lasts = useStore(storage, (x) => x.lasts);
  return (
    <Notice
      title="Something went wrong here"
      words={
        lasts
          ? 'It is a mistake of this program, not yours. What you did is kept, up to the last second: open the piece again, and undo what led here if it comes back.'
          : 'It is a mistake of this program, not yours. This browser keeps nothing: do not close the page, go back to the shelf and export the piece.'
      }
    >
      <button type="button" className="btn btn-ink" onClick={() => location.reload()}>
        Open it again
      </button>
      <details className="w-full text-ink-3 text-[11.5px]">
        <summary className="cursor-pointer">What the program says</summary>
        <p className="num break-words">{error instanceof Error ? error.message : String(error)}</p>
      </details>
    </Notice>
  );
}
