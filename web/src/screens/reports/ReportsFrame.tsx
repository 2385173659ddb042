import { t } from '@zubrell/core/words/t';
import { Suspense } from 'react';
import { NavLink, Outlet, useLocation } from 'react-router';
import { useBooks } from '../../app/useBooks.ts';
import './reports.scss';

const GROUPS = [
  [
    t`The business`,
    [
      ['profit', t`Profit and loss`],
      ['balance-sheet', t`Balance sheet`],
      ['cash', t`Cash`],
      ['receivables', t`Receivables by age`],
      ['customer', t`Statement of account`],
      ['payables', t`Payables by age`],
      ['payees', t`By payee`],
      ['cost-centres', t`By cost centre`],
      ['jobs', t`By job`],
      ['recharges', t`Costs to recharge`],
      ['owners', t`Owners’ money`],
      ['client-money', t`Clients’ money`],
    ],
  ],
  [
    t`The books`,
    [
      ['trial-balance', t`Trial balance`],
      ['general-ledger', t`General ledger`],
      ['journal', t`Journal`],
    ],
  ],
  [t`Tax`, [['tax', t`Tax return`]]],
  [
    t`Proof`,
    [
      ['statements', t`Statements`],
      ['suspense', t`Suspense and in transit`],
      ['coding', t`Coding record`],
      ['hand-over', t`Hand over`],
    ],
  ],
] as const;

/** All reports, with the one that is chosen; the period stays when another is chosen. */
export function ReportsFrame() {
  const { booksId } = useBooks();
  const { search } = useLocation();
  return (
    <main className="reports-frame">
      <nav className="report-list" aria-label={t`Reports`}>
        {GROUPS.map(([group, reports]) => (
          <section key={group}>
            <h2 className="small-heading">{group}</h2>
            {reports.map(([path, name]) => (
              <NavLink key={path} to={{ pathname: `/books/${booksId}/reports/${path}`, search }}>
                {name}
              </NavLink>
            ))}
          </section>
        ))}
      </nav>
      <Suspense>
        <Outlet />
      </Suspense>
    </main>
  );
}
