import { skipToken } from '@reduxjs/toolkit/query';
import type { LineId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { habitsApi } from '../../api/habits.ts';
import { lineAddress } from '../../app/lineAddress.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { Amount } from '../../ui/Amount.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';

/** The decided lines that speak for what is proposed, each leading to itself; fetched when they are asked for. */
export function EvidenceList({ lineId }: { readonly lineId: LineId }) {
  const { booksId, accountName } = useBooks();
  const showDate = useShowDate();
  const [isOpen, setIsOpen] = useState(false);
  const { data, error } = habitsApi.useEvidenceQuery(isOpen ? { booksId, lineId } : skipToken);
  const accounts = new Set(data?.lines.map((line) => line.accountId));
  return (
    <div className="evidence">
      <Button
        variant="link"
        className="p-0"
        aria-expanded={isOpen}
        onClick={() => setIsOpen(!isOpen)}
      >
        {isOpen ? t`Hide these lines` : t`Show the lines behind this`}
      </Button>
      {error !== undefined && <ErrorNote error={error} />}
      {isOpen && data && (
        <ul>
          {data.lines.map(({ id, date, amount, description, accountId, share }) => (
            <li
              key={id}
              title={t`${accountName(accountId)}, ${Math.round(100 * share)} % of the weight`}
            >
              <span className="quiet">{showDate(date)}</span>
              <Link
                className="mono"
                to={lineAddress(booksId, { date, description, isOpen: false })}
              >
                {description}
              </Link>
              <span className="num">
                <Amount minor={amount} />
              </span>
              {accounts.size > 1 && <span className="account quiet">{accountName(accountId)}</span>}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
