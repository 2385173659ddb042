import { t } from '@zubrell/core/words/t';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { nextSorting, type SortKey, sortingText } from './sortRows.ts';
import { useDeskScope } from './useDeskScope.ts';

/** The heads of the list's columns; those that can be sorted by are buttons. */
export function ListHead() {
  const { lane } = useDeskScope();
  return (
    <div className="desk-row head">
      <span />
      <SortHead by="date">{t`Date`}</SortHead>
      <span className="heads">
        <SortHead by="name">{t`Wording`}</SortHead>
        {lane !== 'decided' && <SortHead by="count">{t`Lines`}</SortHead>}
      </span>
      <span>{t`Payee`}</span>
      <span>{t`Account`}</span>
      <span>{t`Tax`}</span>
      <SortHead by="amount">{t`Amount`}</SortHead>
    </div>
  );
}

const WORDS: Readonly<Record<SortKey, readonly [string, string]>> = {
  usual: ['', ''],
  date: [t`newest first`, t`oldest first`],
  name: [t`A to Z`, t`Z to A`],
  count: [t`most lines first`, t`fewest lines first`],
  amount: [t`largest first`, t`smallest first`],
};

function SortHead({ by, children }: { readonly by: SortKey; readonly children: string }) {
  const { sorting, change } = useDeskScope();
  const isChosen = sorting.by === by;
  const [words, turned] = WORDS[by];
  const Arrow = sorting.isTurned ? ArrowUp : ArrowDown;
  return (
    <button
      type="button"
      className={by === 'amount' ? 'num' : ''}
      aria-pressed={isChosen}
      title={isChosen ? t`Sorted: ${sorting.isTurned ? turned : words}` : t`Sort: ${words}`}
      onClick={() => change({ sort: sortingText(nextSorting(sorting, by)) })}
    >
      {children}
      {isChosen && <Arrow size={11} aria-hidden />}
    </button>
  );
}
