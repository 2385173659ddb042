import { ArrowDown, ArrowUp } from 'lucide-react';
import { nextSorting, type SortKey, sortingText } from './sortRows.ts';
import { useDeskScope } from './useDeskScope.ts';

/** The heads of the list's columns; those that can be sorted by are buttons. */
export function ListHead() {
  const { lane } = useDeskScope();
  return (
    <div className="desk-row head">
      <span />
      <SortHead by="date">Date</SortHead>
      <span className="heads">
        <SortHead by="name">Wording</SortHead>
        {lane !== 'decided' && <SortHead by="count">Lines</SortHead>}
      </span>
      <span>Payee</span>
      <span>Account</span>
      <span>Tax</span>
      <SortHead by="amount">Amount</SortHead>
    </div>
  );
}

const WORDS: Readonly<Record<SortKey, readonly [string, string]>> = {
  usual: ['', ''],
  date: ['newest first', 'oldest first'],
  name: ['A to Z', 'Z to A'],
  count: ['most lines first', 'fewest lines first'],
  amount: ['largest first', 'smallest first'],
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
      title={isChosen ? `Sorted: ${sorting.isTurned ? turned : words}` : `Sort: ${words}`}
      onClick={() => change({ sort: sortingText(nextSorting(sorting, by)) })}
    >
      {children}
      {isChosen && <Arrow size={11} aria-hidden />}
    </button>
  );
}
