import type { ServerResponse } from 'node:http';
import type { StepEvent } from '@zubrell/contract/events';
import { fail } from '@zubrell/core/errors';
import type { BooksId, UserId } from '@zubrell/core/ids';
import type pg from 'pg';
import type { Database } from '../db/database.ts';
import { announcedIn, stepChannel } from '../modules/steps/announce.ts';

/** Tells open browsers of new steps, also those made by other server processes. */
export interface StepEvents {
  /** @throws {ZubrellError} STREAMS_TOO_MANY where a user has too many streams open */
  checkRoom(userId: UserId): void;
  /** Adds a browser's stream for these books until it closes. */
  add(booksId: BooksId, opened: OpenStream): void;
  close(): Promise<void>;
}

/** A browser's stream, with whose it is. */
export interface OpenStream {
  readonly stream: ServerResponse;
  readonly userId: UserId;
  /** The id of the session with which the stream ends. */
  readonly session: string;
}

/** So many windows of one user listen at once. */
const MOST_OF_USER = 30;

/** Proxies close streams that are silent for long. */
const HEARTBEAT = 20_000;
const RECONNECT = 1_000;

/**
 * Listens to the database for steps and passes on what they touched.
 *
 * @param isOpen which of some sessions have not ended
 * @param beat how often that is asked, and streams are told that it goes on, in milliseconds
 */
export async function openStepEvents(
  database: Database,
  isOpen: (sessions: readonly string[]) => Promise<ReadonlySet<string>>,
  beat = HEARTBEAT,
): Promise<StepEvents> {
  const streams = new Map<string, Set<OpenStream>>();
  const all = (): OpenStream[] => [...streams.values()].flatMap((ofBooks) => [...ofBooks]);
  let client: pg.PoolClient | null = null;
  let isClosed = false;

  async function listen(): Promise<void> {
    client = await database.$client.connect();
    client.on('notification', ({ payload }) => {
      const announced = announcedIn(payload);
      if (announced === null) return;
      const { booksId, ...event } = announced;
      for (const { stream } of streams.get(booksId) ?? []) writeStep(stream, event);
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
    for (const { stream } of all()) stream.end();
    setTimeout(() => {
      if (!isClosed) listen().catch(retry);
    }, RECONNECT);
  }

  /** A stream ends with its session. */
  async function endClosed(): Promise<void> {
    const listening = all();
    if (listening.length === 0) return;
    const open = await isOpen([...new Set(listening.map(({ session }) => session))]);
    for (const { session, stream } of listening) if (!open.has(session)) stream.end();
  }

  await listen().catch(retry);
  const heartbeat = setInterval(() => {
    endClosed().catch(() => undefined);
    for (const { stream } of all()) stream.write(': still here\n\n');
  }, beat);

  return {
    checkRoom: (userId) => {
      const own = all().filter((each) => each.userId === userId);
      if (own.length >= MOST_OF_USER) fail('STREAMS_TOO_MANY');
    },
    add: (booksId, opened) => {
      const ofBooks = streams.get(booksId) ?? new Set();
      streams.set(booksId, ofBooks.add(opened));
      opened.stream.on('close', () => {
        ofBooks.delete(opened);
        if (ofBooks.size === 0) streams.delete(booksId);
      });
    },
    close: async () => {
      isClosed = true;
      clearInterval(heartbeat);
      for (const { stream } of all()) stream.end();
      client?.release(true);
    },
  };
}

/** Writes what was done as a server-sent event, by the number of its step. */
export function writeStep(stream: ServerResponse, event: StepEvent): void {
  stream.write(`id: ${event.step}\nevent: step\ndata: ${JSON.stringify(event)}\n\n`);
}
