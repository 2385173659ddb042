import { Link } from 'react-router';
import { api } from '../../app/api.ts';
import { useBooks } from '../../app/useBooks.ts';

/** Leads to a rule, by its name unless another text is given; a deleted one has no place to lead to. */
export function RuleLink({ ruleId, text }: { readonly ruleId: string; readonly text?: string }) {
  const { booksId } = useBooks();
  const { data } = api.useRulesQuery(booksId);
  const rule = data?.rules.find(({ id }) => id === ruleId);
  if (!rule) return <span className="quiet">{data ? 'a rule that was deleted' : ''}</span>;
  return <Link to={`/books/${booksId}/rules/${ruleId}`}>{text ?? rule.name}</Link>;
}
