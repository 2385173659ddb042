import { type ErrorCode, errors } from '@zubrell/core/errors';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { LRUCache } from 'lru-cache';
import { userByEmail } from '../modules/session/sessions.ts';
import type { Services } from '../services.ts';
import { namedBooks } from './access.ts';
import { requestError } from './problems.ts';
import { recordRequest } from './recordRequest.ts';

/** Refusals that are no 403: of secrets that were wrong, and of books that somebody has no part in. */
const ALSO: ReadonlySet<ErrorCode> = new Set([
  'SIGN_IN_WRONG',
  'SIGN_IN_TOO_OFTEN',
  'SECOND_FACTOR_WRONG',
  'PASSKEY_WRONG',
  'INVITATION_UNKNOWN',
  'RESET_UNKNOWN',
  'BOOKS_UNKNOWN',
]);

/** So many refusals of one kind and address are on record one by one in a minute; the next says how many more there were. */
const ONE_BY_ONE = 20;
const WINDOW = 60_000;
/** So many addresses are counted at once. */
const MOST_COUNTED = 10_000;

/** Counts what is to be recorded, so that nobody fills the record. */
export class Sluice {
  readonly #counts = new LRUCache<string, { from: number; passed: number; held: number }>({
    max: MOST_COUNTED,
  });

  /** @returns how many were held back since the last one that passed; null where this one is held back too */
  pass(key: string, now: number): number | null {
    const count = this.#counts.get(key);
    if (!count || now - count.from >= WINDOW) {
      this.#counts.set(key, { from: now, passed: 1, held: 0 });
      return count?.held ?? 0;
    }
    if (count.passed < ONE_BY_ONE) {
      count.passed += 1;
      return 0;
    }
    count.held += 1;
    return null;
  }
}

/** Puts every refusal on record: who or from where, of what, and why. */
export function recordRefusals(app: FastifyInstance, services: Services): void {
  const sluice = new Sluice();
  app.addHook('onError', async (request, _reply, error) => {
    const code = requestError(error)?.code;
    if (code === undefined || (errors[code][0] !== 403 && !ALSO.has(code))) return;
    const more = sluice.pass(`${request.ip} ${code}`, Date.now());
    if (more === null) return;
    // What can't be written down is refused all the same.
    await record(services, request, code, more).catch(() => undefined);
  });
}

async function record(
  { background }: Services,
  request: FastifyRequest,
  code: ErrorCode,
  more: number,
): Promise<void> {
  const { email } = (request.body ?? {}) as { email?: unknown };
  const tried = typeof email === 'string' ? await userByEmail(background, email) : null;
  await recordRequest(background, request, {
    kind: 'refused',
    booksId: namedBooks(request),
    subjectId: tried?.id ?? null,
    details: {
      code,
      route: `${request.method} ${request.routeOptions.url ?? ''}`,
      ...(more > 0 ? { more } : {}),
    },
  });
}
