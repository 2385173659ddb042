import type { DeskLine } from '@zubrell/contract/desk';
import type { ReactNode } from 'react';
import { useShowDate } from '../../app/useToday.ts';
import { Amount } from '../../ui/Amount.tsx';
import { Moon } from '../../ui/Moon.tsx';
import type { DeskRow } from './rows.ts';
import { useDeskActions } from './useDeskActions.ts';

type LineRowOf = Extract<DeskRow, { kind: 'line' }>;
type Other = NonNullable<DeskLine['twiceOf']>;

/** The line and the one it may be a copy of, side by side, and the two answers. */
export function TwiceSection({
  row,
  other,
  focusList,
}: {
  readonly row: LineRowOf;
  readonly other: Other;
  readonly focusList: () => void;
}) {
  const { exclude, confirmBothReal } = useDeskActions();
  const showDate = useShowDate();
  const { line } = row;
  const rows: readonly (readonly [string, ReactNode, ReactNode, boolean])[] = [
    ['Date', showDate(line.date), showDate(other.date), line.date !== other.date],
    [
      'Amount',
      <Amount key="this" minor={line.amount} />,
      <Amount key="that" minor={other.amount} />,
      line.amount !== other.amount,
    ],
    ['Wording', line.description, other.description, line.description !== other.description],
  ];
  return (
    <section>
      <h2 className="small-heading">The same payment twice?</h2>
      <p className="why-line">
        <Moon kind="check" /> It is much like a line that was here before.
      </p>
      <table className="compare">
        <thead>
          <tr>
            <th />
            <th>This line</th>
            <th>Here before</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, mine, theirs, isOther]) => (
            <tr key={name}>
              <th scope="row">{name}</th>
              <td>{mine}</td>
              <td className={isOther ? 'differs' : ''}>{theirs}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="d-flex gap-2 mt-2">
        <button
          type="button"
          className="btn btn-plain"
          onClick={() => void exclude(row, 'secondCopy', { originalId: other.id }).then(focusList)}
        >
          Same, exclude this one
        </button>
        <button
          type="button"
          className="btn btn-plain"
          onClick={() => void confirmBothReal(row).then(focusList)}
        >
          Both real
        </button>
      </div>
    </section>
  );
}
