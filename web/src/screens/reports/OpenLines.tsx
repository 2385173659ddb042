import { Link } from 'react-router';
import { counted } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';

/** Lines of a report's period that nobody has decided yet, with the way to them; nothing where there are none. */
export function OpenLines({
  open,
}: {
  readonly open: { readonly count: number; readonly amount: number } | null;
}) {
  const { booksId, amount } = useBooks();
  if (open === null || open.count === 0) return null;
  return (
    <Link className="doubt" to={`/books/${booksId}/desk`}>
      {counted(open.count, 'open line', 'open lines')}, {amount(open.amount)}
    </Link>
  );
}
