import { useLocation, useNavigate } from 'react-router';
import { useBooks } from '../../app/useBooks.ts';
import type { DeskRow } from './rows.ts';

/** Goes to a new rule that is filled in from a row of the Desk; saving or leaving it comes back to that row. */
export function useMakeRule(): (row: DeskRow) => void {
  const { booksId } = useBooks();
  const navigate = useNavigate();
  const { pathname, search } = useLocation();
  return (row) => {
    const query = new URLSearchParams();
    if (row.kind === 'line') query.set('line', row.id);
    else if (row.kind === 'stack' && row.stack.grouping === 'lookAlikes') {
      query.set('stem', row.stack.key);
      query.set('direction', row.stack.direction);
    } else return;
    navigate(`/books/${booksId}/rules/new?${query}`, { state: { back: pathname + search } });
  };
}
