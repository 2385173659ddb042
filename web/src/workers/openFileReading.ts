import { ZubrellError } from '@zubrell/core/errors';
import { type Remote, transferHandlers, wrap } from 'comlink';
import { errorHandler } from './errorHandler.ts';
import type { FileReading } from './fileReading.ts';

transferHandlers.set('throw', errorHandler(ZubrellError));

/** A file held by a worker. */
export interface OpenReading {
  readonly reading: Remote<FileReading>;
  /** Ends the worker, also in the middle of its work. */
  close(): void;
}

/** Starts a worker that reads a bank file and holds its lines. */
export function openFileReading(): OpenReading {
  const worker = new Worker(new URL('./fileReading.worker.ts', import.meta.url), {
    type: 'module',
  });
  return { reading: wrap<FileReading>(worker), close: () => worker.terminate() };
}
