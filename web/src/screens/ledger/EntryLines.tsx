import type { Entry } from '@zubrell/contract/ledger';
import { t } from '@zubrell/core/words/t';
import { Link } from 'react-router';
import { formatLongDate } from '../../app/formats.ts';
import { lineAddress } from '../../app/lineAddress.ts';
import { useBooks } from '../../app/useBooks.ts';

/** The lines of the bank that an entry was made from, or is paired with. */
export function EntryLines({ entry }: { readonly entry: Entry }) {
  const { booksId, amount } = useBooks();
  if (entry.lines.length === 0) return null;
  const isMade = entry.kind === 'line' || entry.kind === 'settlement';
  return (
    <section>
      <h3 className="small-heading">{isMade ? t`From the bank’s line` : t`Paired with`}</h3>
      {entry.lines.map((line) => (
        <div key={line.id} className="mb-2">
          <Link to={lineAddress(booksId, { ...line, isOpen: false })}>
            <span className="wording-box mono d-block">{line.description}</span>
          </Link>
          <span className="quiet">
            {formatLongDate(line.date)}, {amount(line.amount, { plus: true })}
          </span>
        </div>
      ))}
    </section>
  );
}
