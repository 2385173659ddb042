import type { ExchangeRate } from '@zubrell/contract/currencies';
import { inverseRate, parseRate } from '@zubrell/core/exchange/rate';
import { t } from '@zubrell/core/words/t';
import { type FormEvent, useState } from 'react';
import { Button } from 'react-bootstrap';
import { currenciesApi } from '../../api/currencies.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate, useToday } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { type Column, DataTable } from '../../ui/DataTable.tsx';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { shortRate } from '../../ui/RateField.tsx';
import { TextField } from '../../ui/TextField.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { ImportRecordsDialog } from '../ledger/ImportRecordsDialog.tsx';
import { LedgerTabs } from '../ledger/LedgerTabs.tsx';
import '../ledger/ledger.scss';
import './currencies.scss';
import { DateField } from '../../ui/DateField.tsx';
import { ValuationPanel } from './ValuationPanel.tsx';

/** What other currencies were worth on each day, and what that makes of what is open in them. */
export function ExchangeRatesPage() {
  const { booksId, setup } = useBooks();
  const { told } = useUndo();
  const showDate = useShowDate();
  const [isImporting, setIsImporting] = useState(false);
  const { data, error } = currenciesApi.useExchangeRatesQuery(booksId);
  const [remove, { isLoading }] = currenciesApi.useRemoveRateMutation();
  const mayChange = setup.books.role !== 'reviewer';
  const own = setup.books.currency;
  const columns: readonly Column<ExchangeRate>[] = [
    { id: 'date', head: t`Day`, cell: ({ date }) => showDate(date), sortBy: ({ date }) => date },
    {
      id: 'currency',
      head: t`Currency`,
      cell: ({ currency }) => currency,
      sortBy: ({ currency }) => currency,
    },
    {
      id: 'rate',
      head: t`1 of it in ${own}`,
      className: 'num',
      cell: ({ rate }) => shortRate(rate),
      title: ({ rate }) => rate,
    },
    {
      id: 'inverse',
      head: t`1 ${own} in it`,
      className: 'num',
      cell: ({ rate }) => shortRate(inverseRate(rate)),
    },
    {
      id: 'ways',
      head: '',
      className: 'ways',
      cell: ({ id, currency, date }) =>
        mayChange && (
          <Button
            variant="link"
            disabled={isLoading}
            aria-label={t`Remove the rate of ${currency} for ${showDate(date)}`}
            onClick={() => void remove({ booksId, rateId: id }).then(told)}
          >
            {t`Remove`}
          </Button>
        ),
    },
  ];
  return (
    <main className="ledger-list">
      <header className="list-head">
        <h1>{t`Ledger`}</h1>
        <LedgerTabs current="exchange-rates" />
        {mayChange && (
          <span className="ways">
            <Button variant="plain" onClick={() => setIsImporting(true)}>
              {t`Import rates`}
            </Button>
          </span>
        )}
      </header>
      <section className="list-body currencies" aria-label={t`Exchange rates`}>
        <p className="quiet">
          {t`A line or document in another currency is converted at the rate of its date, or the latest rate of the ten days before. Posted amounts keep their rate.`}
        </p>
        {mayChange && <RateForm used={data?.used ?? []} />}
        {error && <ErrorNote error={error} />}
        {!data && !error && <Waiting what={t`the rates`} />}
        {data && data.rates.length === 0 && (
          <EmptyState title={t`No rates yet`}>
            <p>
              {t`Type a rate, or import a central bank’s file of daily rates (XML or CSV). Rates are kept for currencies that a bank account or a bill uses.`}
            </p>
          </EmptyState>
        )}
        {data && data.rates.length > 0 && (
          <DataTable
            className="list-table"
            rows={data.rates}
            columns={columns}
            rowKey={({ id }) => id}
          />
        )}
        {data && data.used.length > 0 && <ValuationPanel />}
      </section>
      {isImporting && <ImportRecordsDialog kind="rates" onClose={() => setIsImporting(false)} />}
    </main>
  );
}

/** Says what a currency was worth on a day. */
function RateForm({ used }: { readonly used: readonly string[] }) {
  const { booksId, setup } = useBooks();
  const { told } = useUndo();
  const today = useToday();
  const [typed, setTyped] = useState<string | null>(null);
  const [date, setDate] = useState(today);
  const [figure, setFigure] = useState('');
  const [set, { error, isLoading }] = currenciesApi.useSetRateMutation();
  const currency = typed ?? used[0] ?? '';
  const rate = parseRate(figure);
  const isReady = /^[A-Z]{3}$/.test(currency) && date !== '' && rate !== null;

  async function save(event: FormEvent): Promise<void> {
    event.preventDefault();
    if (!isReady) return;
    const answer = await set({ booksId, currency, date, rate });
    if (answer.data && told(answer)) setFigure('');
  }

  return (
    <form className="form-row" onSubmit={(event) => void save(event)}>
      <TextField
        label={t`Currency`}
        placeholder={t`USD`}
        maxLength={3}
        value={currency}
        onChange={({ target }) => setTyped(target.value.toUpperCase())}
      />
      <DateField label={t`Day`} value={date} onChange={setDate} />
      <TextField
        label={t`1 ${currency || t`of it`} in ${setup.books.currency}`}
        inputMode="decimal"
        placeholder="0.9235"
        value={figure}
        error={figure.trim() !== '' && rate === null ? t`A number above zero` : undefined}
        onChange={({ target }) => setFigure(target.value)}
      />
      <Button type="submit" variant="plain" disabled={!isReady || isLoading}>
        {t`Set rate`}
      </Button>
      {error && <ErrorNote error={error} />}
    </form>
  );
}
