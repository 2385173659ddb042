import { t } from '@zubrell/core/words/t';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useBooks } from '../../app/useBooks.ts';

/** What new books say on the Board: what to do first, and what can wait. */
export function FirstSteps() {
  const { booksId, setup } = useBooks();
  const to = (path: string) => `/books/${booksId}/${path}`;
  return (
    <section className="first-steps">
      <h1>{t`Set up ${setup.books.name}`}</h1>
      <p className="quiet">
        {t`Lines from the bank come first. Everything else can be done now or later.`}
      </p>
      <ol>
        <FirstStep
          title={t`Import a bank or card file`}
          action={
            <Link className="btn btn-main" to={to('intake')}>
              {t`Import a file`}
            </Link>
          }
        >
          {t`OFX, CAMT.053, MT940, QIF, CSV or XLSX from your bank’s website. The bank account is created from the file, and its opening balance is posted with it. You can also connect a bank feed there.`}
        </FirstStep>
        <FirstStep
          title={t`Enter opening balances`}
          action={
            <Link className="btn btn-plain" to={to('ledger/opening-balances')}>
              {t`Enter balances`}
            </Link>
          }
        >
          {t`What you own and owe besides the bank accounts, from the last balance sheet: equipment, loans, tax.`}
        </FirstStep>
        <FirstStep
          title={t`Check accounts and tax codes`}
          action={
            <Link className="btn btn-plain" to={to('ledger')}>
              {t`Open the chart of accounts`}
            </Link>
          }
        >
          {t`They start from a template. Rename, add or switch off what doesn’t fit.`}
        </FirstStep>
        <FirstStep
          title={t`Invite others`}
          action={
            <Link className="btn btn-plain" to={to('settings')}>
              {t`Open settings`}
            </Link>
          }
        >
          {t`A colleague to code lines, a reviewer to look at them, a client to answer questions.`}
        </FirstStep>
      </ol>
    </section>
  );
}

function FirstStep({
  title,
  action,
  children,
}: {
  readonly title: string;
  readonly action: ReactNode;
  readonly children: ReactNode;
}) {
  return (
    <li className="sheet">
      <div>
        <h2>{title}</h2>
        <p>{children}</p>
      </div>
      {action}
    </li>
  );
}
