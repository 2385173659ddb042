import type { DocumentSheet } from '@zubrell/contract/documents';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { candidateName } from '@zubrell/core/pair/pairWords';
import { useState } from 'react';
import { Table } from 'react-bootstrap';
import { Link } from 'react-router';
import { api } from '../../app/api.ts';
import { lineAddress } from '../../app/lineAddress.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { DocumentDialog } from './DocumentDialog.tsx';

/** A document with its lines, what paid it, and what can be done with it. */
export function DocumentSheetPanel({
  documentId,
  onClose,
}: {
  readonly documentId: string;
  readonly onClose: () => void;
}) {
  const { booksId, accountName, payeeName, taxName, amount } = useBooks();
  const { data, error } = api.useDocumentQuery({ booksId, documentId });
  return (
    <aside className="entry" aria-label="Document">
      <header>
        <h2>{data ? candidateName(data) : 'Document'}</h2>
        <button
          type="button"
          className="btn-close"
          aria-label="Close the document"
          onClick={onClose}
        />
      </header>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Waiting what="the document" />}
      {data && (
        <>
          {data.isVoid && <p className="note off">Void: it weighs nothing.</p>}
          <div className="facts">
            <span>{data.side === 'payables' ? 'From' : 'To'}</span>
            <span>{payeeName(data.payeeId)}</span>
            <span>Date</span>
            <span>{formatLongDate(data.date)}</span>
            {data.dueDate && (
              <>
                <span>Due</span>
                <span>{formatLongDate(data.dueDate)}</span>
              </>
            )}
            <span>Amount</span>
            <span>{amount(Math.abs(data.amount))}</span>
            <span>Open</span>
            <span>
              <b>{amount(Math.abs(data.open))}</b>
            </span>
            {data.note && (
              <>
                <span>Note</span>
                <span>{data.note}</span>
              </>
            )}
          </div>
          {data.lines.length > 0 && (
            <Table>
              <thead>
                <tr>
                  <th>For</th>
                  <th className="num">With tax</th>
                </tr>
              </thead>
              <tbody>
                {data.lines.map((line, at) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: the lines of a document have no id
                  <tr key={at}>
                    <td>
                      {line.text || accountName(line.accountId)}
                      <span className="quiet d-block">
                        {accountName(line.accountId)}
                        {line.taxCodeId && `, ${taxName(line.taxCodeId)}`}
                      </span>
                    </td>
                    <td className="num">{amount(line.amount)}</td>
                  </tr>
                ))}
              </tbody>
            </Table>
          )}
          <Payments sheet={data} />
          <Actions sheet={data} />
        </>
      )}
    </aside>
  );
}

/** The lines of the bank that settled it, and the way back. */
function Payments({ sheet }: { readonly sheet: DocumentSheet }) {
  const { booksId, setup, amount } = useBooks();
  const showDate = useShowDate();
  const { told } = useUndo();
  const [reopen] = api.useReopenLinesMutation();
  if (sheet.payments.length === 0) return null;
  return (
    <section>
      <h3 className="small-heading">Settled by</h3>
      {sheet.payments.map(({ decisionId, amount: part, lines }) => (
        <div key={decisionId} className="payment">
          {lines.map((line) => (
            <Link key={line.id} to={lineAddress(booksId, { ...line, isOpen: false })}>
              {showDate(line.date)} <span className="mono">{line.description}</span>
            </Link>
          ))}
          <span className="num">{amount(Math.abs(part))}</span>
          {lines.length === 0 && <span>Set against other documents</span>}
          <button
            type="button"
            className="btn btn-plain"
            hidden={lines.length === 0}
            onClick={() =>
              void reopen({
                booksId,
                lineIds: lines.map(({ id }) => id),
                seenStep: setup.books.lastStep,
              }).then(told)
            }
          >
            Undo the pairing
          </button>
        </div>
      ))}
    </section>
  );
}

function Actions({ sheet }: { readonly sheet: DocumentSheet }) {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const [voidDocument] = api.useVoidDocumentMutation();
  const [form, setForm] = useState<'change' | 'credit' | null>(null);
  const isFree = sheet.payments.length === 0 && !sheet.isVoid && sheet.kind !== 'credit';
  const canCredit = !sheet.isVoid && (sheet.kind === 'invoice' || sheet.kind === 'bill');
  return (
    <div className="d-flex flex-wrap gap-2">
      {isFree && sheet.side === 'payables' && (
        <button type="button" className="btn btn-plain" onClick={() => setForm('change')}>
          Change it
        </button>
      )}
      {canCredit && (
        <button type="button" className="btn btn-plain" onClick={() => setForm('credit')}>
          Credit note
        </button>
      )}
      <UseCredit sheet={sheet} />
      {isFree && (
        <button
          type="button"
          className="btn btn-plain"
          onClick={() =>
            void voidDocument({ booksId, documentId: sheet.id, seenStep: sheet.lastStep }).then(
              told,
            )
          }
        >
          Void it
        </button>
      )}
      {form !== null && (
        <DocumentDialog
          side={sheet.side}
          document={sheet}
          isCredit={form === 'credit'}
          onClose={() => setForm(null)}
        />
      )}
    </div>
  );
}

/** Settles what is open of a credit note or credit against what else is open of its payee, the oldest first. */
function UseCredit({ sheet }: { readonly sheet: DocumentSheet }) {
  const { booksId, amount } = useBooks();
  const { told } = useUndo();
  const isCredit = sheet.kind === 'creditNote' || sheet.kind === 'credit';
  const { data } = api.useDocumentsQuery(
    { booksId, side: sheet.side, state: 'open', search: '' },
    { skip: !isCredit || sheet.open === 0 || sheet.isVoid },
  );
  const [offset, { isLoading }] = api.useOffsetDocumentsMutation();
  const others = (data?.documents ?? []).filter(
    ({ payeeId, open }) => payeeId === sheet.payeeId && Math.sign(open) === -Math.sign(sheet.open),
  );
  const total = others.reduce((sum, { open }) => sum + Math.abs(open), 0);
  if (others.length === 0) return null;
  const used = Math.min(total, Math.abs(sheet.open));
  return (
    <button
      type="button"
      className="btn btn-plain"
      disabled={isLoading}
      onClick={() =>
        void offset({ booksId, documentIds: [sheet.id, ...others.map(({ id }) => id)] }).then(told)
      }
    >
      Set {amount(used)} against what is open
    </button>
  );
}
