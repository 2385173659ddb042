import { randomUUID } from 'node:crypto';
import { GivenTaxCode } from '@zubrell/contract/books';
import type { Made, StepDone } from '@zubrell/contract/common';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { TaxCodeId } from '@zubrell/core/ids';
import type { TaxKind } from '@zubrell/core/ledger/kinds';
import { type Said, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import { taxCodes } from '../../db/schema/books.ts';
import { needs } from '../books/needsOf.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordDone, type StepItem } from '../steps/recordStep.ts';
import { insertRates, setTaxCode, taxCodeThing } from './taxCodeThing.ts';

/**
 * Makes a tax code.
 *
 * @throws {ZubrellError} TAX_CODE_TAKEN, TAX_RATE_KIND, TAX_RATE_NEEDED, TAX_RATE_TWICE, TAX_ACCOUNT_TYPE
 */
export async function makeTaxCode(command: BooksCommand, given: GivenTaxCode): Promise<Made> {
  const { tx, booksId } = command;
  const id = randomUUID();
  const wanted = await checked(command, id, given);
  const { rates, ...code } = wanted;
  await tx.insert(taxCodes).values({ booksId, id, ...code, position: await nextPosition(command) });
  await insertRates(command, id, rates);
  return {
    id,
    ...(await recordDone(command, {
      kind: 'makeTaxCode',
      words: say`Added tax code ${given.name}`,
      items: [codeItem(id, null, wanted)],
      needs: needs('account', [given.inputAccountId, given.outputAccountId]),
    })),
  };
}

/**
 * Changes a tax code from now on: what was posted with it keeps its tax.
 *
 * @throws {ZubrellError} TAX_CODE_UNKNOWN and those of `makeTaxCode`
 */
export async function changeTaxCode(
  command: BooksCommand,
  id: TaxCodeId,
  given: GivenTaxCode,
): Promise<StepDone> {
  const standing = await taxCodeThing.standing(command, [id]);
  const before = GivenTaxCode.parse(standing.get(id) ?? fail('TAX_CODE_UNKNOWN'));
  const after = await checked(command, id, given);
  await setTaxCode(command, id, before, after);
  return recordDone(command, {
    kind: 'changeTaxCode',
    words: wordsOf(before, after),
    items: [codeItem(id, before, after)],
    needs: needs('account', [given.inputAccountId, given.outputAccountId]),
  });
}

function wordsOf(before: GivenTaxCode, { name, isOn }: GivenTaxCode): Said {
  if (before.name !== name) return say`Renamed tax code ${before.name} to ${name}`;
  if (before.isOn !== isOn) return say`Switched tax code ${name} ${isOn ? say`on` : say`off`}`;
  return say`Changed tax code ${name}`;
}

const WITHOUT_RATE: readonly TaxKind[] = ['zero', 'exempt', 'outside'];
const TakenRow = z.object({ name: z.string() });
const AccountRow = z.object({ name: z.string(), isFit: z.boolean() });

/** A tax code as it is kept: rates in order, and a nil rate where its kind has none. */
async function checked(
  { tx, booksId }: BooksCommand,
  id: string,
  given: GivenTaxCode,
): Promise<GivenTaxCode> {
  const [taken] = await rowsOf(
    tx,
    TakenRow,
    sql`select name from tax_codes where books_id = ${booksId} and is_here and id <> ${id}
          and lower(name) = lower(${given.name})`,
  );
  if (taken) fail('TAX_CODE_TAKEN', { name: taken.name });
  for (const accountId of [given.inputAccountId, given.outputAccountId]) {
    if (accountId === null) continue;
    const [account] = await rowsOf(
      tx,
      AccountRow,
      sql`select a.code || ' ' || a.name as name, a.type in ('asset', 'liability')
            and coalesce(a.role not in ('receivables', 'payables'), true) and not exists (
              select from bank_accounts b
              where b.books_id = a.books_id and b.account_id = a.id and b.is_here) as "isFit"
          from accounts a where a.books_id = ${booksId} and a.id = ${accountId} and a.is_here`,
    );
    if (!account) fail('ACCOUNT_UNKNOWN');
    if (!account.isFit) fail('TAX_ACCOUNT_TYPE', { account: account.name });
  }
  const hasRate = !WITHOUT_RATE.includes(given.kind);
  if (!hasRate) {
    if (given.rates.some(({ rate }) => rate > 0)) fail('TAX_RATE_KIND');
    return { ...given, rates: [{ fromDate: null, rate: 0 }] };
  }
  if (!given.rates.some(({ rate }) => rate > 0)) fail('TAX_RATE_NEEDED');
  const rates = given.rates.toSorted((a, b) => (a.fromDate ?? '').localeCompare(b.fromDate ?? ''));
  const twice = rates.find(({ fromDate }, at) => at > 0 && rates[at - 1]?.fromDate === fromDate);
  if (twice) {
    const date = twice.fromDate === null ? 'no date' : formatLongDate(twice.fromDate);
    fail('TAX_RATE_TWICE', { date });
  }
  return { ...given, rates };
}

const PositionRow = z.object({ position: z.int() });

async function nextPosition({ tx, booksId }: BooksCommand): Promise<number> {
  const [row] = await rowsOf(
    tx,
    PositionRow,
    sql`select coalesce(max(position) + 1, 0)::int as position from tax_codes where books_id = ${booksId}`,
  );
  return row?.position ?? 0;
}

function codeItem(thingId: string, before: GivenTaxCode | null, after: GivenTaxCode): StepItem {
  return { thing: 'taxCode', thingId, before, after: { ...after } };
}
