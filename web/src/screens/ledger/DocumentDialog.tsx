import { skipToken } from '@reduxjs/toolkit/query';
import type { DocumentSheet } from '@zubrell/contract/documents';
import type { DocumentSide } from '@zubrell/core/ledger/documents';
import { candidateName } from '@zubrell/core/pair/candidateNames';
import { lowerFirst } from '@zubrell/core/text/lowerFirst';
import { t } from '@zubrell/core/words/t';
import { type FormEvent, useState } from 'react';
import { Modal } from 'react-bootstrap';
import { documentsApi } from '../../api/documents.ts';
import { InCurrency } from '../../app/InCurrency.tsx';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useToday } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { RateField } from '../../ui/RateField.tsx';
import { Segments } from '../../ui/Segments.tsx';
import { TextField } from '../../ui/TextField.tsx';
import { DocumentLines } from './DocumentLines.tsx';
import {
  completeDocument,
  creditNoteFor,
  type DocumentDraft,
  documentDraftOf,
  dueByTerms,
  emptyDocument,
} from './documentForm.ts';
import './ledger.scss';
import { DateField } from '../../ui/DateField.tsx';
import { PayeeField } from './PayeeField.tsx';

/** Enters a bill, invoice or credit note, or changes what was entered. */
export function DocumentDialog({
  side,
  document,
  isCredit = false,
  start,
  attachment = null,
  onClose,
}: {
  readonly side: DocumentSide;
  /** The document to be changed, or credited; null for a new one. */
  readonly document: DocumentSheet | null;
  /** A credit note for the document. */
  readonly isCredit?: boolean;
  /** What a new one begins with. */
  readonly start?: DocumentDraft;
  /** The file that it came as, to be kept with it. */
  readonly attachment?: File | null;
  readonly onClose: () => void;
}) {
  const { booksId, setup } = useBooks();
  const { told } = useUndo();
  const today = useToday();
  const [draft, setDraft] = useState<DocumentDraft>(() =>
    document === null
      ? (start ?? emptyDocument(side, today))
      : isCredit
        ? creditNoteFor(document, today)
        : documentDraftOf(document),
  );
  const [enter, entering] = documentsApi.useEnterDocumentMutation();
  const [change, changing] = documentsApi.useChangeDocumentMutation();
  const [keepAttachment] = documentsApi.useAddDocumentAttachmentMutation();
  const set = (part: Partial<DocumentDraft>) => setDraft({ ...draft, ...part });
  // The books give numbers to what they send; suppliers give their own.
  const { data: sent } = documentsApi.useDocumentsQuery(
    side === 'receivables' ? { booksId, side, state: 'open' } : skipToken,
  );
  const nextNumber =
    draft.kind === 'bill' || document !== null ? '' : (sent?.series?.[draft.kind].next ?? '');
  const numbered = draft.number === '' ? { ...draft, number: nextNumber } : draft;
  const complete = completeDocument(numbered);
  const error = entering.error ?? changing.error;
  const isBills = side === 'payables';
  const isChange = document !== null && !isCredit;
  const kinds = [
    isBills ? (['bill', t`Bill`] as const) : (['invoice', t`Invoice`] as const),
    ['creditNote', t`Credit note`] as const,
  ];

  async function save(event: FormEvent): Promise<void> {
    event.preventDefault();
    if ('missing' in complete) return;
    const { document: wanted } = complete;
    const answer =
      isChange && document
        ? await change({
            booksId,
            documentId: document.id,
            document: wanted,
            seenStep: document.lastStep,
          })
        : await enter({ booksId, ...wanted });
    if (!told(answer)) return;
    if (attachment !== null && answer.data) {
      const kept = await keepAttachment({ booksId, documentId: answer.data.id, file: attachment });
      if (kept.error)
        toast.error(t`The bill is saved, but ${attachment.name} couldn’t be attached.`);
    }
    onClose();
  }

  const isOther = /^[A-Z]{3}$/.test(draft.currency) && draft.currency !== setup.books.currency;
  const what = lowerFirst(candidateName({ kind: draft.kind, number: null }));
  return (
    <Dialog title={`${isChange ? t`Change` : t`New`} ${what}`} isWide onClose={onClose}>
      <form onSubmit={(event) => void save(event)}>
        <Modal.Body className="entry-form">
          <Segments
            label={t`Kind`}
            choices={kinds}
            value={draft.kind}
            onChange={(kind) => set({ kind })}
          />
          <div className="form-row">
            <PayeeField
              label={isBills ? t`Supplier` : t`Customer`}
              kind={isBills ? 'supplier' : 'customer'}
              value={draft.payeeId}
              autoFocus
              onChange={(payeeId) => {
                const payee = setup.payees.find(({ id }) => id === payeeId);
                set({ payeeId, dueDate: dueByTerms(draft, payee?.termsDays) });
              }}
            />
            <TextField
              label={t`Number`}
              value={draft.number}
              placeholder={nextNumber}
              maxLength={50}
              onChange={({ target }) => set({ number: target.value })}
            />
            <DateField label={t`Date`} value={draft.date} onChange={(date) => set({ date })} />
            <DateField
              label={t`Due`}
              value={draft.dueDate}
              onChange={(dueDate) => set({ dueDate })}
            />
          </div>
          <div className="form-row narrow">
            <TextField
              label={t`Currency`}
              value={draft.currency}
              placeholder={setup.books.currency}
              maxLength={3}
              onChange={({ target }) => set({ currency: target.value.toUpperCase() })}
            />
            {isOther && (
              <RateField
                currency={draft.currency}
                date={draft.date}
                value={draft.rate}
                onChange={(rate) => set({ rate })}
              />
            )}
          </div>
          <InCurrency currency={isOther ? draft.currency : null}>
            <DocumentLines draft={draft} onChange={(lines) => set({ lines })} />
          </InCurrency>
          <TextField
            label={t`Note`}
            value={draft.note}
            maxLength={1_000}
            onChange={({ target }) => set({ note: target.value })}
          />
          {'missing' in complete && <p className="quiet mb-0">{t`Enter ${complete.missing}.`}</p>}
          {error && <ErrorNote error={error} />}
        </Modal.Body>
        <DialogFoot
          isOff={'missing' in complete || entering.isLoading || changing.isLoading}
          onLeave={onClose}
        >
          {t`Save ${what}`}
        </DialogFoot>
      </form>
    </Dialog>
  );
}
