import { ZubrellError } from '@zubrell/core/errors';
import type { BankFile } from '@zubrell/core/formats/bankFile';
import type { ReadAnswer, ReadRequest } from './readFile.worker.ts';

/** A file read in the browser, and how long that took. */
export interface FileReading {
  readonly file: BankFile;
  readonly milliseconds: number;
}

/**
 * Reads a bank file in a web worker, so that the page stays quick. Aborting ends the worker.
 *
 * @throws {ZubrellError} where it is no bank file
 */
export async function readInWorker(
  source: File,
  currency: string,
  signal: AbortSignal,
): Promise<FileReading> {
  const bytes = await source.arrayBuffer();
  const worker = new Worker(new URL('./readFile.worker.ts', import.meta.url), { type: 'module' });
  signal.addEventListener('abort', () => worker.terminate());
  try {
    const answer = await new Promise<ReadAnswer>((done, failed) => {
      worker.onmessage = ({ data }: MessageEvent<ReadAnswer>) => done(data);
      worker.onerror = ({ message }) => failed(new Error(message));
      const request: ReadRequest = { bytes, currency };
      worker.postMessage(request, [bytes]);
    });
    if ('error' in answer) throw new ZubrellError(answer.error.code, answer.error.params);
    return answer;
  } finally {
    worker.terminate();
  }
}
