import type { OutstandingEntry } from '@zubrell/contract/ledger';
import type { EntryId } from '@zubrell/core/ids';
import { sumOf } from '@zubrell/core/money/minor';
import { candidateName } from '@zubrell/core/pair/candidateNames';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useSearchParams } from 'react-router';
import { ledgerApi } from '../../api/ledger.ts';
import { counted } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Amount } from '../../ui/Amount.tsx';
import { type Column, DataTable } from '../../ui/DataTable.tsx';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Picker } from '../../ui/Picker.tsx';
import { tx } from '../../ui/tx.tsx';
import { useDateColumn } from '../../ui/useDateColumn.ts';
import { Waiting } from '../../ui/Waiting.tsx';
import { EntryDialog } from './EntryDialog.tsx';
import { EntrySheet } from './EntrySheet.tsx';
import { ImportRecordsDialog } from './ImportRecordsDialog.tsx';
import { LedgerTabs } from './LedgerTabs.tsx';
import './ledger.scss';

/** What was entered and the bank has not reported yet, with its age. */
export function EntriesPage() {
  const { booksId, setup } = useBooks();
  const { data, error } = ledgerApi.useOutstandingQuery(booksId, {
    refetchOnMountOrArgChange: true,
  });
  const [params, setParams] = useSearchParams();
  const [bank, setBank] = useState<string | null>(null);
  const [open, setOpen] = useState<'entry' | 'file' | null>(null);
  const entryId = params.get('entry');
  const shown = (data?.entries ?? []).filter(
    ({ bankAccountId }) => bank === null || bankAccountId === bank,
  );
  const total = sumOf(shown);
  return (
    <main className="ledger-list">
      <header className="list-head">
        <h1>{t`Ledger`}</h1>
        <LedgerTabs current="entries" />
        <Picker
          label={t`Bank account`}
          value={bank}
          all={t`All`}
          choices={setup.bankAccounts.map(({ id, name }) => [id, name] as const)}
          onChange={setBank}
        />
        <span className="ways">
          <Button variant="plain" onClick={() => setOpen('file')}>
            {t`Import entries`}
          </Button>
          <Button variant="main" onClick={() => setOpen('entry')}>
            {t`New entry`}
          </Button>
        </span>
      </header>
      <section className="list-body" aria-label={t`Entries not yet at the bank`}>
        {error && <ErrorNote error={error} />}
        {!data && !error && <Waiting what={t`the entries`} />}
        {data && shown.length === 0 && (
          <EmptyState title={t`Nothing is outstanding`}>
            <p>
              {t`Cheques, payments and deposits that you enter before the bank reports them wait here. Paired entries are in the registers of their accounts.`}
            </p>
          </EmptyState>
        )}
        {shown.length > 0 && (
          <>
            <p className="quiet">
              {tx`${counted(shown.length, 'entry is', 'entries are')} not yet at the bank, ${<Amount minor={total} />} in total.`}
            </p>
            <OutstandingTable
              entries={shown}
              currentId={entryId}
              onEntry={(id) => setParams({ entry: id })}
            />
          </>
        )}
      </section>
      {entryId !== null && (
        <EntrySheet key={entryId} entryId={entryId} onClose={() => setParams({})} />
      )}
      {open === 'entry' && <EntryDialog entry={null} onClose={() => setOpen(null)} />}
      {open === 'file' && <ImportRecordsDialog kind="entries" onClose={() => setOpen(null)} />}
    </main>
  );
}

function OutstandingTable({
  entries,
  currentId,
  onEntry,
}: {
  readonly entries: readonly OutstandingEntry[];
  readonly currentId: string | null;
  readonly onEntry: (entryId: EntryId) => void;
}) {
  const { bankAccountName, currencyOf } = useBooks();
  const dateColumn = useDateColumn();
  const nameOf = (entry: OutstandingEntry) =>
    entry.kind === 'transfer' ? t`In transit` : candidateName(entry);
  const columns: readonly Column<OutstandingEntry>[] = [
    dateColumn,
    {
      id: 'what',
      head: t`What`,
      cell: (entry) => (
        <Button variant="link" onClick={() => onEntry(entry.entryId)}>
          {nameOf(entry)}
        </Button>
      ),
      sortBy: nameOf,
    },
    {
      id: 'payee',
      head: t`Payee or account`,
      cell: ({ payee }) => payee,
      sortBy: ({ payee }) => payee ?? '',
    },
    {
      id: 'bank',
      head: t`Bank account`,
      cell: ({ bankAccountId }) => bankAccountName(bankAccountId),
      sortBy: ({ bankAccountId }) => bankAccountName(bankAccountId),
    },
    {
      id: 'age',
      head: t`Age`,
      className: 'num',
      cell: ({ isStale, age }) =>
        isStale ? (
          <span className="doubt">{t`${age} days, may never be presented`}</span>
        ) : (
          days(age)
        ),
      sortBy: ({ age }) => age,
    },
    {
      id: 'amount',
      head: t`Amount`,
      className: 'num',
      cell: ({ amount, bankAccountId }) => (
        <Amount minor={amount} currency={currencyOf(bankAccountId)} />
      ),
      sortBy: ({ amount }) => amount,
    },
  ];
  return (
    <DataTable
      className="list-table"
      rows={entries}
      columns={columns}
      rowKey={({ legId }) => legId}
      rowClass={({ entryId }) => (entryId === currentId ? 'current' : '')}
    />
  );
}

/** @example days(1) // '1 day' */
function days(count: number): string {
  return counted(count, 'day', 'days');
}
