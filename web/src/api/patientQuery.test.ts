import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { patientQuery } from './patientQuery.ts';

const busy = () => Response.json({ code: 'BUSY' }, { status: 503 });
const sent: (string | null)[] = [];

beforeEach(() => {
  vi.useFakeTimers();
  sent.length = 0;
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

/** Answers one after the other, the last one for ever. */
function answerWith(...answers: (() => Response)[]): void {
  vi.stubGlobal('fetch', async (request: Request) => {
    sent.push(request.headers.get('idempotency-key'));
    return (answers[sent.length - 1] ?? answers.at(-1) ?? busy)();
  });
}

async function ask() {
  const api = { signal: new AbortController().signal, getState: () => ({}) };
  const args = {
    url: 'http://localhost/api/books',
    method: 'POST',
    headers: { 'idempotency-key': 'k' },
  };
  const asked = patientQuery(args, api as never, {});
  await vi.runAllTimersAsync();
  return asked;
}

it('a busy server is asked again, with the same key', async () => {
  answerWith(busy, busy, () => Response.json({ id: 'new' }));
  expect(await ask()).toMatchObject({ data: { id: 'new' } });
  expect(sent).toEqual(['k', 'k', 'k']);
});

it('after some tries it is told that the server is busy', async () => {
  answerWith(busy);
  expect(await ask()).toMatchObject({ error: { status: 503, data: { code: 'BUSY' } } });
  expect(sent).toHaveLength(5);
});

it('what was refused for another reason is not sent again', async () => {
  answerWith(() => Response.json({ code: 'LINE_UNKNOWN' }, { status: 404 }));
  expect(await ask()).toMatchObject({ error: { status: 404 } });
  expect(sent).toHaveLength(1);
});
