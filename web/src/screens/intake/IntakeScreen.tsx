import { ZubrellError } from '@zubrell/core/errors';
import { useRef, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { useBooks } from '../../app/useBooks.ts';
import { type FileReading, readInWorker } from '../../workers/readInWorker.ts';
import { Batches } from './Batches.tsx';
import './intake.scss';
import { Preview } from './Preview.tsx';

/** What is on the screen: nothing chosen, a file being read, read, or not readable. */
type State =
  | { readonly kind: 'idle' }
  | { readonly kind: 'reading'; readonly source: File }
  | { readonly kind: 'read'; readonly source: File; readonly reading: FileReading }
  | { readonly kind: 'failed'; readonly source: File; readonly message: string };

/** Files come in here: dropped, shown as they will come in, kept with one press. */
export function IntakeScreen() {
  const { setup } = useBooks();
  const [state, setState] = useState<State>({ kind: 'idle' });
  const reading = useRef<AbortController | null>(null);

  async function read(source: File | undefined): Promise<void> {
    if (source === undefined) return;
    reading.current?.abort();
    const own = new AbortController();
    reading.current = own;
    setState({ kind: 'reading', source });
    try {
      const done = await readInWorker(source, setup.books.currency, own.signal);
      if (!own.signal.aborted) setState({ kind: 'read', source, reading: done });
    } catch (error) {
      if (own.signal.aborted) return;
      const message =
        error instanceof ZubrellError
          ? error.message
          : 'The file can’t be opened. Choose it again.';
      setState({ kind: 'failed', source, message });
    }
  }

  function leave(): void {
    reading.current?.abort();
    setState({ kind: 'idle' });
  }

  const { getRootProps, getInputProps, open, isDragActive } = useDropzone({
    multiple: false,
    noClick: true,
    noKeyboard: true,
    onDrop: ([file]) => void read(file),
  });

  if (state.kind === 'read') {
    return <Preview source={state.source} reading={state.reading} onLeave={leave} />;
  }
  return (
    <main {...getRootProps({ className: 'page intake' })}>
      <section className={`drop sheet ${isDragActive ? 'over' : ''}`}>
        <input {...getInputProps({ 'aria-label': 'Bank file' })} />
        <h1>Drop a bank file here</h1>
        <p className="quiet">
          OFX, camt, MT940, QIF, or CSV with a heading row. It is read here first; nothing is kept
          until you say so.
        </p>
        {state.kind === 'reading' ? (
          <p role="status">
            Reading {state.source.name} …{' '}
            <button type="button" className="btn btn-plain" onClick={leave}>
              Stop
            </button>
          </p>
        ) : (
          <button type="button" className="btn btn-main" onClick={open}>
            Choose a file
          </button>
        )}
        {state.kind === 'failed' && (
          <p className="error-note" role="alert">
            {state.source.name}: {state.message} Nothing was kept.
          </p>
        )}
      </section>
      <Batches />
    </main>
  );
}
