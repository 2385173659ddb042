import { Link } from 'react-router';
import { useBooks } from '../../app/useBooks.ts';

const TABS = [
  ['accounts', 'Accounts', ''],
  ['entries', 'Entries', '/entries'],
  ['recurring', 'Recurring', '/recurring'],
  ['bills', 'Bills', '/bills'],
  ['invoices', 'Invoices', '/invoices'],
  ['payees', 'Payees', '/payees'],
  ['tax-codes', 'Tax codes', '/tax-codes'],
  ['exchange-rates', 'Currencies', '/exchange-rates'],
] as const;

/** The parts of the ledger. */
export function LedgerTabs({ current }: { readonly current: (typeof TABS)[number][0] }) {
  const { booksId } = useBooks();
  return (
    <nav className="segments" aria-label="Ledger">
      {TABS.map(([id, name, path]) => (
        <Link
          key={id}
          to={`/books/${booksId}/ledger${path}`}
          aria-current={id === current ? 'page' : undefined}
        >
          {name}
        </Link>
      ))}
    </nav>
  );
}
