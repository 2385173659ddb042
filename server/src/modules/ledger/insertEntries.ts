import { addDays } from '@zubrell/core/dates/calendarDate';
import type { Exchange, ExchangedLeg } from '@zubrell/core/exchange/exchangedLegs';
import type { BooksId, JournalPlanId, PayeeId } from '@zubrell/core/ids';
import type { ClientShare } from '@zubrell/core/ledger/clientMoney';
import { type EntryKind, ownKinds } from '@zubrell/core/ledger/entries';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { bulkInsert } from '../../db/bulkInsert.ts';
import { rowsOf, type Tx, together } from '../../db/database.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { sharesOfEntries } from './clientShares.ts';

/** An entry to be written, with its legs. */
export interface NewEntry {
  readonly id: string;
  readonly date: string;
  readonly kind: EntryKind;
  readonly payeeId: PayeeId | null;
  readonly note: string | null;
  readonly number?: string | null;
  /** What the bank said beside the wording. */
  readonly reference?: string | null;
  /** How it was paid, as the bank calls it. */
  readonly method?: string | null;
  /** What was entered by hand. */
  readonly content?: unknown;
  /** The entry that it is put in the place of. */
  readonly replaces?: string | null;
  /** The entry that it reverses. */
  readonly reverses?: string | null;
  /** The recurring journal that it is posted for, and on which of its dates. */
  readonly plan?: { readonly id: JournalPlanId; readonly date: string } | null;
  /** In a closed period it counts on the first open day, as what a line makes does; otherwise it is refused. */
  readonly mayBeLate?: boolean;
  /** The bank account whose opening balance it is. */
  readonly openingOf?: string;
  /** Of an opening balance: whose money it is, where the bank account holds clients' money. */
  readonly clients?: readonly ClientShare[];
  /** The rate at which it was taken into the books; left out where it is in their currency. */
  readonly exchange?: Exchange | null;
  readonly legs: readonly (ExchangedLeg & { readonly id: string })[];
}

/**
 * Writes entries with their legs, and whose money moves where a bank account holds clients' money. What a line makes in a closed period counts on the first open day, and keeps the
 * bank's: it is late. The database refuses what does not balance, and other entries in closed periods.
 *
 * @throws {ZubrellError} CLIENT_MISSING
 */
export async function insertEntries(
  { tx, booksId, step }: BooksCommand,
  given: readonly NewEntry[],
): Promise<void> {
  const [closed, shares, merged] = await together(
    closedAccounts(tx, booksId),
    sharesOfEntries(tx, booksId, given),
    mergedAccounts(tx, booksId),
  );
  const entries = withOpenDays(given, closed);
  const entriesIn = bulkInsert(
    tx,
    'entries',
    {
      books_id: 'uuid',
      id: 'uuid',
      date: 'date',
      kind: 'text',
      payee_id: 'uuid',
      note: 'text',
      number: 'text',
      reference: 'text',
      method: 'text',
      content: 'jsonb',
      exchange: 'jsonb',
      replaces: 'uuid',
      reverses: 'uuid',
      plan_id: 'uuid',
      plan_date: 'date',
      opening_of: 'uuid',
      bank_date: 'date',
      step: 'bigint',
      is_void: 'boolean',
    },
    entries.map(({ id, kind, payeeId, note, number, content, openingOf, ...rest }) => ({
      books_id: booksId,
      id,
      date: rest.date,
      bank_date: rest.bankDate,
      kind,
      payee_id: payeeId,
      note,
      number: number ?? null,
      reference: rest.reference ?? null,
      method: rest.method ?? null,
      content: content ?? null,
      exchange: rest.exchange ?? null,
      replaces: rest.replaces ?? null,
      reverses: rest.reverses ?? null,
      plan_id: rest.plan?.id ?? null,
      plan_date: rest.plan?.date ?? null,
      opening_of: openingOf ?? null,
      step,
      is_void: false,
    })),
  );
  const legsIn = bulkInsert(
    tx,
    'legs',
    {
      books_id: 'uuid',
      id: 'uuid',
      entry_id: 'uuid',
      position: 'integer',
      account_id: 'uuid',
      shown_account_id: 'uuid',
      date: 'date',
      payee_id: 'uuid',
      amount: 'bigint',
      original: 'bigint',
      tax_code_id: 'uuid',
      role: 'text',
      cost_centre_id: 'uuid',
      job_id: 'uuid',
      is_recharged: 'boolean',
      tax_side: 'text',
      taxable: 'bigint',
    },
    entries.flatMap(({ id: entryId, date, payeeId, legs }) =>
      legs.map((leg, position) => ({
        books_id: booksId,
        id: leg.id,
        entry_id: entryId,
        position,
        account_id: leg.accountId,
        shown_account_id: merged.get(leg.accountId) ?? leg.accountId,
        date,
        payee_id: payeeId,
        amount: leg.amount,
        original: leg.original ?? null,
        tax_code_id: leg.taxCodeId,
        role: leg.role,
        cost_centre_id: leg.costCentreId ?? null,
        job_id: leg.jobId ?? null,
        is_recharged: leg.isRecharged ?? false,
        tax_side: leg.taxSide ?? null,
        taxable: leg.taxable ?? null,
      })),
    ),
  );
  const sharesIn = bulkInsert(
    tx,
    'client_shares',
    { books_id: 'uuid', leg_id: 'uuid', client_id: 'uuid', amount: 'bigint' },
    [...shares.values()].flat().map(({ legId, clientId, amount }) => ({
      books_id: booksId,
      leg_id: legId,
      client_id: clientId,
      amount,
    })),
  );
  await together(entriesIn, legsIn, sharesIn);
}

