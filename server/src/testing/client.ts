import type { BooksSetup } from '@zubrell/contract/books';
import type { ProblemDetails } from '@zubrell/contract/common';
import type { BatchSheet, KeepBatch } from '@zubrell/contract/intake';
import type { BankAccountId, BatchId, BooksId, UserId } from '@zubrell/core/ids';
import type { Api } from '../http/api.ts';
import { sessionCookie } from '../modules/session/sessions.ts';

/** A signed-in user's view of the API. */
export interface Client {
  readonly userId: UserId;
  /** The secret of the session. */
  readonly session: string;
  /** The session's cookie as a header has it. */
  readonly cookie: string;
  /** @throws {Problem} where the answer is an error */
  get<T>(path: string): Promise<T>;
  send<T>(method: 'POST' | 'PUT' | 'PATCH', path: string, body?: object, key?: string): Promise<T>;
  upload(booksId: BooksId, fileName: string, bytes: string | Buffer): Promise<string>;
}

/** An error answer. */
export class Problem extends Error {
  readonly details: ProblemDetails;

  constructor(details: ProblemDetails) {
    super(`${details.code}: ${details.title}`);
    this.details = details;
  }
}

/** Speaks to the API in the name of a user. */
export function clientOf(app: Api, userId: UserId, session: string): Client {
  async function call<T>(
    method: 'GET' | 'POST' | 'PUT' | 'PATCH',
    url: string,
    payload?: object,
    headers: Record<string, string> = {},
  ): Promise<T> {
    const answer = await app.inject({
      method,
      url,
      ...(payload === undefined ? {} : { payload }),
      cookies: { [sessionCookie]: session },
      headers,
    });
    if (answer.statusCode >= 400) throw new Problem(answer.json());
    return answer.json();
  }
  return {
    userId,
    session,
    cookie: `${sessionCookie}=${session}`,
    get: (path) => call('GET', path),
    send: (method, path, body, key) =>
      call(method, path, body ?? {}, key === undefined ? {} : { 'idempotency-key': key }),
    upload: async (booksId, fileName, bytes) => {
      const { uploadId } = await call<{ uploadId: string }>(
        'POST',
        `/api/books/${booksId}/uploads?fileName=${encodeURIComponent(fileName)}`,
        Buffer.from(bytes),
        { 'content-type': 'application/octet-stream' },
      );
      return uploadId;
    },
  };
}

/** How a file is kept whose balances and dates are as they should be. */
export const plainKeep = {
  acceptRefused: false,
  confirmNumber: false,
  confirmBalance: true,
  confirmDates: true,
  withOpening: true,
  choices: null,
} as const;

/** Books with one current account, and short ways to use them. */
export interface TestBooks {
  readonly id: string;
  readonly bankAccountId: BankAccountId;
  setup(): Promise<BooksSetup>;
  /** The newest step of the books. */
  lastStep(): Promise<number>;
  accountId(code: string): Promise<string>;
  taxCodeId(name: string): Promise<string>;
  /** Keeps a file and waits until it is kept or refused. */
  keep(
    fileName: string,
    content: string | Buffer,
    options?: Partial<KeepBatch>,
  ): Promise<BatchSheet>;
}

/** Makes books with one current account. */
export async function makeBooks(client: Client, currency = 'EUR'): Promise<TestBooks> {
  const { id } = await client.send<{ id: string }>('POST', '/api/books', {
    name: 'Larkmoor Kiln Works',
    currency,
  });
  const path = `/api/books/${id}`;
  const { id: bankAccountId } = await client.send<{ id: string }>('POST', `${path}/bank-accounts`, {
    name: 'Everyday',
    kind: 'current',
    bank: 'Wick & Alder',
    number: '4471',
  });
  const setup = () => client.get<BooksSetup>(`${path}/setup`);
  return {
    id,
    bankAccountId,
    setup,
    lastStep: async () =>
      (await client.get<{ seenStep: number }>(`/api/books/${id}/rules`)).seenStep,
    accountId: async (code) =>
      (await setup()).accounts.find((account) => account.code === code)?.id ?? '',
    taxCodeId: async (name) =>
      (await setup()).taxCodes.find((taxCode) => taxCode.name === name)?.id ?? '',
    keep: async (fileName, content, options = {}) => {
      const uploadId = await client.upload(id, fileName, content);
      const { batchId } = await client.send<{ batchId: BatchId }>('POST', `${path}/batches`, {
        uploadId,
        statementIndex: 0,
        bankAccountId,
        ...plainKeep,
        ...options,
      });
      for (;;) {
        const batch = await client.get<BatchSheet>(`${path}/batches/${batchId}`);
        if (batch.status !== 'reading') return batch;
        await new Promise((done) => setTimeout(done, 20));
      }
    },
  };
}
