import type { Access, Endpoint } from '@zubrell/contract/endpoint';
import { allEndpoints } from '@zubrell/contract/endpoints/all';
import { type Role, roles } from '@zubrell/core/people/roles';
import { dice } from '@zubrell/core/testing/dice';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { type Client, makeBooks, type TestBooks } from '../testing/client.ts';
import { fuzzBooks } from '../testing/fuzz/fuzzBooks.ts';
import { fittingValue, type JsonSchema, type Known } from '../testing/fuzz/schemaValues.ts';
import { startHarness } from '../testing/harness.ts';
import { joinedAs } from '../testing/joinedAs.ts';
import type { Harness } from '../testing/testServer.ts';

const all = Object.entries(allEndpoints);
let harness: Harness;
let client: Client;
let books: TestBooks;
let known: Known;
beforeAll(async () => {
  harness = await startHarness();
  client = await harness.signIn('Mo Oakes');
  books = await makeBooks(client);
  known = await fuzzBooks(client, books);
});
afterAll(() => harness.stop());

/** A value that a schema takes, made of what is there. */
function fitting(schema: z.ZodType | undefined): object {
  if (schema === undefined) return {};
  const described = z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }) as JsonSchema;
  return fittingValue(described, '', known, dice(20_261_128)) as object;
}

function addressOf({ path, query }: Endpoint): string {
  const filled = path.replace(/:(\w+)/g, (_, name) => String(known[name] ?? known.anyId));
  // The first page, as no cursor is known.
  const { cursor: _cursor, ...wanted } = { cursor: '', ...fitting(query) };
  const asked = Object.entries(wanted).flatMap(([name, value]) =>
    [value].flat().map((each): [string, string] => [name, String(each)]),
  );
  return `/api${filled}?${new URLSearchParams(asked)}`;
}

async function ask(endpoint: Endpoint, cookie: string | null) {
  const { method, body } = endpoint;
  return harness.app.inject({
    method,
    url: addressOf(endpoint),
    ...(body && { payload: fitting(body) }),
    ...(cookie !== null && { headers: { cookie } }),
  });
}

describe('the endpoints of the contract', () => {
  it('are all served, and nothing else is but what is no part of the application', async () => {
    const answer = await harness.app.inject('/api/openapi.json');
    const { paths } = answer.json<{ paths: Record<string, Record<string, object>> }>();
    const served = Object.entries(paths).flatMap(([path, methods]) =>
      Object.keys(methods).map((method) => `${method.toUpperCase()} ${path}`),
    );
    const said = all.map(
      ([, { method, path }]) => `${method} /api${path.replace(/:(\w+)/g, '{$1}')}`,
    );
    const beside = ['GET /api/openapi.json'];
    expect(served.sort()).toEqual([...said, ...beside].sort());
  });

  const read = all.filter(([, { reads, answer }]) => reads && answer);
  // Which are there to be found only by a secret, or in a file, is tried elsewhere.
  const bySecret = new Set(['resetLink', 'invitation', 'readRuleFile']);

  it.each(read.filter(([name]) => !bySecret.has(name)))(
    'answer as the schema says: %s',
    async (_name, endpoint) => {
      const answer = await ask(endpoint, client.cookie);
      expect([answer.statusCode, answer.statusCode === 200 ? '' : answer.body]).toEqual([200, '']);
      expect(endpoint.answer?.safeParse(answer.json()).error).toBeUndefined();
    },
  );
});

describe('who may not use an endpoint', () => {
  const rank: Readonly<Record<Role, number>> = { client: 0, reviewer: 1, bookkeeper: 2, owner: 3 };
  const isRole = (access: Access): access is Role => access in rank;
  const members = new Map<Role, Client>();
  let stranger: Client;
  beforeAll(async () => {
    stranger = await harness.signIn('Rosa Lindqvarn');
    for (const role of roles.filter((each) => each !== 'owner')) {
      members.set(role, await joinedAs({ harness, client, books }, `A ${role}`, role));
    }
  });

  it.each(all)('is refused: %s', async (_name, endpoint) => {
    const { access } = endpoint;
    if (access === 'anyone') return;
    const nobody = await ask(endpoint, null);
    expect([nobody.statusCode, nobody.json().code]).toEqual([401, 'SIGN_IN_NEEDED']);
    if (!isRole(access)) return;
    const other = await ask(endpoint, stranger.cookie);
    expect([other.statusCode, other.json().code]).toEqual([404, 'BOOKS_UNKNOWN']);
    for (const [role, { cookie }] of members) {
      if (rank[role] >= rank[access]) continue;
      const refused = await ask(endpoint, cookie);
      expect([role, refused.statusCode, refused.json().code]).toEqual([role, 403, 'ROLE_TOO_LOW']);
    }
  });

  it('is nobody where one signs in, and where a secret is what opens', () => {
    const open = all.filter(([, { access }]) => access === 'anyone').map(([name]) => name);
    expect(open.sort()).toEqual([
      'beginPasskeySignIn',
      'invitation',
      'join',
      'makeFirstUser',
      'resetLink',
      'resetPassword',
      'session',
      'signIn',
      'signInByPasskey',
      'signInDemo',
      'signOut',
    ]);
  });

  it('is never asked for more than the owner has', () => {
    const ofBooks = all.filter(([, { path }]) => path.startsWith('/books/:booksId'));
    expect(ofBooks.length).toBeGreaterThan(100);
    expect(ofBooks.filter(([, { access }]) => !isRole(access))).toEqual([]);
  });
});
