import type { OutstandingItem, Scope } from '@zubrell/contract/desk';
import { candidateName } from '@zubrell/core/pair/candidateNames';
import { t } from '@zubrell/core/words/t';
import { Button, Modal, Table } from 'react-bootstrap';
import { Link } from 'react-router';
import { linesApi } from '../../../api/lines.ts';
import { useBooks } from '../../../app/useBooks.ts';
import { useShowDate } from '../../../app/useToday.ts';
import { Amount } from '../../../ui/Amount.tsx';
import { Dialog } from '../../../ui/Dialog.tsx';
import { ErrorNote } from '../../../ui/ErrorNote.tsx';
import { Waiting } from '../../../ui/Waiting.tsx';
import { proofScope } from '../deskScope.ts';

/** What an entry is called. @example 'Cheque 001042, Penhallow Clay' */
function entryName({ kind, number, payee, text }: OutstandingItem): string {
  const name = kind === null ? null : candidateName({ kind, number });
  return [name, payee, text].filter(Boolean).join(', ');
}

/** The entries and pairings that the bank has not reported by the day of the proof. */
export function OutstandingDialog({
  scope,
  onClose,
}: {
  readonly scope: Scope;
  readonly onClose: () => void;
}) {
  const { booksId, bankAccountName, currencyOf } = useBooks();
  const showDate = useShowDate();
  const { data, error } = linesApi.useProofOutstandingQuery({
    booksId,
    ...proofScope(scope),
  });
  return (
    <Dialog title={t`Not yet at the bank`} isWide onClose={onClose}>
      <Modal.Body>
        {error && <ErrorNote error={error} />}
        {!data && !error && <Waiting what={t`the entries`} />}
        {data && (
          <Table>
            <thead>
              <tr>
                <th>{t`Date`}</th>
                <th>{t`Bank account`}</th>
                <th>{t`Entry`}</th>
                <th className="num">{t`Amount`}</th>
              </tr>
            </thead>
            <tbody>
              {data.items.map((item) => (
                <tr key={`${item.entryId} ${item.lineId} ${item.bankAccountId}`}>
                  <td className="text-nowrap">{showDate(item.date)}</td>
                  <td>{bankAccountName(item.bankAccountId)}</td>
                  <td>
                    <Link
                      to={`/books/${booksId}/ledger/entries?entry=${item.entryId}`}
                      onClick={onClose}
                    >
                      {entryName(item)}
                    </Link>
                  </td>
                  <td className="num">
                    <Amount minor={item.amount} currency={currencyOf(item.bankAccountId)} />
                  </td>
                </tr>
              ))}
            </tbody>
          </Table>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="plain" onClick={onClose}>
          {t`Close`}
        </Button>
      </Modal.Footer>
    </Dialog>
  );
}
