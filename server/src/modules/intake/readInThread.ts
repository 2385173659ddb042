import { once } from 'node:events';
import { join } from 'node:path';
import { MessageChannel } from 'node:worker_threads';
import { ZubrellError } from '@zubrell/core/errors';
import type { ReadOptions } from '@zubrell/core/formats/readBankFile';
import { Piscina } from 'piscina';
import { builtFolder } from '../../projectFolder.ts';
import type { ReadAnswer, ReadFacts, ReadReply, ReadTask } from './readWorker.ts';

/** What is wanted of a file. */
export type WantedOfFile = ReadOptions & { readonly statementIndex: number };

/**
 * Reads a bank file off the main thread while it comes in.
 *
 * @param pieces the file's bytes
 * @param takeRows gets the booked lines as rows for COPY; the next piece is read when it is done
 * @throws {ZubrellError} where it is no bank file
 */
export type ReadFile = (
  pieces: AsyncIterable<Uint8Array>,
  wanted: WantedOfFile,
  takeRows: (rows: Uint8Array) => Promise<void>,
) => Promise<ReadFacts>;

/** A pool of threads that read bank files. */
export interface ReaderPool {
  readonly readFile: ReadFile;
  close(): Promise<void>;
}

/** Starts the pool; threads come up when they are first needed, from the built server. */
export function openReaderPool(): ReaderPool {
  const pool = new Piscina({
    filename: join(builtFolder, 'readWorker.js'),
    minThreads: 0,
    maxThreads: 2,
    idleTimeout: 60_000,
    // A file that needs more than this ends its thread, not the server.
    resourceLimits: { maxOldGenerationSizeMb: 1_024 },
  });

  const readFile: ReadFile = async (pieces, { statementIndex, ...options }, takeRows) => {
    const { port1, port2 } = new MessageChannel();
    const task: ReadTask = { port: port2, options, statementIndex };
    const answer: Promise<ReadAnswer> = pool.run(task, { transferList: [port2], name: 'readRows' });
    // A thread that dies would never reply.
    const died = answer.then(() => new Promise<never>(() => undefined));
    died.catch(() => undefined);

    async function send(piece: Uint8Array | null): Promise<boolean> {
      const reply = once(port1, 'message');
      if (piece === null) port1.postMessage(null);
      else {
        const own = piece.slice();
        port1.postMessage(own, [own.buffer as ArrayBuffer]);
      }
      const [{ rows, isOver }] = (await Promise.race([reply, died])) as [ReadReply];
      for (const each of rows) await takeRows(each);
      return isOver;
    }

    try {
      let isOver = false;
      for await (const piece of pieces) {
        isOver = await send(piece);
        if (isOver) break;
      }
      if (!isOver) await send(null);
      const done = await answer;
      if ('error' in done) throw new ZubrellError(done.error.code, done.error.params);
      return done.facts;
    } finally {
      port1.close();
    }
  };

  return { readFile, close: () => pool.destroy() };
}
