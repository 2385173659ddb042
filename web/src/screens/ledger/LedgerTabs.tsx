import { t } from '@zubrell/core/words/t';
import { Link } from 'react-router';
import { useBooks } from '../../app/useBooks.ts';

const TABS = [
  ['accounts', t`Accounts`, ''],
  ['entries', t`Entries`, '/entries'],
  ['recurring', t`Recurring`, '/recurring'],
  ['bills', t`Bills`, '/bills'],
  ['invoices', t`Invoices`, '/invoices'],
  ['payees', t`Payees`, '/payees'],
  ['tax-codes', t`Tax codes`, '/tax-codes'],
  ['exchange-rates', t`Currencies`, '/exchange-rates'],
] as const;

/** The parts of the ledger. */
export function LedgerTabs({ current }: { readonly current: (typeof TABS)[number][0] }) {
  const { booksId } = useBooks();
  return (
    <nav className="segments" aria-label={t`Ledger`}>
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
