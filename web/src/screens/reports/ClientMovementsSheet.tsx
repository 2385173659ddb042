import type { BankAccountId, PayeeId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { CloseButton, Table } from 'react-bootstrap';
import { Link } from 'react-router';
import { reportsApi } from '../../api/reports.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import type { Period } from './reportPeriod.ts';

/** What moved of one client's money, with what was left after each. */
export function ClientMovementsSheet({
  bankAccountId,
  clientId,
  period,
  onClose,
}: {
  readonly bankAccountId: BankAccountId;
  readonly clientId: PayeeId;
  readonly period: Period;
  readonly onClose: () => void;
}) {
  const { booksId, payeeName, amount } = useBooks();
  const showDate = useShowDate();
  const { currentData: data, error } = reportsApi.useClientMovementsQuery({
    booksId,
    bankAccountId,
    clientId,
    ...period,
  });
  return (
    <aside className="figure" aria-label={t`Money of ${payeeName(clientId)}`}>
      <header>
        <h2>{payeeName(clientId)}</h2>
        <CloseButton aria-label={t`Close`} onClick={onClose} />
      </header>
      {error !== undefined && <ErrorNote error={error} />}
      {!data && error === undefined && <Waiting what={t`what moved`} />}
      {data && (
        <Table>
          <thead>
            <tr>
              <th>{t`Date`}</th>
              <th className="num">{t`Amount`}</th>
              <th className="num">{t`Left`}</th>
            </tr>
          </thead>
          <tbody>
            {data.movements.map(
              ({ legId, entryId, accountId, date, text, payeeId, ...moved }, at) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: a leg may come twice, once taken back
                <tr key={`${legId} ${at}`}>
                  <td>
                    <Link to={`/books/${booksId}/ledger/${accountId}?entry=${entryId}`}>
                      {showDate(date)}
                    </Link>
                    <span className="quiet d-block">{text || payeeName(payeeId)}</span>
                  </td>
                  <td className="num">{amount(moved.amount, { plus: true })}</td>
                  <td className="num">{amount(moved.balance)}</td>
                </tr>
              ),
            )}
          </tbody>
        </Table>
      )}
    </aside>
  );
}
