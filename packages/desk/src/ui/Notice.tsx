import { Link } from 'react-router';
import { Mark } from './Mark.tsx';

/** A page that has only something to say, and the way back. */
export function Notice(props: { title: string; words: string; children?: React.ReactNode }) {
  return (
    <main className="h-full grid place-items-center p-6">
      <div className="max-w-[520px] bg-card border border-line rounded-[9px] p-8 space-y-3">
        <Mark />
        <h1 className="text-[23px]">{props.title}</h1>
        <p className="text-ink-2">{props.words}</p>
        <div className="flex gap-2 flex-wrap pt-2">
          {props.children}
          <Link className="btn" to="/">
            Back to the shelf
          </Link>
        </div>
      </div>
    </main>
  );
}
