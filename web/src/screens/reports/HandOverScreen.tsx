import { t } from '@zubrell/core/words/t';
import { formatLongDate } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { DateField } from '../../ui/DateField.tsx';
import { tx } from '../../ui/tx.tsx';
import { ReportBody } from './ReportBody.tsx';
import { useReportPeriod } from './useReportPeriod.ts';

/** What an archive holds, in the order in which somebody looks at it. */
const HOLDS = [
  t`the journal, every entry leg by leg, and the trial balance on the last day`,
  t`the chart of accounts, the tax codes and the payees`,
  t`the bank’s lines with what was decided about each, and by whom`,
  t`bills, invoices and credit notes, with what is still open`,
  t`the statements that were agreed, and clients’ money`,
  t`attachments, as they are`,
  t`History: who did what, and when`,
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
          label={t`From`}
          value={from}
          onChange={(day) => set({ from: day })}
        />
        <DateField
          labelled="beside"
          isNeeded
          label={t`To`}
          value={to}
          onChange={(day) => set({ to: day })}
        />
      </header>
      <ReportBody
        title={t`Hand over`}
        words={t`All of ${formatLongDate(from)} to ${formatLongDate(to)} as one ZIP file`}
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
            {t`Any spreadsheet opens its files, and a page in it says what each holds. Earlier periods are brought forward: bank accounts with a balance, open documents with what is still open.`}
          </p>
          <p className="quiet">
            {tx`Read into new books, an archive gives the same balances, open documents and open lines: on the list of books, choose ${<em>{t`New books`}</em>}, then ${<em>{t`Read an archive`}</em>}. Closed months and agreed statements are open again there.`}
          </p>
          {isTurned ? (
            <p className="doubt">{t`The first day comes after the last. Choose other days above.`}</p>
          ) : (
            <a
              className="btn btn-main"
              href={`/api/books/${booksId}/hand-over?from=${from}&to=${to}`}
              download
            >
              {t`Save archive`}
            </a>
          )}
        </div>
      </ReportBody>
    </>
  );
}
