import type { Account } from '@zubrell/contract/books';
import type { RegisterRow } from '@zubrell/contract/ledger';
import type { EntryId } from '@zubrell/core/ids';
import { candidateName } from '@zubrell/core/pair/pairWords';
import { Button } from 'react-bootstrap';
import { ledgerApi } from '../../api/ledger.ts';
import { accountLabel, useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { Amount } from '../../ui/Amount.tsx';
import { type Column, DataTable } from '../../ui/DataTable.tsx';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { AccountChange } from './AccountChange.tsx';
import { sign } from './AccountTree.tsx';
import { ByHand } from './ByHand.tsx';
import { OpeningNote } from './OpeningNote.tsx';

/** One account's entries, the newest first, each with the balance after it. */
export function Register({
  account,
  entryId,
  onEntry,
}: {
  readonly account: Account;
  readonly entryId: EntryId | null;
  readonly onEntry: (entryId: EntryId | null) => void;
}) {
  const { booksId, setup, accountName, payeeName, amount } = useBooks();
  const { data, error, hasNextPage, fetchNextPage, isFetching } =
    ledgerApi.useRegisterInfiniteQuery({
      booksId,
      accountId: account.id,
    });
  const bank = setup.bankAccounts.find(({ accountId }) => accountId === account.id);
  const rows = data?.pages.flatMap((page) => page.items) ?? [];
  // A bank or card account is shown as its holder sees it; what is owed is negative.
  const shown = bank ? 1 : sign(account);
  const columns: readonly Column<RegisterRow>[] = [
    { id: 'date', head: 'Date', className: 'date', cell: (row) => <RegisterDate row={row} /> },
    {
      id: 'payee',
      head: 'Payee',
      title: ({ payeeId }) => payeeName(payeeId),
      cell: ({ payeeId }) => payeeName(payeeId),
    },
    {
      id: 'wording',
      head: 'Wording',
      className: 'wide wording-cell',
      cell: (row) => (
        <Button variant="link" className="mono" onClick={() => onEntry(row.entryId)}>
          {row.text || registerName(row)}
        </Button>
      ),
    },
    {
      id: 'other',
      head: 'Other side',
      className: 'other',
      cell: ({ lineCount, kind, otherAccountIds }) => (
        <>
          {bank && lineCount === 0 && kind !== 'opening' && (
            <span className="doubt">not at the bank yet </span>
          )}
          {otherAccountIds.map(accountName).join(', ')}
        </>
      ),
    },
    {
      id: 'amount',
      head: 'Amount',
      className: 'num',
      cell: (row) => (bank ? <Amount minor={row.amount} /> : amount(shown * row.amount)),
    },
    {
      id: 'balance',
      head: 'Balance',
      className: 'num',
      cell: (row) => amount(shown * row.balance),
    },
  ];
  return (
    <section className="register">
      <header>
        <h1>{accountLabel(account)}</h1>
        <span className="quiet">
          {TYPES[account.type]}
          {!account.isOn && ', switched off'}
        </span>
        <AccountChange account={account} />
      </header>
      {bank && <OpeningNote bankAccount={bank} />}
      {bank && <ByHand bankAccount={bank} />}
      {error && <ErrorNote error={error} />}
      {!data && !error && <Waiting what="the register" />}
      {data && rows.length === 0 && (
        <EmptyState title="No entries yet">
          <p>Lines posted to this account on the Desk appear here.</p>
        </EmptyState>
      )}
      {rows.length > 0 && (
        <DataTable
          className="register-table"
          rows={rows}
          columns={columns}
          rowKey={({ legId, turned, date }) => `${legId} ${turned} ${date}`}
          rowClass={(row) => (row.entryId === entryId ? 'current' : '')}
        />
      )}
      {hasNextPage && (
        <Button
          variant="plain"
          className="m-3"
          disabled={isFetching}
          onClick={() => void fetchNextPage()}
        >
          Older entries
        </Button>
      )}
    </section>
  );
}

/** The day on which an entry counts, and where it is late the day that it is of. */
function RegisterDate({ row: { date, bankDate, turned } }: { readonly row: RegisterRow }) {
  const showDate = useShowDate();
  if (bankDate === null && turned === 0) return <>{showDate(date)}</>;
  const what = turned === -1 ? 'taken back late' : turned === 1 ? 'back late' : 'late';
  return (
    <span title={bankDate === null ? what : `${what}, of ${showDate(bankDate)}`}>
      {showDate(date)} <small className="doubt">{what}</small>
    </span>
  );
}

/** What an entry without a wording is called. @example 'Cheque 001042' */
function registerName({ kind, number }: RegisterRow): string {
  if (kind === 'document') return number ? `Document ${number}` : 'Document';
  if (kind === 'line' || kind === 'settlement' || kind === 'opening') return 'Entry';
  return candidateName({ kind, number });
}

const TYPES: Readonly<Record<Account['type'], string>> = {
  asset: 'asset, debit balance',
  liability: 'liability, credit balance',
  equity: 'equity, credit balance',
  income: 'income, credit balance',
  expense: 'expense, debit balance',
};
