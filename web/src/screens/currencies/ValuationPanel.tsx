import type { Valuation } from '@zubrell/contract/currencies';
import { addDays, lastDayOf, monthOf } from '@zubrell/core/dates/calendarDate';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { currenciesApi } from '../../api/currencies.ts';
import { formatLongDate } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useToday } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { shortRate } from '../../ui/RateField.tsx';

/** What is open in other currencies at the end of a month, what its rate makes of it, and booking that. */
export function ValuationPanel() {
  const { booksId, setup } = useBooks();
  const { told } = useUndo();
  const today = useToday();
  const [date, setDate] = useState(() => addDays(`${monthOf(today)}-01`, -1));
  const { currentData, error } = currenciesApi.useValuationQuery({ booksId, date });
  const [value, valuing] = currenciesApi.useValueCurrenciesMutation();
  const mayChange = setup.books.role !== 'reviewer';
  const isMonthEnd = date === lastDayOf(monthOf(date));
  return (
    <section aria-label={t`Valuation`}>
      <h2>{t`Valuation at the end of a month`}</h2>
      <p className="quiet">
        {t`Open items in other currencies are valued at the rate of the day, against exchange gains and losses. The entry is reversed the next day.`}
      </p>
      <DateField
        labelled="beside"
        isNeeded
        label={t`At the end of`}
        value={date}
        onChange={setDate}
      />
      {!isMonthEnd && <p className="doubt">{t`This isn’t the last day of a month.`}</p>}
      {error && <ErrorNote error={error} />}
      {currentData && currentData.items.length === 0 && (
        <p>{t`Nothing is open in other currencies on ${formatLongDate(date)}.`}</p>
      )}
      {currentData && currentData.items.length > 0 && <ValuationTable items={currentData.items} />}
      {valuing.error && <ErrorNote error={valuing.error} />}
      {currentData && currentData.items.length > 0 && mayChange && (
        <p className="d-flex gap-3 align-items-center">
          <Button
            variant="plain"
            disabled={valuing.isLoading || currentData.items.some(({ worth }) => worth === null)}
            onClick={() => void value({ booksId, date }).then(told)}
          >
            {currentData.entryId === null ? t`Post valuation` : t`Post valuation again`}
          </Button>
          {currentData.entryId !== null && (
            <Link to={`/books/${booksId}/ledger/entries?entry=${currentData.entryId}`}>
              {t`Open the entry`}
            </Link>
          )}
        </p>
      )}
    </section>
  );
}

function ValuationTable({ items }: { readonly items: Valuation['items'] }) {
  const { setup, amount } = useBooks();
  const own = setup.books.currency;
  const gained = items.reduce(
    (sum, { worth, stands }) => sum + (worth === null ? 0 : worth - stands),
    0,
  );
  return (
    <table className="table list-table">
      <thead>
        <tr>
          <th>{t`What`}</th>
          <th className="num">{t`Open`}</th>
          <th className="num">{t`Book value, ${own}`}</th>
          <th className="num">{t`Rate`}</th>
          <th className="num">{t`Value, ${own}`}</th>
          <th className="num">{t`Gain or loss`}</th>
        </tr>
      </thead>
      <tbody>
        {items.map(({ kind, name, currency, original, stands, rate, worth }) => (
          <tr key={`${kind} ${name} ${currency}`}>
            <td>{name ?? (kind === 'receivables' ? t`Open invoices` : t`Open bills`)}</td>
            <td className="num">{amount(original, { currency })}</td>
            <td className="num">{amount(stands)}</td>
            <td className="num">
              {rate === null ? (
                <span className="doubt">{t`no rate near that day`}</span>
              ) : (
                shortRate(rate)
              )}
            </td>
            <td className="num">{worth !== null && amount(worth)}</td>
            <td className="num">{worth !== null && amount(worth - stands, { plus: true })}</td>
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr>
          <th colSpan={5}>{t`Total`}</th>
          <td className="num">
            <b>{amount(gained, { plus: true })}</b>
          </td>
        </tr>
      </tfoot>
    </table>
  );
}
