import type { Account } from '@zubrell/contract/books';
import type { LedgerRow } from '@zubrell/contract/ledger';
import type { EntryId } from '@zubrell/core/ids';
import { candidateName } from '@zubrell/core/pair/candidateNames';
import { signed } from '@zubrell/core/reports/accountTotals';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { ledgerApi } from '../../api/ledger.ts';
import { counted, formatAmount } from '../../app/formats.ts';
import { accountLabel, useBooks } from '../../app/useBooks.ts';
import { useLater } from '../../app/useLater.ts';
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
import { NO_FILTER, RegisterBar, type RegisterFilter } from './RegisterBar.tsx';

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
  const [typed, setTyped] = useState<RegisterFilter>(NO_FILTER);
  const { search, from, to } = useLater(typed);
  const filter = {
    ...(search.trim() === '' ? {} : { search: search.trim() }),
    ...(from === '' ? {} : { from }),
    ...(to === '' ? {} : { to }),
  };
  const isFiltered = Object.keys(filter).length > 0;
  const { data, error, hasNextPage, fetchNextPage, isFetching } =
    ledgerApi.useRegisterInfiniteQuery({
      booksId,
      accountId: account.id,
      ...filter,
    });
  const bank = setup.bankAccounts.find(({ accountId }) => accountId === account.id);
  const [first] = data?.pages ?? [];
  const rows = data?.pages.flatMap((page) => page.items) ?? [];
  // A bank or card account is shown as its holder sees it; what is owed is negative.
  const shown = bank ? 1 : sign(account);
  const other = bank && bank.currency !== setup.books.currency ? bank.currency : null;
  const columns: readonly Column<LedgerRow>[] = [
    { id: 'date', head: t`Date`, className: 'date', cell: (row) => <RegisterDate row={row} /> },
    {
      id: 'payee',
      head: t`Payee`,
      title: ({ payeeId }) => payeeName(payeeId),
      cell: ({ payeeId }) => payeeName(payeeId),
    },
    {
      id: 'wording',
      head: t`Wording`,
      className: 'wide wording-cell',
      cell: (row) => (
        <>
          <Button variant="link" className="mono" onClick={() => onEntry(row.entryId)}>
            {row.text || registerName(row)}
          </Button>
          {bankFacts(row) !== '' && <small className="quiet d-block">{bankFacts(row)}</small>}
        </>
      ),
      title: (row) => [row.text || registerName(row), bankFacts(row)].filter(Boolean).join('\n'),
    },
    {
      id: 'other',
      head: t`Other side`,
      className: 'other',
      cell: ({ lineCount, kind, otherAccountIds }) => (
        <>
          {bank && lineCount === 0 && kind !== 'opening' && (
            <span className="doubt">{t`not at the bank yet`} </span>
          )}
          {otherAccountIds.map(accountName).join(', ')}
        </>
      ),
    },
    ...(other === null ? [] : ownColumns(other)),
    {
      id: 'amount',
      head: other === null ? t`Amount` : t`Amount, ${setup.books.currency}`,
      className: 'num',
      cell: (row) => (bank ? <Amount minor={row.amount} /> : amount(signed(shown, row.amount))),
    },
    {
      id: 'balance',
      head: other === null ? t`Balance` : t`Balance, ${setup.books.currency}`,
      className: 'num',
      cell: (row) => amount(signed(shown, row.balance ?? 0)),
    },
  ];
  return (
    <section className="register">
      <header>
        <h1>{accountLabel(account)}</h1>
        <span className="quiet">
          {TYPES[account.type]}
          {!account.isOn && t`, switched off`}
        </span>
        <AccountChange account={account} isBank={bank !== undefined} />
      </header>
      {bank && <OpeningNote bankAccount={bank} />}
      {bank?.kind === 'clientMoney' && (
        <p className="px-3 mb-2">
          <Link to={`/books/${booksId}/reports/client-money`}>{t`Whose money it is`}</Link>
        </p>
      )}
      {bank && <ByHand bankAccount={bank} />}
      <RegisterBar filter={typed} onChange={setTyped} />
      {error && <ErrorNote error={error} />}
      {!data && !error && <Waiting what={t`the register`} />}
      {data && rows.length === 0 && !isFiltered && (
        <EmptyState title={t`No entries yet`}>
          <p>{t`Lines posted to this account on the Desk appear here.`}</p>
        </EmptyState>
      )}
      {data && rows.length === 0 && isFiltered && (
        <EmptyState title={t`No entries match`}>
          <p>{t`Choose another period, or search for something else.`}</p>
        </EmptyState>
      )}
      {first && rows.length > 0 && (
        <p className="totals quiet">
          {t`${counted(first.count, 'entry', 'entries')}, debits ${amount(first.debits)}, credits ${amount(-first.credits)}, ${amount(signed(shown, first.debits + first.credits))} net`}
        </p>
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
          {t`Older entries`}
        </Button>
      )}
    </section>
  );
}

/** Amount and balance as the bank has them, in another currency than the books. */
function ownColumns(currency: string): readonly Column<LedgerRow>[] {
  const shown = (minor: number | null, plus: boolean) =>
    formatAmount(minor ?? 0, currency, { plus });
  return [
    {
      id: 'own',
      head: t`Amount, ${currency}`,
      className: 'num',
      cell: ({ own }) => shown(own, true),
    },
    {
      id: 'ownBalance',
      head: t`Balance, ${currency}`,
      className: 'num',
      cell: ({ ownBalance }) => shown(ownBalance, false),
    },
  ];
}

/** The day on which an entry counts, and where it is late the day that it is of. */
function RegisterDate({ row: { date, bankDate, turned } }: { readonly row: LedgerRow }) {
  const showDate = useShowDate();
  if (bankDate === null && turned === 0) return <>{showDate(date)}</>;
  const what = turned === -1 ? t`undone late` : turned === 1 ? t`restored late` : t`late`;
  return (
    <span title={bankDate === null ? what : t`${what}, of ${showDate(bankDate)}`}>
      {showDate(date)} <small className="doubt">{what}</small>
    </span>
  );
}

/** Ways of payment that say no more than the sign. */
const PLAIN_METHODS: readonly string[] = ['CREDIT', 'DEBIT', 'OTHER'];

/** What the bank said beside the wording, and the number that an entry is found by. */
function bankFacts(row: LedgerRow): string {
  const shown = row.text || registerName(row);
  const method = PLAIN_METHODS.includes(row.method ?? '') ? null : row.method;
  return [method, row.number, row.reference]
    .filter((fact) => fact && !shown.includes(fact))
    .join(' · ');
}

/** What an entry without a wording is called. @example 'Cheque 001042' */
function registerName({ kind, number }: LedgerRow): string {
  if (kind === 'document') return number ? t`Document ${number}` : t`Document`;
  if (kind === 'valuation') return t`Valuation`;
  if (kind === 'line' || kind === 'settlement' || kind === 'opening') return t`Entry`;
  return candidateName({ kind, number });
}

const TYPES: Readonly<Record<Account['type'], string>> = {
  asset: t`asset, debit balance`,
  liability: t`liability, credit balance`,
  equity: t`equity, credit balance`,
  income: t`income, credit balance`,
  expense: t`expense, debit balance`,
};
