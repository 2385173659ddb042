import type { FileProblem } from '@zubrell/contract/intake';
import { t } from '@zubrell/core/words/t';

/** What is wrong with a file: where, what, and the record as it stands. */
export function ProblemList({ problems }: { readonly problems: readonly FileProblem[] }) {
  return (
    <ul className="problems">
      {problems.map((problem) => (
        <li
          key={`${problem.line} ${problem.field} ${problem.code}`}
          className={problem.severity === 'notice' ? 'notice' : ''}
        >
          <b>{t`Row ${problem.line}`}</b>
          <span>
            {problem.field && `${problem.field}: `}
            {problem.message}
            {problem.excerpt && <span className="mono quiet d-block">{problem.excerpt}</span>}
          </span>
        </li>
      ))}
    </ul>
  );
}
