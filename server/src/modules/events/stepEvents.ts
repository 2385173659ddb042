import type { ServerResponse } from 'node:http';
import type pg from 'pg';
import type { Database } from '../../db/database.ts';
import { stepChannel } from '../steps/recordStep.ts';

/** Tells open browsers of new steps, also those made by other server processes. */
export interface StepEvents {
  /** Adds a browser's stream for these books until it closes. */
  add(booksId: string, stream: ServerResponse): void;
  close(): Promise<void>;
}

/** Proxies close streams that are silent for long. */
const HEARTBEAT = 20_000;
const RECONNECT = 1_000;

/** Listens to the database for steps and passes their numbers on. */
export async function openStepEvents(database: Database): Promise<StepEvents> {
  const streams = new Map<string, Set<ServerResponse>>();
  let client: pg.PoolClient | null = null;
  let isClosed = false;

  async function listen(): Promise<void> {
    client = await database.$client.connect();
    client.on('notification', ({ payload }) => {
      const [booksId = '', no = ''] = payload?.split(':') ?? [];
      for (const stream of streams.get(booksId) ?? []) writeStep(stream, Number(no));
    });
    client.on('error', () => {
      client?.release(true);
      client = null;
      retry();
    });
    await client.query(`listen ${stepChannel}`);
  }

  /** After a break browsers can't know what they missed, so their streams end and they reconnect. */
  function retry(): void {
    if (isClosed) return;
    for (const ofBooks of streams.values()) for (const stream of ofBooks) stream.end();
    setTimeout(() => {
      if (!isClosed) listen().catch(retry);
    }, RECONNECT);
  }

  await listen();
  const heartbeat = setInterval(() => {
    for (const ofBooks of streams.values()) {
      for (const stream of ofBooks) stream.write(': still here\n\n');
    }
  }, HEARTBEAT);

  return {
    add: (booksId, stream) => {
      const ofBooks = streams.get(booksId) ?? new Set();
      streams.set(booksId, ofBooks.add(stream));
      stream.on('close', () => {
        ofBooks.delete(stream);
        if (ofBooks.size === 0) streams.delete(booksId);
      });
    },
    close: async () => {
      isClosed = true;
      clearInterval(heartbeat);
      for (const ofBooks of streams.values()) for (const stream of ofBooks) stream.end();
      client?.release(true);
    },
  };
}

/** Writes one step's number as a server-sent event. */
export function writeStep(stream: ServerResponse, no: number): void {
  stream.write(`id: ${no}\nevent: step\ndata: ${no}\n\n`);
}
