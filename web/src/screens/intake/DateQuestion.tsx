import type { DateOrder } from '@zubrell/core/dates/calendarDate';
import { parseDate } from '@zubrell/core/dates/parseDate';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { formatLongDate } from '../../app/formats.ts';

/** Asks whether day or month comes first, by a date of the file where either could. */
export function DateQuestion({
  written,
  onChoose,
}: {
  /** The date as the file has it. */
  readonly written: string;
  readonly onChoose: (order: DateOrder) => void;
}) {
  return (
    <section className="note off date-question">
      <h2 className="small-heading">{t`Which date is ${written}?`}</h2>
      <p className="m-0">{t`No date in this file tells whether the day or the month comes first.`}</p>
      <div className="answers">
        {(['dayFirst', 'monthFirst'] as const).map((order) => (
          <Button key={order} variant="plain" onClick={() => onChoose(order)}>
            {t`It is ${formatLongDate(parseDate(written, order))}`}
          </Button>
        ))}
      </div>
    </section>
  );
}
