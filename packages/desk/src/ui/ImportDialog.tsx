import { type Problem, problemLine, type Result } from '@apple-tick/core/base';
import { type Remote, wrap } from 'comlink';
import { Dialog } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import { DialogBox } from './DialogBox.tsx';
import type { Reader, ReadJob } from './import-worker.ts';

/** Reads a chosen file in a worker; hands over what it holds, or shows what is wrong with it and changes nothing. */
export function ImportDialog<T, U = T>(props: {
  job: ReadJob | null;
  /** What only the page can find out about what was read, or is wrong with it. */
  check?: (value: T, worker: Remote<Reader>) => Promise<Result<U>>;
  /** Takes what was read; a sentence when it cannot be taken. */
  onDone: (value: U) => Promise<string | null>;
  onClose: () => void;
  /** How many files are read after this one. */
  more?: number;
  /** Nothing is shown: what is wrong is told here, in a sentence. */
  onRefused?: ((words: string) => void) | undefined;
}) {
  const { job, onClose } = props;
  // What is done with a file may change while it is read, which does not begin anew.
  const latest = useRef(props);
  latest.current = props;
  const file = job?.file ?? null;
  const [problems, setProblems] = useState<readonly Problem[] | null>(null);
  useEffect(() => {
    setProblems(null);
    if (!job) return;
    const worker = new Worker(new URL('./import-worker.ts', import.meta.url), { type: 'module' });
    let left = false;
    const take = async () => {
      // What a job is read as is what its asker takes.
      const reader = wrap<Reader>(worker);
      const found = (await reader.read(job)) as Result<T>;
      const { check } = latest.current;
      const read = (found.ok && check ? await check(found.value, reader) : found) as Result<U>;
      if (left) return;
      const refused = read.ok ? await latest.current.onDone(read.value) : null;
      if (left) return;
      if (!read.ok) tell(read.problems);
      else if (refused !== null) tell([{ code: 'keep', path: '', message: refused }]);
    };
    const tell = (all: readonly Problem[]) => {
      const { onRefused } = latest.current;
      if (onRefused) onRefused(all[0] ? problemLine(all[0]) : '');
      else setProblems(all);
    };
    const failed = () => left || tell([{ code: 'read', path: '', message: 'The file could not be read.' }]);
    // One that does not even start answers nothing.
    worker.onerror = failed;
    take().catch(failed);
    return () => {
      left = true;
      worker.terminate();
    };
  }, [job]);
  return (
    <DialogBox
      open={file !== null && !props.onRefused}
      title={
        problems
          ? `${file?.name} cannot be opened`
          : `Reading ${file?.name}${props.more ? `, ${props.more} more after it` : ''}…`
      }
      className="top-1/4 w-[520px]"
      onClose={onClose}
    >
      {problems ? (
        <>
          <p className="mb-2 text-ink-2">Nothing was changed. What is wrong with the file:</p>
          <ul className="max-h-60 overflow-auto num text-[11.5px] space-y-1" aria-label="Problems">
            {problems.map((p) => (
              <li key={p.path + p.message}>{problemLine(p)}</li>
            ))}
          </ul>
        </>
      ) : (
        <>
          {file && <Preview file={file} />}
          <progress className="w-full accent-[var(--brass)]" aria-label="Reading" />
        </>
      )}
      <div className="mt-4 text-right">
        <Dialog.Close className="btn">{problems ? 'Close' : 'Cancel'}</Dialog.Close>
      </div>
    </DialogBox>
  );
}

/** A picture as the browser shows it while it is read: a large one takes a moment. */
function Preview({ file }: { file: File }) {
  const [address, setAddress] = useState<string | null>(null);
  useEffect(() => {
    if (!/^image\/(?!svg)/.test(file.type)) return;
    const made = URL.createObjectURL(file);
    setAddress(made);
    return () => {
      setAddress(null);
      URL.revokeObjectURL(made);
    };
  }, [file]);
  if (address === null) return null;
  return <img src={address} alt={`What ${file.name} shows`} className="w-full h-60 object-contain mb-3" />;
}
