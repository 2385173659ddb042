import type { TriedLine } from '@zubrell/contract/rules';
import type { RuleId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { Link } from 'react-router';
import { lineAddress } from '../../app/lineAddress.ts';
import { lineStateNames } from '../../app/lineStateNames.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Amount } from '../../ui/Amount.tsx';
import { type Column, DataTable } from '../../ui/DataTable.tsx';
import { useDateColumn } from '../../ui/useDateColumn.ts';
import { markedPieces } from './marking.ts';
import { missedNames, takenFrom } from './ruleShown.ts';

/** Lines that a rule takes or nearly takes, with what was made of them. */
export function TriedTable({
  lines,
  words,
  numberOf,
  empty,
}: {
  readonly lines: readonly TriedLine[];
  /** Words that are marked in the wording. */
  readonly words: readonly string[];
  readonly numberOf: (ruleId: RuleId) => number | null;
  readonly empty: string;
}) {
  const { booksId, accountName, taxName } = useBooks();
  const dateColumn = useDateColumn();
  if (lines.length === 0) return <p className="quiet">{empty}</p>;
  const coded = (line: TriedLine): string => {
    if (line.state !== 'posted') return lineStateNames[line.state];
    const accounts = [...new Set(line.accountIds.map(accountName))].join(', ');
    return line.isSame === false && line.taxCodeId
      ? `${accounts} · ${taxName(line.taxCodeId)}`
      : accounts;
  };
  const fromOf = (line: TriedLine): string => {
    if (line.missed !== null) return t`but for ${missedNames[line.missed]}`;
    if (line.earlierRuleId === null) return takenFrom(line, numberOf);
    return t`goes to rule ${numberOf(line.earlierRuleId) ?? '—'}`;
  };
  const columns: readonly Column<TriedLine>[] = [
    dateColumn,
    {
      id: 'wording',
      head: t`Wording`,
      cellClass: () => 'mono',
      cell: (line) => (
        <Link to={lineAddress(booksId, { ...line, isOpen: line.state === 'open' })}>
          {markedPieces(textOf(line), words).map(({ key, text, isMarked }) =>
            isMarked ? <mark key={key}>{text}</mark> : <span key={key}>{text}</span>,
          )}
        </Link>
      ),
      sortBy: textOf,
    },
    {
      id: 'amount',
      head: t`Amount`,
      className: 'num amount',
      cell: ({ amount }) => <Amount minor={amount} />,
      sortBy: ({ amount }) => amount,
    },
    {
      id: 'coded',
      head: t`You coded`,
      className: 'coded',
      cellClass: ({ state }) => (state === 'open' ? 'quiet' : ''),
      cell: coded,
      sortBy: coded,
    },
    {
      id: 'from',
      head: t`Taken from`,
      className: 'from',
      cellClass: () => 'quiet',
      cell: fromOf,
      sortBy: fromOf,
    },
  ];
  return (
    <div className="tried sheet">
      <DataTable
        rows={lines}
        columns={columns}
        rowKey={({ id }) => id}
        rowClass={({ isSame }) => (isSame === false ? 'differs' : '')}
      />
    </div>
  );
}

const textOf = ({ description, payee, reference }: TriedLine): string =>
  [description, payee, reference].filter(Boolean).join(' ');
