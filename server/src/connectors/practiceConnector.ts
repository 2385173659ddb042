import { fail } from '@zubrell/core/errors';
import { z } from 'zod';
import type { BankConnector } from './connector.ts';

/** How long a bank may take to answer, in milliseconds. */
const PATIENCE = 20_000;

const Asked = z.object({ page: z.string() });
const Token = z.object({ token: z.string(), expires: z.iso.date() });
const Accounts = z.object({
  accounts: z.array(z.object({ id: z.string(), name: z.string(), number: z.string().nullable() })),
});

/**
 * Speaks to the practice bank.
 *
 * @param base its address
 * @param patience how long it may take to answer, in milliseconds
 */
export function practiceConnector(
  base: string,
  bankName: string,
  patience = PATIENCE,
): BankConnector {
  async function call(path: string, init: RequestInit = {}): Promise<Response> {
    let response: Response;
    try {
      response = await fetch(new URL(path, base), {
        ...init,
        signal: AbortSignal.timeout(patience),
      });
    } catch {
      return fail('FEED_BANK_DOWN', { bank: bankName });
    }
    if (response.ok) return response;
    await response.body?.cancel();
    switch (response.status) {
      case 401:
        return fail('FEED_CONSENT_EXPIRED', { bank: bankName });
      case 404:
        return fail('FEED_ACCOUNT_GONE', { bank: bankName, name: 'this account' });
      case 429: {
        const seconds = Number(response.headers.get('retry-after')) || 600;
        return fail('FEED_TOO_MANY', { bank: bankName, minutes: Math.ceil(seconds / 60) });
      }
      case 400:
        return fail('FEED_REFUSED', { bank: bankName });
      default:
        return fail('FEED_BANK_DOWN', { bank: bankName });
    }
  }

  async function answerOf<T>(schema: z.ZodType<T>, response: Response): Promise<T> {
    const parsed = schema.safeParse(await response.json().catch(() => null));
    if (parsed.success) return parsed.data;
    return fail('FEED_GARBAGE', { bank: bankName, detail: 'its answer can’t be read' });
  }

  const posting = (body: object): RequestInit => ({
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  const showing = (token: string): RequestInit => ({
    headers: { authorization: `Bearer ${token}` },
  });

  return {
    bankName,
    async askConsent(state, returnTo) {
      const wanted = { app: 'Zubrell', state, returnTo };
      const { page } = await answerOf(Asked, await call('/api/consents', posting(wanted)));
      return { page: new URL(page, base).href, name: null };
    },
    finishConsent: async (code) => answerOf(Token, await call('/api/tokens', posting({ code }))),
    async accounts(token) {
      return (await answerOf(Accounts, await call('/api/accounts', showing(token)))).accounts;
    },
    async fetchLines(token, accountId, from, to) {
      const path = `/api/accounts/${encodeURIComponent(accountId)}/lines?from=${from}&to=${to}`;
      const response = await call(path, showing(token));
      const callsLeft = response.headers.get('x-calls-left');
      return {
        bytes: bytesOf(response, bankName),
        callsLeft: callsLeft === null ? null : Number(callsLeft),
      };
    },
  };
}

/** The body piece by piece. An answer that breaks off is no answer. */
async function* bytesOf(response: Response, bank: string): AsyncGenerator<Uint8Array> {
  const reader = response.body?.getReader();
  for (;;) {
    const piece = await reader?.read().catch(() => fail('FEED_BANK_DOWN', { bank }));
    if (!piece || piece.done) return;
    yield piece.value;
  }
}
