import type { EInvoice } from '@zubrell/core/invoices/eInvoice';
import { nameKey } from '@zubrell/core/text/nameKey';
import { t } from '@zubrell/core/words/t';
import { useEffect, useState } from 'react';
import { Modal } from 'react-bootstrap';
import { booksApi } from '../../api/books.ts';
import { documentsApi } from '../../api/documents.ts';
import { formatLongDate } from '../../app/formats.ts';
import { InCurrency } from '../../app/InCurrency.tsx';
import { useBooks } from '../../app/useBooks.ts';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import type { DocumentDraft } from './documentForm.ts';
import { billDraft, type ReadEInvoice, readEInvoice, senderOf } from './eInvoiceDraft.ts';
import { PayeeField } from './PayeeField.tsx';

/** Shows what an electronic invoice says and whether it adds up, and goes on to entering it as a bill. */
export function EInvoiceDialog({
  file,
  onBill,
  onClose,
}: {
  readonly file: File;
  readonly onBill: (draft: DocumentDraft) => void;
  readonly onClose: () => void;
}) {
  const [read, setRead] = useState<ReadEInvoice | null>(null);
  useEffect(() => {
    let isOpen = true;
    void readEInvoice(file).then((found) => isOpen && setRead(found));
    return () => {
      isOpen = false;
    };
  }, [file]);
  if (read === null || 'fault' in read) {
    return (
      <Dialog title={file.name} onClose={onClose}>
        <Modal.Body>
          {read === null ? (
            <Waiting what={t`the invoice`} />
          ) : (
            <p className="error-note" role="alert">
              {read.fault}
            </p>
          )}
        </Modal.Body>
      </Dialog>
    );
  }
  return (
    <InCurrency currency={read.invoice.currency}>
      <Shown {...read} fileName={file.name} onBill={onBill} onClose={onClose} />
    </InCurrency>
  );
}

function Shown({
  invoice,
  problems,
  fileName,
  onBill,
  onClose,
}: {
  readonly invoice: EInvoice;
  readonly problems: readonly string[];
  readonly fileName: string;
  readonly onBill: (draft: DocumentDraft) => void;
  readonly onClose: () => void;
}) {
  const { booksId, setup, amount } = useBooks();
  const known = senderOf(invoice, setup);
  const [payeeId, setPayeeId] = useState<string | null>(known?.id ?? null);
  const [makePayee, making] = booksApi.useCreatePayeeMutation();
  const uses = booksApi.usePayeeUsesQuery(booksId);
  const there = documentsApi.useDocumentsQuery({
    booksId,
    side: 'payables',
    state: undefined,
    search: invoice.number,
  });
  const twice = there.data?.documents.find(
    (each) =>
      !each.isVoid &&
      each.payeeId === payeeId &&
      each.kind === (invoice.kind === 'creditNote' ? 'creditNote' : 'bill') &&
      nameKey(each.number ?? '') === nameKey(invoice.number),
  );
  const { totals } = invoice;
  const isNew = payeeId === null;
  const { draft, untaxed } = billDraft(invoice, payeeId, setup, uses.data?.uses ?? []);

  async function goOn(): Promise<void> {
    const made = isNew
      ? await makePayee({ booksId, name: invoice.seller.name.slice(0, 100), kind: 'supplier' })
      : null;
    const id = made ? made.data?.id : payeeId;
    if (id) onBill({ ...draft, payeeId: id });
  }

  const name = invoice.kind === 'creditNote' ? t`Credit note` : t`Invoice`;
  return (
    <Dialog title={t`${name} ${invoice.number} of ${invoice.seller.name}`} isWide onClose={onClose}>
      <Modal.Body className="entry-form">
        <div className="facts">
          <span>{t`From`}</span>
          <span>{[invoice.seller.name, ...invoice.seller.address].join(', ')}</span>
          <span>{t`To`}</span>
          <span>{invoice.buyer.name}</span>
          <span>{t`Date`}</span>
          <span>
            {formatLongDate(invoice.date)}
            {invoice.dueDate !== null && t`, due ${formatLongDate(invoice.dueDate)}`}
          </span>
          {invoice.account !== null && (
            <>
              <span>{t`To be paid to`}</span>
              <span>
                {invoice.account}
                {invoice.paymentReference !== null && t`, naming ${invoice.paymentReference}`}
              </span>
            </>
          )}
          <span>{t`File`}</span>
          <span>
            {fileName}, {invoice.form === 'UBL' ? t`UBL 2.1` : t`Cross Industry Invoice`}
          </span>
        </div>
        <table className="table">
          <thead>
            <tr>
              <th>{t`For`}</th>
              <th className="num">{t`Tax`}</th>
              <th className="num">{t`Without tax`}</th>
            </tr>
          </thead>
          <tbody>
            {[...invoice.lines, ...invoice.adjustments]
              .slice(0, 50)
              .map(({ text, net, tax }, at) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: lines of a file have no id
                <tr key={at}>
                  <td>{text}</td>
                  <td className="num">{tax.rate === 0 ? '—' : `${tax.rate / 100} %`}</td>
                  <td className="num">{amount(net)}</td>
                </tr>
              ))}
          </tbody>
          <tfoot>
            <tr>
              <th colSpan={2}>{t`Without tax`}</th>
              <td className="num">{amount(totals.net)}</td>
            </tr>
            <tr>
              <th colSpan={2}>{t`Tax`}</th>
              <td className="num">{amount(totals.tax)}</td>
            </tr>
            <tr>
              <th colSpan={2}>{t`Total`}</th>
              <td className="num">
                <b>{amount(totals.gross)}</b>
              </td>
            </tr>
          </tfoot>
        </table>
        {problems.length === 0 ? (
          <p className="quiet mb-0">{t`The totals add up.`}</p>
        ) : (
          <ul className="problems">
            {problems.map((problem) => (
              <li key={problem} className="trouble">
                {problem}
              </li>
            ))}
          </ul>
        )}
        {totals.prepaid !== 0 && (
          <p className="doubt mb-0">
            {t`${amount(totals.prepaid)} were already paid: the bill is entered in full, so pair that payment with it.`}
          </p>
        )}
        {untaxed.length > 0 && (
          <p className="doubt mb-0">
            {t`These books have no tax code for ${untaxed.join(', ')}, so that part is entered without a tax code. Add the code under Tax codes first if you reclaim the tax.`}
          </p>
        )}
        {nameKey(invoice.buyer.name) !== nameKey(setup.books.name) && (
          <p className="doubt mb-0">
            {t`It is addressed to ${invoice.buyer.name}, and these books are ${setup.books.name}.`}
          </p>
        )}
        {twice && (
          <p className="trouble mb-0" role="alert">
            {t`This number of ${invoice.seller.name} was entered already, on ${formatLongDate(twice.date)}.`}
          </p>
        )}
        <PayeeField
          label={t`Supplier`}
          kind="supplier"
          value={payeeId}
          onChange={(id) => setPayeeId(id)}
        />
        {isNew && (
          <p className="quiet mb-0">
            {t`${invoice.seller.name} isn’t a payee yet and will be added. Choose a payee if it has another name here.`}
          </p>
        )}
        {making.error && <ErrorNote error={making.error} />}
      </Modal.Body>
      <DialogFoot
        isOff={twice !== undefined || making.isLoading || uses.isLoading || there.isLoading}
        onLeave={onClose}
        onConfirm={goOn}
      >
        {invoice.kind === 'creditNote' ? t`Enter as credit note` : t`Enter as bill`}
      </DialogFoot>
    </Dialog>
  );
}
