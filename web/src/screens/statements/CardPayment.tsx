import type { Statement } from '@zubrell/contract/statements';
import { t } from '@zubrell/core/words/t';
import { Link } from 'react-router';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';

/** What a card's statement leaves to be paid, and when and from where that was. */
export function CardPayment({ statement }: { readonly statement: Statement }) {
  const { booksId, amount, bankAccountName } = useBooks();
  const showDate = useShowDate();
  const { payment } = statement;
  if (payment === null) return null;
  const { due, paid } = payment;
  return (
    <section className="card-payment" aria-label={t`Payment`}>
      <h2>{t`Payment due ${amount(due)}`}</h2>
      {paid === null && <p className="quiet">{t`Not paid yet from your other accounts.`}</p>}
      {paid !== null && (
        <p>
          {paid.isOpen ? t`An open line on` : t`Paid from`} {bankAccountName(paid.bankAccountId)},{' '}
          {showDate(paid.date)}
          {paid.isOpen && t`, is for this amount`}.{' '}
          {paid.isOpen && (
            <Link
              to={`/books/${booksId}/desk?account=${paid.bankAccountId}&period=${paid.date.slice(0, 7)}`}
            >
              {t`Open the line`}
            </Link>
          )}
        </p>
      )}
    </section>
  );
}
