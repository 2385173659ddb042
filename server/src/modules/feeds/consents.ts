import { randomUUID } from 'node:crypto';
import { addDays } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { BooksId } from '@zubrell/core/ids';
import { isSameAccountNumber } from '@zubrell/core/intake/isSameAccountNumber';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import type { BankConnector, GivenConsent, RemoteAccount } from '../../connectors/connector.ts';
import { type BooksTx, inBooks, rowsOf } from '../../db/database.ts';
import { IdRow } from '../../db/rows.ts';
import { consents, feeds } from '../../db/schema/feeds.ts';
import type { OpenedFrom } from '../../openedFrom.ts';
import type { Actor, Services } from '../../services.ts';
import { recordAccess } from '../audit/recordAccess.ts';
import { giveMandate } from '../session/giveMandate.ts';
import { queueFetch } from './changeFeed.ts';

/** In which books, and in whose name. */
interface InBooks {
  readonly booksId: BooksId;
  readonly actor: Actor;
}

/** Requests that nobody answered are forgotten after so many days. */
const KEPT_DAYS = 2;

/** The connector of that name. @throws {ZubrellError} BANK_UNKNOWN */
export function connectorOf({ connectors }: Services, name: string): BankConnector {
  return connectors.get(name) ?? fail('BANK_UNKNOWN');
}

/**
 * Asks a bank for a consent.
 *
 * @param returnTo the page that the bank sends the user back to
 * @returns the bank's page to sign in
 * @throws {ZubrellError} BANK_UNKNOWN, FEED_BANK_DOWN and others
 */
export async function askConsent(
  services: Services,
  { booksId, actor }: InBooks,
  name: string,
  returnTo: string,
): Promise<string> {
  const connector = connectorOf(services, name);
  const state = randomUUID();
  const { page, name: remoteName } = await connector.askConsent(state, returnTo);
  const now = services.clock.now();
  const oldest = addDays(services.clock.today(), -KEPT_DAYS);
  await inBooks(services.database, booksId, async (tx) => {
    await tx.execute(
      sql`delete from consents where books_id = ${booksId} and token is null
          and created_at < ${oldest}::date`,
    );
    await giveMandate(tx, booksId, actor);
    await tx.insert(consents).values({
      booksId,
      id: randomUUID(),
      connector: name,
      bankName: connector.bankName,
      state,
      remoteName,
      createdBy: actor.userId,
      createdAt: now,
    });
  });
  return page;
}

const FinishConsentRow = z.object({
  id: z.string(),
  connector: z.string(),
  bankName: z.string(),
  remoteName: z.string().nullable(),
});

/**
 * Takes a consent that a bank gave: its accounts become feeds. Those that were fed under an earlier
 * consent go on as they were; others are tied to the bank account with the same number. Those that feed a
 * bank account are fetched at once.
 *
 * @param code null where the customer refused
 * @param from where the consent was taken, for the record
 * @returns the feeds' ids
 * @throws {ZubrellError} CONSENT_UNKNOWN, FEED_REFUSED and others
 */
export async function finishConsent(
  services: Services,
  { booksId, actor }: InBooks,
  { state, code }: { readonly state: string; readonly code: string | null },
  from: OpenedFrom,
): Promise<string[]> {
  const { database } = services;
  const asked = await inBooks(database, booksId, async (tx) => {
    const open = sql`books_id = ${booksId} and state = ${state} and token is null`;
    const [row] = await rowsOf(
      tx,
      FinishConsentRow,
      sql`select id, connector, bank_name as "bankName", remote_name as "remoteName"
          from consents where ${open}`,
    );
    if (code === null) await tx.execute(sql`delete from consents where ${open}`);
    return row;
  });
  if (!asked) fail('CONSENT_UNKNOWN');
  if (code === null) fail('FEED_REFUSED', { bank: asked.bankName });
  const connector = connectorOf(services, asked.connector);
  const given = await connector.finishConsent(code, asked.remoteName);
  const accounts = await connector.accounts(given.token);
  return inBooks(database, booksId, async (tx) => {
    const feedIds = await takeConsent({ tx, booksId, ...services }, asked, given, accounts);
    const tied = await rowsOf(
      tx,
      IdRow,
      sql`select id from feeds where books_id = ${booksId} and bank_account_id is not null
            and id = any(${sql.param(feedIds)}::uuid[])`,
    );
    for (const { id } of tied) await queueFetch({ tx, booksId }, id, actor);
    const details = { bank: asked.bankName };
    await recordAccess(tx, actor.session, from, { kind: 'consentGiven', booksId, details });
    return feedIds;
  });
}

const TakeConsentRow = z.object({ id: z.string(), remoteId: z.string() });

const FreeRow = z.object({ id: z.string(), number: z.string().nullable() });

/** Writes a given consent with a feed for each of its accounts. */
export async function takeConsent(
  { tx, booksId, secrets }: BooksTx & Pick<Services, 'secrets'>,
  { id: consentId, connector }: { readonly id: string; readonly connector: string },
  { token, expires }: GivenConsent,
  accounts: readonly RemoteAccount[],
): Promise<string[]> {
  await tx.execute(
    sql`update consents set token = ${secrets.seal(token, consentId)}, expires = ${expires}
        where books_id = ${booksId} and id = ${consentId}`,
  );
  const known = await rowsOf(
    tx,
    TakeConsentRow,
    sql`update feeds f set consent_id = ${consentId}, failures = 0,
          last_result = case when f.failures > 0 then null else f.last_result end
        from consents c
        where f.books_id = ${booksId} and c.books_id = f.books_id and c.id = f.consent_id
          and c.connector = ${connector}
          and f.remote_id = any(${sql.param(accounts.map(({ id }) => id))}::text[])
        returning f.id, f.remote_id as "remoteId"`,
  );
  const free = await rowsOf(
    tx,
    FreeRow,
    sql`select b.id, b.number from bank_accounts b
        where b.books_id = ${booksId} and b.is_here and b.number is not null and not exists (
          select from feeds f where f.books_id = b.books_id and f.bank_account_id = b.id)`,
  );
  const made = accounts
    .filter(({ id }) => !known.some(({ remoteId }) => remoteId === id))
    .map((account) => ({
      booksId,
      id: randomUUID(),
      consentId,
      remoteId: account.id,
      remoteName: account.name,
      remoteNumber: account.number,
      bankAccountId: account.number
        ? (free.find(({ number }) => isSameAccountNumber(account.number, number))?.id ?? null)
        : null,
      isDaily: true,
    }));
  if (made.length > 0) await tx.insert(feeds).values(made);
  return [...known, ...made].map(({ id }) => id);
}
