import type { HandEntry, Imported } from '@zubrell/contract/ledger';
import { handKinds } from '@zubrell/core/ledger/entries';
import type { LedgerRecord } from '@zubrell/core/ledger/readRecords';
import { countSaid, say } from '@zubrell/core/words/say';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { followPlans, handPlans, insertHandPlans, needsOfEntries } from './handPlans.ts';
import { accountOf, importRecords, type RecordSort, unknownNames } from './importRecords.ts';
import type { RecordNames } from './recordNames.ts';

/** Journals have several rows that belong together; a file of one row each can't say them. */
const READABLE = handKinds.filter((kind) => kind !== 'journal' && kind !== 'paidPrivately');

/** Reads payments, receipts, cheques, deposits and transfers from a CSV file, one a row. */
export function importEntries(
  command: BooksCommand,
  file: { readonly text: string; readonly makePayees: boolean },
): Promise<Imported> {
  const { tx, booksId } = command;
  const sort: RecordSort<HandEntry> = {
    problemsOf,
    payeeKind: () => 'other',
    wantedOf: entryFrom,
    write: async (wanted) => {
      const plans = await handPlans(tx, booksId, wanted);
      const items = await insertHandPlans(command, plans);
      await followPlans(command, plans);
      return {
        items,
        words: say`Entered ${countSaid(plans.length, 'entry', 'entries')} from a file`,
        needs: needsOfEntries(wanted),
      };
    },
  };
  return importRecords(command, file, sort);
}

function problemsOf(record: LedgerRecord, names: RecordNames): readonly string[] {
  const { kind, bankAccount, to, amount } = record;
  const problems: string[] = [];
  if (!READABLE.some((each) => each === kind)) {
    problems.push(`“${kind ?? ''}” is no kind: ${READABLE.join(', ')}.`);
  }
  if (bankAccount === null) problems.push('The bank account is missing.');
  else if (names.bankAccount(bankAccount) === null) {
    problems.push(`There is no bank account “${bankAccount}”.`);
  }
  if (kind === 'transfer' && (to === null || names.bankAccount(to) === null)) {
    problems.push(`There is no bank account “${to ?? ''}” that it goes to.`);
  }
  if (amount === 0) problems.push('The amount is nil.');
  return [...problems, ...unknownNames(record, names)];
}

function entryFrom(record: LedgerRecord, names: RecordNames): HandEntry | null {
  const kind = READABLE.find((each) => each === record.kind) ?? 'payment';
  const typed = {
    date: record.date,
    note: record.text,
    bankAccountId: names.bankAccount(record.bankAccount ?? '') ?? '',
    amount: Math.abs(record.amount),
  };
  if (kind === 'transfer') {
    return { kind, ...typed, toBankAccountId: names.bankAccount(record.to ?? '') ?? '' };
  }
  const payeeId = record.payee === null ? null : names.payee(record.payee);
  const coded = accountOf(record, payeeId, names);
  if (coded === null) return null;
  const parts = [{ ...coded, share: { kind: 'rest' } as const, tax: null }];
  return { kind, ...typed, number: record.number, payeeId, parts };
}
