import type { TriedLine } from '@zubrell/contract/rules';
import type { RuleId } from '@zubrell/core/ids';
import { Table } from 'react-bootstrap';
import { Link } from 'react-router';
import { lineAddress } from '../../app/lineAddress.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { Amount } from '../../ui/Amount.tsx';
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
  const showDate = useShowDate();
  if (lines.length === 0) return <p className="quiet">{empty}</p>;
  const coded = (line: TriedLine): string => {
    if (line.state !== 'posted') return line.state;
    const accounts = [...new Set(line.accountIds.map(accountName))].join(', ');
    return line.isSame === false && line.taxCodeId
      ? `${accounts} · ${taxName(line.taxCodeId)}`
      : accounts;
  };
  return (
    <div className="tried sheet">
      <Table>
        <thead>
          <tr>
            <th className="date">Date</th>
            <th>Wording</th>
            <th className="num amount">Amount</th>
            <th className="coded">You coded</th>
            <th className="from">Taken from</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <tr key={line.id} className={line.isSame === false ? 'differs' : ''}>
              <td className="date">{showDate(line.date)}</td>
              <td className="mono">
                <Link to={lineAddress(booksId, { ...line, isOpen: line.state === 'open' })}>
                  {markedPieces(textOf(line), words).map(({ key, text, isMarked }) =>
                    isMarked ? <mark key={key}>{text}</mark> : <span key={key}>{text}</span>,
                  )}
                </Link>
              </td>
              <td className="num amount">
                <Amount minor={line.amount} />
              </td>
              <td className={line.state === 'open' ? 'coded quiet' : 'coded'}>{coded(line)}</td>
              <td className="from quiet">
                {line.missed !== null
                  ? `but for ${missedNames[line.missed]}`
                  : line.earlierRuleId !== null
                    ? `goes to rule ${numberOf(line.earlierRuleId) ?? '—'}`
                    : takenFrom(line, numberOf)}
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </div>
  );
}

const textOf = ({ description, payee, reference }: TriedLine): string =>
  [description, payee, reference].filter(Boolean).join(' ');
