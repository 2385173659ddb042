import type { ListedDocument } from '@zubrell/contract/documents';
import { offsetAmounts } from '@zubrell/core/ledger/documents';
import { candidateName } from '@zubrell/core/pair/candidateNames';
import { t } from '@zubrell/core/words/t';
import { type FormEvent, useState } from 'react';
import { Modal, Table } from 'react-bootstrap';
import { documentsApi } from '../../api/documents.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate, useToday } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';

/** Settles a document against others of its payee that run the other way, without any money. */
export function SetOffDialog({
  document,
  others,
  onClose,
}: {
  readonly document: ListedDocument;
  /** What is open of the payee the other way. */
  readonly others: readonly ListedDocument[];
  readonly onClose: () => void;
}) {
  const { booksId, amount, payeeName } = useBooks();
  const { told } = useUndo();
  const showDate = useShowDate();
  const [date, setDate] = useState(useToday());
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [offset, { isLoading, error }] = documentsApi.useOffsetDocumentsMutation();
  const all = [document, ...others].sort((a, b) => (a.date < b.date ? -1 : 1));
  const ticked = all.filter(({ id }) => !left.has(id));
  const amounts = offsetAmounts(ticked.map(({ open }) => open));
  const used = new Map(ticked.map(({ id }, at) => [id, amounts[at] ?? 0]));
  const total = amounts.reduce((sum, each) => sum + Math.max(each, 0), 0);
  const isAcross = ticked.some(({ side }) => side !== document.side);

  function tick(id: string, isOn: boolean): void {
    const next = new Set(left);
    if (isOn) next.delete(id);
    else next.add(id);
    setLeft(next);
  }

  async function save(event: FormEvent): Promise<void> {
    event.preventDefault();
    const documentIds = ticked.map(({ id }) => id);
    const answer = await offset({ booksId, documentIds, ...(isAcross ? { date } : {}) });
    if (answer.data && told(answer)) onClose();
  }

  return (
    <Dialog title={t`Settle ${payeeName(document.payeeId)} without money`} isWide onClose={onClose}>
      <form onSubmit={(event) => void save(event)}>
        <Modal.Body>
          <Table>
            <thead>
              <tr>
                <th>{t`What`}</th>
                <th>{t`Date`}</th>
                <th className="num">{t`Open`}</th>
                <th className="num">{t`Settled now`}</th>
              </tr>
            </thead>
            <tbody>
              {all.map((each) => (
                <tr key={each.id}>
                  <td>
                    <label className="d-flex gap-2 align-items-baseline">
                      <input
                        type="checkbox"
                        className="form-check-input"
                        checked={!left.has(each.id)}
                        disabled={each.id === document.id}
                        onChange={({ target }) => tick(each.id, target.checked)}
                      />
                      {candidateName(each)}
                    </label>
                  </td>
                  <td>{showDate(each.date)}</td>
                  <td className="num">{amount(Math.abs(each.open))}</td>
                  <td className="num">{amount(Math.abs(used.get(each.id) ?? 0))}</td>
                </tr>
              ))}
            </tbody>
          </Table>
          {isAcross && (
            <DateField
              label={t`Date`}
              value={date}
              hint={t`An entry on this day reduces what is owed on both sides`}
              onChange={setDate}
            />
          )}
          {error && <ErrorNote error={error} />}
        </Modal.Body>
        <DialogFoot isOff={total === 0 || isLoading} onLeave={onClose}>
          {t`Settle ${amount(total)}`}
        </DialogFoot>
      </form>
    </Dialog>
  );
}
