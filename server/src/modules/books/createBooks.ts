import { randomUUID } from 'node:crypto';
import type { NewBooks } from '@zubrell/contract/books';
import { starterAccounts, starterBoxes, starterTaxCodes } from '@zubrell/core/ledger/starterBooks';
import { sql } from 'drizzle-orm';
import type { Tx } from '../../db/database.ts';
import { accounts, books, taxCodes, taxRates } from '../../db/schema/books.ts';
import { memberships } from '../../db/schema/people.ts';
import type { Actor, Services } from '../../services.ts';
import { EVER } from './taxRates.ts';

/** Makes new books with the starter chart of accounts and tax codes; the actor owns them. */
export async function createBooks(
  tx: Tx,
  { clock }: Pick<Services, 'clock'>,
  actor: Actor,
  {
    taxSet = 'standardAndReduced',
    ...wanted
  }: Pick<NewBooks, 'name' | 'currency'> & Partial<NewBooks>,
): Promise<string> {
  const booksId = randomUUID();
  await tx.execute(sql`select set_config('app.books_id', ${booksId}, true)`);
  await tx.insert(books).values({ id: booksId, ...wanted, createdAt: clock.now() });
  await tx.insert(memberships).values({ booksId, userId: actor.userId, role: 'owner' });
  const ids = new Map(starterAccounts.map((account) => [account.code, randomUUID()]));
  const idOf = (code: string | null): string | null => (code && ids.get(code)) ?? null;
  await tx.insert(accounts).values(
    starterAccounts.map((account) => ({
      booksId,
      id: ids.get(account.code) ?? randomUUID(),
      code: account.code,
      name: account.name,
      type: account.type,
      parentId: idOf(account.parent),
      role: account.role,
      tax: account.tax,
      purpose: account.purpose,
    })),
  );
  const withRole = (role: string) =>
    idOf(starterAccounts.find((account) => account.role === role)?.code ?? null);
  const codes = starterTaxCodes[taxSet].map((code, position) => ({
    ...code,
    booksId,
    id: randomUUID(),
    position,
    boxes: starterBoxes(code.kind),
    inputAccountId: withRole('inputTax'),
    outputAccountId: withRole('outputTax'),
  }));
  await tx.insert(taxCodes).values(codes.map(({ rate: _rate, ...code }) => code));
  await tx
    .insert(taxRates)
    .values(codes.map(({ id, rate }) => ({ booksId, taxCodeId: id, fromDate: EVER, rate })));
  return booksId;
}
