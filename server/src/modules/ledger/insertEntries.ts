import type { PayeeId } from '@zubrell/core/ids';
import type { Leg } from '@zubrell/core/ledger/buildLegs';
import type { EntryKind } from '@zubrell/core/ledger/entries';
import { bulkInsert } from '../../db/bulkInsert.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';

/** An entry to be written, with its legs. */
export interface NewEntry {
  readonly id: string;
  readonly date: string;
  readonly kind: EntryKind;
  readonly payeeId: PayeeId | null;
  readonly note: string | null;
  readonly number?: string | null;
  /** What was entered by hand. */
  readonly content?: unknown;
  /** The entry that it is put in the place of. */
  readonly replaces?: string | null;
  /** The bank account whose opening balance it is. */
  readonly openingOf?: string;
  readonly legs: readonly (Leg & { readonly id: string })[];
}

/** Writes entries with their legs. The database refuses those that do not balance. */
export async function insertEntries(
  { tx, booksId, step }: BooksCommand,
  entries: readonly NewEntry[],
): Promise<void> {
  await bulkInsert(
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
      content: 'jsonb',
      replaces: 'uuid',
      opening_of: 'uuid',
      step: 'bigint',
      is_void: 'boolean',
    },
    entries.map(({ id, date, kind, payeeId, note, number, content, replaces, openingOf }) => ({
      books_id: booksId,
      id,
      date,
      kind,
      payee_id: payeeId,
      note,
      number: number ?? null,
      content: content ?? null,
      replaces: replaces ?? null,
      opening_of: openingOf ?? null,
      step,
      is_void: false,
    })),
  );
  await bulkInsert(
    tx,
    'legs',
    {
      books_id: 'uuid',
      id: 'uuid',
      entry_id: 'uuid',
      position: 'integer',
      account_id: 'uuid',
      amount: 'bigint',
      tax_code_id: 'uuid',
      role: 'text',
      cost_centre_id: 'uuid',
      job_id: 'uuid',
      is_recharged: 'boolean',
    },
    entries.flatMap(({ id: entryId, legs }) =>
      legs.map((leg, position) => ({
        books_id: booksId,
        id: leg.id,
        entry_id: entryId,
        position,
        account_id: leg.accountId,
        amount: leg.amount,
        tax_code_id: leg.taxCodeId,
        role: leg.role,
        cost_centre_id: leg.costCentreId ?? null,
        job_id: leg.jobId ?? null,
        is_recharged: leg.isRecharged ?? false,
      })),
    ),
  );
}
