import { randomUUID } from 'node:crypto';
import { setTimeout as pause } from 'node:timers/promises';
import { machineClock } from '@zubrell/server/clock';
import type { Database } from '@zubrell/server/db/database';
import { createUser, openSession, sessionCookie } from '@zubrell/server/modules/session/sessions';

/** How often a browser asks again where the server is busy. */
const TRIES = 5;

/** What a client saw of the server. */
export interface Seen {
  readonly times: number[];
  readonly errors: string[];
  /** What was refused with words: somebody else was first, or there was nothing to undo. */
  readonly refused: string[];
  busy: number;
}

/** Makes so many users. @returns the cookies of their sessions */
export async function signedIn(runtime: Database, count: number): Promise<string[]> {
  const cookies: string[] = [];
  for (let no = 0; no < count; no += 1) {
    const person = {
      name: `Client ${no}`,
      email: `${no}@larkmoor.example`,
      password: 'long enough',
    };
    const user = await createUser(runtime, { clock: machineClock }, person);
    const session = await openSession(runtime, { clock: machineClock }, user.id);
    cookies.push(`${sessionCookie}=${session}`);
  }
  return cookies;
}

export type Speak = ReturnType<typeof speakTo>;

/** Sends requests as a browser does, and notes how long they took and what went wrong. */
export function speakTo(url: string, cookie: string, seen: Seen) {
  async function ask<T>(path: string, init: RequestInit): Promise<T | null> {
    const begun = performance.now();
    for (let tries = 1; ; tries += 1) {
      const headers = { cookie, ...init.headers };
      const answer = await fetch(`${url}${path}`, { ...init, headers });
      if (answer.status === 503 && tries < TRIES) {
        seen.busy += 1;
        await pause(1_000 * Number(answer.headers.get('retry-after') ?? 1));
        continue;
      }
      const body: unknown = await answer.json();
      seen.times.push(performance.now() - begun);
      if (answer.status >= 500)
        seen.errors.push(`${init.method ?? 'GET'} ${path}: ${answer.status}`);
      else if (!answer.ok)
        seen.refused.push(`${answer.status} ${JSON.stringify(body).slice(0, 160)}`);
      return answer.ok ? (body as T) : null;
    }
  }
  return {
    get: <T>(path: string) => ask<T>(path, {}),
    post: <T>(path: string, body: object) =>
      ask<T>(path, {
        method: 'POST',
        body: JSON.stringify(body),
        headers: { 'content-type': 'application/json', 'idempotency-key': randomUUID() },
      }),
    upload: <T>(path: string, body: string) =>
      ask<T>(path, {
        method: 'POST',
        body,
        headers: { 'content-type': 'application/octet-stream' },
      }),
  };
}
