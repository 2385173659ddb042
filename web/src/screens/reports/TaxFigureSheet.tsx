import { taxSides } from '@zubrell/core/ledger/kinds';
import type { TableRow } from '@zubrell/core/reports/reportTable';
import { t } from '@zubrell/core/words/t';
import { Button, CloseButton } from 'react-bootstrap';
import { Link } from 'react-router';
import { taxApi } from '../../api/tax.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import type { Period } from './reportPeriod.ts';

/** What a tax code's figures are made of: entries, late ones marked, down to the bank's wording. */
export function TaxFigureSheet({
  row,
  period,
  returnId,
  onClose,
}: {
  readonly row: TableRow;
  readonly period: Period;
  /** The return that was filed; the next one without it. */
  readonly returnId: string | undefined;
  readonly onClose: () => void;
}) {
  const { booksId, amount } = useBooks();
  const showDate = useShowDate();
  const [taxCodeId = '', named] = row.key.split(' ');
  const side = taxSides.find((each) => each === named) ?? 'input';
  const { data, error, hasNextPage, fetchNextPage, isFetchingNextPage } =
    taxApi.useTaxLegsInfiniteQuery({
      booksId,
      taxCodeId,
      from: period.from,
      to: period.to,
      side,
      ...(returnId === undefined ? {} : { returnId }),
    });
  const legs = data?.pages.flatMap(({ items }) => items) ?? [];
  return (
    <aside className="figure" aria-label={t`Details of this figure`}>
      <header>
        <h2>
          {row.label}, {side === 'input' ? t`purchases` : t`sales`}
        </h2>
        <CloseButton aria-label={t`Close details`} onClick={onClose} />
      </header>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Waiting what={t`the entries`} />}
      <ul>
        {legs.map((leg) => (
          <li key={leg.legId}>
            <span>{showDate(leg.date)}</span>
            <Link to={`/books/${booksId}/ledger/${leg.accountId}?entry=${leg.entryId}`}>
              {leg.payee ?? t`Entry`}
            </Link>
            <span className="num">
              {leg.tax === 0 ? amount(leg.net) : t`tax ${amount(leg.tax)}`}
            </span>
            {(leg.isLate || leg.isTakenBack) && (
              <small className="doubt">
                {leg.isTakenBack ? t`Undone after it was reported` : t`Late`}
              </small>
            )}
            <small className="mono">{leg.text}</small>
          </li>
        ))}
      </ul>
      {hasNextPage && (
        <Button variant="plain" disabled={isFetchingNextPage} onClick={() => void fetchNextPage()}>
          {t`Show more entries`}
        </Button>
      )}
    </aside>
  );
}
