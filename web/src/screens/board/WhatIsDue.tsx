import type { Due } from '@zubrell/contract/board';
import { formatMonth } from '@zubrell/core/dates/calendarDate';
import { t } from '@zubrell/core/words/t';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { counted } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';

/** What wants doing by a day, each with the way there. */
export function WhatIsDue({ due }: { readonly due: Due }) {
  const { booksId, amount } = useBooks();
  const showDate = useShowDate();
  const { billsOverdue, billsSoon, invoicesOverdue, month, tax } = due;
  const rows: {
    readonly key: string;
    readonly to: string;
    readonly words: string;
    readonly more: ReactNode;
  }[] = [];
  const add = (key: string, to: string, words: string, more: ReactNode) =>
    rows.push({ key, to: `/books/${booksId}/${to}`, words, more });
  if (billsOverdue.count > 0) {
    const bills = counted(billsOverdue.count, 'bill is', 'bills are');
    add('overdue', 'reports/payables', t`${bills} overdue`, amount(billsOverdue.total));
  }
  if (billsSoon.count > 0) {
    const bills = counted(billsSoon.count, 'bill is', 'bills are');
    add('soon', 'reports/payables', t`${bills} due within 14 days`, amount(billsSoon.total));
  }
  if (invoicesOverdue.count > 0) {
    const invoices = counted(invoicesOverdue.count, 'invoice is', 'invoices are');
    add('invoices', 'reports/receivables', t`${invoices} overdue`, amount(invoicesOverdue.total));
  }
  if (tax !== null) {
    const period = t`${showDate(tax.from)} to ${showDate(tax.to)}`;
    add('tax', 'reports/tax', t`The tax return can be prepared`, period);
  }
  if (month !== null) add('month', `close/${month}`, t`${formatMonth(month)} can be closed`, null);
  return (
    <section className="sheet board-card" aria-labelledby="what-is-due">
      <h2 id="what-is-due">{t`Due`}</h2>
      {rows.length === 0 ? (
        <p className="quiet m-0">{t`Nothing is due in the next 14 days.`}</p>
      ) : (
        <ul>
          {rows.map(({ key, to, words, more }) => (
            <li key={key} className="due">
              <Link to={to}>{words}</Link>
              <span className="quiet">{more}</span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
