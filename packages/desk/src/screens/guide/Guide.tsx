import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { whyNotKept } from '../../session/keep/storage.ts';
import { GUIDE, type Page } from '../../session/words/guide-pages.ts';
import { isFound } from '../../ui/find.ts';
import { Mark } from '../../ui/Mark.tsx';
import { readStarter, takeStarter, useStarters } from '../../ui/starters.ts';
import { Told } from '../../ui/Told.tsx';

const LivePiece = lazy(() => import('./LivePiece.tsx'));

/** Short pages by task, each with a piece that runs beside it and can be opened at that place. */
export function Guide() {
  const { page: id } = useParams();
  const [wanted, setWanted] = useState('');
  const page = GUIDE.find((p) => p.id === id) ?? (GUIDE[0] as Page);
  const found = GUIDE.filter((p) => isFound(wanted, p.title, p.find));
  const next = GUIDE[GUIDE.indexOf(page) + 1];
  return (
    <div className="h-full grid grid-rows-[44px_minmax(0,1fr)]">
      <header className="bg-card border-b border-line flex items-center px-4 gap-2">
        <Link to="/" aria-label="Shelf">
          <Mark />
        </Link>
        <span className="font-serif text-[17px] font-semibold">Apple Tick</span>
        <span className="text-ink-2">Guide</span>
      </header>
      <div className="grid grid-cols-[270px_minmax(0,1fr)] min-h-0">
        <nav aria-label="Pages of the guide" className="bg-card border-r border-line overflow-auto p-3">
          <input
            className="field w-full mb-2"
            aria-label="Search the guide"
            placeholder="door, mask, random …"
            value={wanted}
            onChange={(e) => setWanted(e.target.value)}
          />
          {found.map((p) => (
            <Link
              key={p.id}
              to={`/guide/${p.id}`}
              aria-current={p === page ? 'page' : undefined}
              className={`block px-2 py-1 rounded-[5px] hover:bg-chosen ${p === page ? 'bg-chosen font-semibold' : ''}`}
            >
              {p.title}
            </Link>
          ))}
          {found.length === 0 && (
            <p role="status" className="text-ink-2 px-2">
              Nothing found for “{wanted}”.
            </p>
          )}
        </nav>
        <main className="overflow-auto px-9 py-6" key={page.id}>
          <h1 className="text-[23px] mb-3">{page.title}</h1>
          <div className="grid grid-cols-[repeat(auto-fit,minmax(280px,1fr))] gap-8 max-w-[1080px]">
            <div className="space-y-3 text-[14px] leading-[1.6] max-w-[56ch]">
              {page.text.map((say) => (
                <p key={say}>
                  <Told say={say} />
                </p>
              ))}
              {next && (
                <p className="pt-2">
                  <Link className="underline" to={`/guide/${next.id}`}>
                    Next: {next.title}
                  </Link>
                </p>
              )}
            </div>
            <Shown page={page} />
          </div>
        </main>
      </div>
    </div>
  );
}

/** The piece of a page, running, and the way into it. */
function Shown({ page }: { page: Page }) {
  const go = useNavigate();
  const [refused, setRefused] = useState('');
  const starters = useStarters();
  const starter = starters.data?.starters.find((x) => x.key === page.starter);
  const piece = useQuery({
    queryKey: ['starter', page.starter],
    staleTime: Number.POSITIVE_INFINITY,
    enabled: starter !== undefined,
    queryFn: () => readStarter(starter?.piece),
  });
  const tryIt = async () => {
    try {
      const id = starter && (await takeStarter(starter));
      if (id) await go(`/piece/${id}?walk=${page.starter}&choose=${encodeURIComponent(page.choose)}`);
    } catch (e) {
      setRefused(whyNotKept(e));
    }
  };
  if (starters.isError)
    return <p className="text-apple">The piece could not be fetched: is the server still running?</p>;
  if (!piece.data) return <p className="text-ink-2">Opening…</p>;
  const { data } = piece;
  return (
    <div>
      <Suspense fallback={<p className="text-ink-2">Opening…</p>}>
        <LivePiece piece={data} label={`${data.name}, running`} />
      </Suspense>
      <p className="flex items-center gap-3 mt-2">
        <button type="button" className="btn btn-ink" onClick={() => void tryIt()}>
          Try it
        </button>
        <span className="text-ink-2">opens {data.name} as a piece of your own</span>
      </p>
      {refused !== '' && (
        <p role="alert" className="text-apple">
          {refused}
        </p>
      )}
    </div>
  );
}
