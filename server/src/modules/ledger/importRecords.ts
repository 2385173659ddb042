import type { NewPayee } from '@zubrell/contract/books';
import type { Imported } from '@zubrell/contract/ledger';
import type { AccountId, PayeeId, TaxCodeId } from '@zubrell/core/ids';
import {
  type LedgerRecord,
  type RecordProblem,
  readRecords,
} from '@zubrell/core/ledger/readRecords';
import type { Said } from '@zubrell/core/words/say';
import { insertPayee } from '../books/makeThings.ts';
import { booksCurrency } from '../books/queries.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { type Need, plainWords, recordStep, type StepItem } from '../steps/recordStep.ts';
import { type RecordNames, recordNames } from './recordNames.ts';

/** A file as it was sent. */
interface SentFile {
  readonly text: string;
  /** Make the payees that are not there. */
  readonly makePayees: boolean;
}

/** How records of one sort are taken in. */
export interface RecordSort<Wanted> {
  /** What a row names that is not in the books, or leaves out that is needed. */
  readonly problemsOf: (record: LedgerRecord, names: RecordNames) => readonly string[];
  readonly payeeKind: (name: string, records: readonly LedgerRecord[]) => NewPayee['kind'];
  /** What is wanted; null for rows for which neither the file nor the past says an account. */
  readonly wantedOf: (record: LedgerRecord, names: RecordNames) => Wanted | null;
  /** Writes all of it. */
  readonly write: (wanted: readonly Wanted[]) => Promise<{
    readonly items: readonly StepItem[];
    readonly words: Said;
    readonly needs: readonly Need[];
  }>;
}

/**
 * Takes the records of a CSV file in as one step. Where anything is wrong, nothing is kept, and everything that is
 * wrong is said; payees that are not there are named first.
 */
export async function importRecords<Wanted>(
  command: BooksCommand,
  { text, makePayees }: SentFile,
  sort: RecordSort<Wanted>,
): Promise<Imported> {
  const { tx, booksId, step } = command;
  const { records, problems } = readRecords(text, await booksCurrency(tx, booksId));
  const known = await recordNames(tx, booksId);
  const newPayees = [
    ...new Set(
      records.flatMap(({ payee }) => (payee && known.payee(payee) === null ? [payee] : [])),
    ),
  ];
  const nothing = (found: readonly RecordProblem[]): Imported => ({
    step: null,
    words: 'Nothing kept',
    count: 0,
    problems: [...found].sort((a, b) => a.row - b.row),
    newPayees,
  });
  const found = [
    ...problems,
    ...records.flatMap((record) =>
      sort.problemsOf(record, known).map((message) => ({ row: record.row, message })),
    ),
  ];
  if (found.length > 0 || (newPayees.length > 0 && !makePayees)) return nothing(found);
  const without = records.filter((record) => sort.wantedOf(record, known) === null);
  if (without.length > 0) {
    const message = 'The account is missing, and this payee has no usual one.';
    return nothing(without.map(({ row }) => ({ row, message })));
  }
  const made: StepItem[] = [];
  for (const name of newPayees) {
    const kind = sort.payeeKind(name, records);
    made.push((await insertPayee(command, { name, kind })).item);
  }
  const names = newPayees.length > 0 ? await recordNames(tx, booksId) : known;
  const { items, words, needs } = await sort.write(
    records.flatMap((record) => sort.wantedOf(record, names) ?? []),
  );
  const own = new Set(made.map(({ thingId }) => thingId));
  await recordStep(command, {
    kind: 'import',
    words,
    items: [...made, ...items],
    needs: needs.filter(({ thingId }) => !own.has(thingId)),
  });
  return { step, words: plainWords(words), count: items.length, problems: [], newPayees };
}

/** The account and tax code of a row: as it names them, else as its payee's usually are; null without any. */
export function accountOf(
  { account, tax }: LedgerRecord,
  payeeId: PayeeId | null,
  names: RecordNames,
): { readonly accountId: AccountId; readonly taxCodeId: TaxCodeId | null } | null {
  const usual = payeeId === null ? null : names.usual(payeeId);
  const named = account === null ? null : names.account(account);
  const accountId = named ?? usual?.accountId;
  if (accountId === undefined) return null;
  const usualTax = named === null ? (usual?.taxCodeId ?? null) : null;
  return { accountId, taxCodeId: tax === null ? usualTax : names.taxCode(tax) };
}

/** What a row names that is not in the books. */
export function unknownNames({ account, tax }: LedgerRecord, names: RecordNames): string[] {
  return [
    ...(account !== null && names.account(account) === null
      ? [`There is no account “${account}”.`]
      : []),
    ...(tax !== null && names.taxCode(tax) === null ? [`There is no tax code “${tax}”.`] : []),
  ];
}
