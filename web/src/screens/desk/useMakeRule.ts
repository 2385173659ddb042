import { useNavigate } from 'react-router';
import { useBooks } from '../../app/useBooks.ts';
import type { DeskRow } from './rows.ts';

/** Goes to a new rule that is filled in from a row of the Desk. */
export function useMakeRule(): (row: DeskRow) => void {
  const { booksId } = useBooks();
  const navigate = useNavigate();
  return (row) => {
    const query = new URLSearchParams();
    if (row.kind === 'line') query.set('line', row.id);
    else if (row.kind === 'stack' && row.stack.grouping === 'lookAlikes') {
      query.set('stem', row.stack.key);
      query.set('direction', row.stack.direction);
    } else return;
    navigate(`/books/${booksId}/rules/new?${query}`);
  };
}
