import { ZubrellError } from '@zubrell/core/errors';
import type { BankFile } from '@zubrell/core/formats/bankFile';
import { Piscina } from 'piscina';
import type { ReadFile } from './keepBatch.ts';
import type { ReadAnswer } from './readWorker.ts';

/** A pool of threads that read bank files. */
export interface ReaderPool {
  readonly readFile: ReadFile;
  close(): Promise<void>;
}

/** Starts the pool; threads come up when they are first needed. */
export function openReaderPool(): ReaderPool {
  const pool = new Piscina({
    filename: new URL('./readThread.mjs', import.meta.url).href,
    minThreads: 0,
    maxThreads: 2,
    idleTimeout: 60_000,
  });
  return {
    readFile: async (bytes, currency): Promise<BankFile> => {
      const answer: ReadAnswer = await pool.run({ bytes, currency }, { name: 'readInWorker' });
      // Errors lose their class between threads, so they cross as data.
      if ('error' in answer) throw new ZubrellError(answer.error.code, answer.error.params);
      return answer.file;
    },
    close: () => pool.destroy(),
  };
}
