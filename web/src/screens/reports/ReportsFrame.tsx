import { NavLink, Outlet, useLocation } from 'react-router';
import { useBooks } from '../../app/useBooks.ts';
import './reports.scss';

const GROUPS = [
  [
    'The business',
    [
      ['profit', 'Profit and loss'],
      ['balance-sheet', 'Balance sheet'],
      ['cash', 'Cash'],
      ['receivables', 'Receivables by age'],
      ['customer', 'Statement of account'],
      ['payables', 'Payables by age'],
      ['payees', 'By payee'],
      ['cost-centres', 'By cost centre'],
      ['jobs', 'By job'],
      ['recharges', 'Costs to recharge'],
      ['owners', 'Owners’ money'],
      ['client-money', 'Clients’ money'],
    ],
  ],
  [
    'The books',
    [
      ['trial-balance', 'Trial balance'],
      ['general-ledger', 'General ledger'],
      ['journal', 'Journal'],
    ],
  ],
  ['Tax', [['tax', 'Tax return']]],
  [
    'Proof',
    [
      ['statements', 'Statements'],
      ['suspense', 'Suspense and in transit'],
      ['coding', 'Coding record'],
      ['hand-over', 'Hand over'],
    ],
  ],
] as const;

/** All reports, with the one that is chosen; the period stays when another is chosen. */
export function ReportsFrame() {
  const { booksId } = useBooks();
  const { search } = useLocation();
  return (
    <main className="reports-frame">
      <nav className="report-list" aria-label="Reports">
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
      <Outlet />
    </main>
  );
}