const MergedRow = z.object({ id: z.string(), into: z.string() });

/** By accounts that were merged into others, which those are. */
async function mergedAccounts(tx: Tx, booksId: BooksId): Promise<ReadonlyMap<string, string>> {
  const rows = await rowsOf(
    tx,
    MergedRow,
    sql`select id, merged_into as into from accounts
        where books_id = ${booksId} and merged_into is not null`,
  );
  return new Map(rows.map(({ id, into }) => [id, into]));
}

const ClosedRow = z.object({
  lockDate: z.string().nullable(),
  accountId: z.string().nullable(),
  closedTo: z.string().nullable(),
});

/** Up to which days books are closed: by the lock date, and bank accounts by their ledger accounts. */
interface Closed {
  readonly lockDate: string | null;
  readonly byAccount: ReadonlyMap<string, string>;
}

async function closedAccounts(tx: Tx, booksId: BooksId): Promise<Closed> {
  const rows = await rowsOf(
    tx,
    ClosedRow,
    sql`select k.lock_date as "lockDate", b.account_id as "accountId", b.closed_to as "closedTo"
        from books k
        left join bank_accounts b on b.books_id = k.id and b.closed_to is not null
        where k.id = ${booksId}`,
  );
  return {
    lockDate: rows[0]?.lockDate ?? null,
    byAccount: new Map(
      rows.flatMap(({ accountId, closedTo }) =>
        accountId === null || closedTo === null ? [] : [[accountId, closedTo] as const],
      ),
    ),
  };
}

function withOpenDays(
  entries: readonly NewEntry[],
  { lockDate, byAccount }: Closed,
): readonly (NewEntry & { readonly bankDate: string | null })[] {
  return entries.map((entry) => {
    const closed = [
      lockDate,
      ...entry.legs.map(({ accountId }) => byAccount.get(accountId) ?? null),
    ]
      .filter((day) => day !== null)
      .sort()
      .at(-1);
    const mayBeLate = entry.mayBeLate === true || isOwnKind(entry.kind);
    const isLate = mayBeLate && closed !== undefined && entry.date <= closed;
    return isLate
      ? { ...entry, date: addDays(closed, 1), bankDate: entry.date }
      : { ...entry, bankDate: null };
  });
}

const isOwnKind = (kind: EntryKind) => (ownKinds as readonly EntryKind[]).includes(kind);
