import { t } from '@zubrell/core/words/t';

/** Where the example of a table is served. */
const EXAMPLE = '/example-lines.csv';

/** What a table needs to be read, with an example to fill in. */
export function TableHelp() {
  return (
    <details className="table-help">
      <summary>{t`What a CSV file or spreadsheet needs`}</summary>
      <p>
        {t`A row for each line with a date, a text and an amount; minus is paid out. A column of balances proves that nothing is missing. Columns for account, payee and tax code become proposals. Headings can have any name and order.`}
      </p>
      <a href={EXAMPLE} download>
        {t`Save an example`}
      </a>
    </details>
  );
}
