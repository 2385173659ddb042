import type { ServerResponse } from 'node:http';
import { PassThrough } from 'node:stream';
import { sql } from 'drizzle-orm';
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import { stepChannel } from '../modules/steps/announce.ts';
import { closeDatabases, type Services } from '../services.ts';
import { makeTestDatabase } from '../testing/harness.ts';
import type { TestDatabase } from '../testing/testServer.ts';
import { openStepEvents, type StepEvents } from './stepEvents.ts';

let made: TestDatabase;
let services: Services;
let events: StepEvents;
const ended = new Set<string>();

beforeAll(async () => {
  made = await makeTestDatabase();
  services = made.services;
});
afterEach(async () => {
  await events.close();
  ended.clear();
});
afterAll(async () => {
  await closeDatabases(services);
  await made.drop();
});

const open = async (beat?: number) => {
  const isOpen = async (ids: readonly string[]) => new Set(ids.filter((id) => !ended.has(id)));
  events = await openStepEvents(services.background, isOpen, beat);
};

/** A browser that listens to books. @returns what it got so far, and whether its stream has ended */
function listen(booksId: string, userId: string, session = userId) {
  const stream = new PassThrough();
  const heard = { text: '', hasEnded: false, close: () => stream.destroy() };
  stream.on('data', (bytes: Buffer) => {
    heard.text += bytes.toString();
  });
  stream.on('end', () => {
    heard.hasEnded = true;
  });
  events.checkRoom(userId);
  events.add(booksId, { stream: stream as unknown as ServerResponse, userId, session });
  return heard;
}

describe('streams of steps', () => {
  it('tell of the steps of their books, and of no others', async () => {
    await open();
    const ours = listen('books', 'mo');
    const others = listen('others', 'mo');
    // What is no event of ours does not trouble anybody.
    for (const nonsense of ['', 'books:7', '{"booksId":"books"}']) {
      await services.database.execute(sql`select pg_notify(${stepChannel}, ${nonsense})`);
    }
    await services.database.execute(
      sql`select pg_notify(${stepChannel}, ${JSON.stringify({ booksId: 'books', step: 7, touched: ['line'], by: null })})`,
    );
    await vi.waitFor(() => expect(ours.text).toContain('id: 7\nevent: step\ndata: {"step":7'));
    expect(others.text).toBe('');
  });

  it('are thirty at most for one person, whoever else listens', async () => {
    await open();
    const own = Array.from({ length: 30 }, () => listen('books', 'mo'));
    expect(() => listen('others', 'mo')).toThrow('in too many windows');
    listen('books', 'ina');
    own[0]?.close();
    await vi.waitFor(() => listen('books', 'mo'));
  });

  it('end with their session, and the others go on', async () => {
    await open(20);
    const mo = listen('books', 'mo', 'session of mo');
    const ina = listen('books', 'ina', 'session of ina');
    ended.add('session of mo');
    await vi.waitFor(() => expect(mo.hasEnded).toBe(true));
    await vi.waitFor(() => expect(ina.text).toContain('still here'));
    expect(ina.hasEnded).toBe(false);
  });
});
