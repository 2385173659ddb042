import { t } from '@zubrell/core/words/t';
import type { ReactNode } from 'react';
import { useShowDate } from '../app/useToday.ts';
import { Amount } from './Amount.tsx';

/** What is compared of a line. */
export interface Compared {
  readonly date: string;
  readonly amount: number;
  readonly description: string;
  readonly reference?: string | null;
  readonly bankId?: string | null;
}

/** Two lines side by side; what differs is marked. */
export function CompareLines({
  heads,
  mine,
  theirs,
}: {
  readonly heads: readonly [string, string];
  readonly mine: Compared;
  readonly theirs: Compared;
}) {
  const showDate = useShowDate();
  const facts: readonly (readonly [string, keyof Compared, (line: Compared) => ReactNode])[] = [
    [t`Date`, 'date', (line) => showDate(line.date)],
    [t`Amount`, 'amount', (line) => <Amount minor={line.amount} />],
    [t`Wording`, 'description', (line) => line.description],
    [t`Reference`, 'reference', (line) => line.reference],
    [t`Bank’s id`, 'bankId', (line) => line.bankId],
  ];
  return (
    <table className="compare">
      <thead>
        <tr>
          <td />
          <th>{heads[0]}</th>
          <th>{heads[1]}</th>
        </tr>
      </thead>
      <tbody>
        {facts
          .filter(([, fact]) => mine[fact] != null || theirs[fact] != null)
          .map(([name, fact, show]) => (
            <tr key={name}>
              <th scope="row">{name}</th>
              <td>{show(mine)}</td>
              <td className={mine[fact] === theirs[fact] ? '' : 'differs'}>{show(theirs)}</td>
            </tr>
          ))}
      </tbody>
    </table>
  );
}
