import { rulesApi } from '../../api/rules.ts';
import { useBooks } from '../../app/useBooks.ts';

/** As of which step the list of rules is shown. */
export function useRulesStep(): number {
  const { booksId } = useBooks();
  return rulesApi.useRulesQuery(booksId).data?.seenStep ?? 0;
}
