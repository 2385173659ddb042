import { formatLongDate } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { DateField } from '../../ui/DateField.tsx';
import { ReportBody } from './ReportBody.tsx';
import { useReportPeriod } from './useReportPeriod.ts';

/** What an archive holds, in the order in which somebody looks at it. */
const HOLDS = [
  'the journal, every entry leg by leg, and the trial balance on the last day',
  'the chart of accounts, the tax codes and the payees',
  'the bank’s lines with what was decided about each, and by whom',
  'bills, invoices and credit notes, with what is still open',
  'the statements that were agreed, and clients’ money',
  'attachments, as they are',
  'History: who did what, and when',
];

/** Saves all of a period as one archive, for whoever goes on with the books or looks through them. */
export function HandOverScreen() {
  const { booksId } = useBooks();
  const { period, set } = useReportPeriod();
  const { from, to } = period;
  const isTurned = from > to;
  return (
    <>
      <header className="report-bar">
        <DateField
          labelled="beside"
          isNeeded
          label="From"
          value={from}
          onChange={(day) => set({ from: day })}
        />
        <DateField
          labelled="beside"
          isNeeded
          label="To"
          value={to}
          onChange={(day) => set({ to: day })}
        />
      </header>
      <ReportBody
        title="Hand over"
        words={
          <>
            All of {formatLongDate(from)} to {formatLongDate(to)} as one ZIP file
          </>
        }
        error={undefined}
        isEmpty={false}
      >
        <div className="hand-over">
          <ul>
            {HOLDS.map((what) => (
              <li key={what}>{what}</li>
            ))}
          </ul>
          <p>
            Any spreadsheet opens its files, and a page in it says what each holds. Earlier periods
            are brought forward: bank accounts with a balance, open documents with what is still
            open.
          </p>
          <p className="quiet">
            Read into new books, an archive gives the same balances, open documents and open lines:
            on the list of books, choose <em>New books</em>, then <em>Read an archive</em>. Closed
            months and agreed statements are open again there.
          </p>
          {isTurned ? (
            <p className="doubt">The first day comes after the last. Choose other days above.</p>
          ) : (
            <a
              className="btn btn-main"
              href={`/api/books/${booksId}/hand-over?from=${from}&to=${to}`}
              download
            >
              Save archive
            </a>
          )}
        </div>
      </ReportBody>
    </>
  );
}
