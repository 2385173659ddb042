import type { HandEntry, Imported } from '@zubrell/contract/ledger';
import { handKinds } from '@zubrell/core/ledger/entries';
import {
  type LedgerRecord,
  type RecordProblem,
  readRecords,
} from '@zubrell/core/ledger/readRecords';
import type { Tx } from '../../db/database.ts';
import type { Actor, Services } from '../../services.ts';
import { createPayee } from '../books/makeThings.ts';
import { booksCurrency } from '../books/queries.ts';
import { recordStep, takeStepNumber } from '../steps/recordStep.ts';
import { newEntries, renewFor } from './handEntries.ts';
import { insertEntries } from './insertEntries.ts';
import { type RecordNames, recordNames } from './recordNames.ts';

/** Journals have several rows that belong together; a file of one row each can't say them. */
const READABLE = handKinds.filter((kind) => kind !== 'journal');

/**
 * Reads payments, receipts, cheques, deposits and transfers from a CSV file, one a row. Where anything is wrong,
 * nothing is kept, and everything that is wrong is said.
 */
export async function importEntries(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  { text, makePayees }: { readonly text: string; readonly makePayees: boolean },
): Promise<Imported> {
  const { records, problems } = readRecords(text, await booksCurrency(tx, booksId));
  let names = await recordNames(tx, booksId);
  const unknown = [
    ...new Set(
      records.flatMap(({ payee }) => (payee && names.payee(payee) === null ? [payee] : [])),
    ),
  ];
  const nothing = { step: null, words: 'Nothing kept', count: 0 };
  if (unknown.length > 0 && !makePayees) {
    return { ...nothing, problems: [...problems], newPayees: unknown };
  }
  const known = names;
  const found = [...problems, ...records.flatMap((record) => problemsOf(record, known))];
  if (found.length > 0) {
    return { ...nothing, problems: found.sort((a, b) => a.row - b.row), newPayees: unknown };
  }
  for (const name of unknown)
    await createPayee(tx, services, booksId, actor, { name, kind: 'other' });
  if (unknown.length > 0) names = await recordNames(tx, booksId);
  const wanted = records.map((record) => entryFrom(record, names));
  const without = wanted.flatMap((entry, at) =>
    entry === null
      ? [
          {
            row: records[at]?.row ?? 0,
            message: 'The account is missing, and this payee has no usual one.',
          },
        ]
      : [],
  );
  if (without.length > 0) return { ...nothing, problems: without, newPayees: [] };
  const entries = await newEntries(
    tx,
    booksId,
    wanted.flatMap((entry) => entry ?? []),
  );
  const step = await takeStepNumber(tx, booksId);
  await insertEntries(tx, booksId, step, entries);
  const words = `Entered ${entries.length === 1 ? '1 entry' : `${entries.length} entries`} from a file`;
  const items = entries.map(
    ({ id }) =>
      ({
        thing: 'entry',
        thingId: id,
        before: { isVoid: true },
        after: { isVoid: false },
      }) as const,
  );
  await recordStep(tx, services, booksId, actor, step, { kind: 'import', words, items });
  await renewFor(tx, booksId, entries);
  return { step, words, count: entries.length, problems: [], newPayees: unknown };
}

function problemsOf(record: LedgerRecord, names: RecordNames): RecordProblem[] {
  const { row, kind, account, tax, bankAccount, to, amount } = record;
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
  if (account !== null && names.account(account) === null) {
    problems.push(`There is no account “${account}”.`);
  }
  if (tax !== null && names.taxCode(tax) === null) problems.push(`There is no tax code “${tax}”.`);
  if (amount === 0) problems.push('The amount is nil.');
  return problems.map((message) => ({ row, message }));
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
  const usual = payeeId === null ? null : names.usual(payeeId);
  const named = record.account === null ? null : names.account(record.account);
  const accountId = named ?? usual?.accountId;
  if (accountId === undefined) return null;
  const usualTax = named === null ? (usual?.taxCodeId ?? null) : null;
  const taxCodeId = record.tax === null ? usualTax : names.taxCode(record.tax);
  const parts = [{ accountId, taxCodeId, share: { kind: 'rest' } as const, tax: null }];
  return { kind, ...typed, number: record.number, payeeId, parts };
}
