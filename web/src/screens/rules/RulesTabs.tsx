import { t } from '@zubrell/core/words/t';
import { NavLink } from 'react-router';
import { formatCount } from '../../app/formats.ts';
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
    <nav className="segments" aria-label={t`Rules and habits`}>
      <NavLink to={`/books/${booksId}/rules`} aria-current={current === 'written' ? 'page' : false}>
        {t`Written ${shown(rules)}`}
      </NavLink>
      <NavLink to={`/books/${booksId}/habits`} aria-current={current === 'habits' ? 'page' : false}>
        {t`Habits ${shown(habits)}`}
      </NavLink>
    </nav>
  );
}

const shown = (count: number | undefined) => (count === undefined ? '' : formatCount(count));
