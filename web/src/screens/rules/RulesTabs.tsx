import { NavLink } from 'react-router';
import { api } from '../../app/api.ts';
import { useBooks } from '../../app/useBooks.ts';

/** Goes from written rules to habits and back. */
export function RulesTabs({ current }: { readonly current: 'written' | 'habits' }) {
  const { booksId } = useBooks();
  const rules = api.useRulesQuery(booksId).data?.rules.length;
  const habits = api.useHabitsQuery(booksId).data?.habits.length;
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
