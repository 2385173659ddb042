import { NavLink } from 'react-router';
import { useBooks } from '../../app/useBooks.ts';

/** Goes from written rules to habits and back. */
export function RulesTabs({
  current,
  rules,
  habits,
}: {
  readonly current: 'written' | 'habits';
  /** How many there are, once that is known. */
  readonly rules: number | undefined;
  readonly habits: number | undefined;
}) {
  const { booksId } = useBooks();
  return (
    <nav className="segments" aria-label="Rules and habits">
      <NavLink to={`/books/${booksId}/rules`} aria-current={current === 'written' ? 'page' : false}>
        Written {rules ?? ''}
      </NavLink>
      <NavLink to={`/books/${booksId}/habits`} aria-current={current === 'habits' ? 'page' : false}>
        Habits {habits ?? ''}
      </NavLink>
    </nav>
  );
}
