import type { DocumentSheet } from '@zubrell/contract/documents';
import type { DocumentId } from '@zubrell/core/ids';
import { candidateName } from '@zubrell/core/pair/candidateNames';
import { lowerFirst } from '@zubrell/core/text/lowerFirst';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button, CloseButton, Table } from 'react-bootstrap';
import { Link } from 'react-router';
import { documentsApi } from '../../api/documents.ts';
import { linesApi } from '../../api/lines.ts';
import { formatLongDate } from '../../app/formats.ts';
import { InCurrency } from '../../app/InCurrency.tsx';
import { lineAddress } from '../../app/lineAddress.ts';
import { shownProblem } from '../../app/problem.ts';
import { saveText } from '../../app/saveText.ts';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { shortRate } from '../../ui/RateField.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { Attachments } from './Attachments.tsx';
import { DocumentDialog } from './DocumentDialog.tsx';
import { EntryDialog } from './EntryDialog.tsx';
import { SetOffDialog } from './SetOffDialog.tsx';
import { usePayeeDocuments } from './usePayeeDocuments.ts';

/** A document with its lines, what paid it, and what can be done with it. */
export function DocumentSheetPanel({
  documentId,
  onClose,
}: {
  readonly documentId: DocumentId;
  readonly onClose: () => void;
}) {
  const { booksId } = useBooks();
  const { data, error } = documentsApi.useDocumentQuery({ booksId, documentId });
  return (
    <aside className="entry" aria-label={t`Document`}>
      <header>
        <h2>{data ? candidateName(data) : t`Document`}</h2>
        <CloseButton aria-label={t`Close the document`} onClick={onClose} />
      </header>
      {error && <ErrorNote error={error} />}
      {!data && !error && <Waiting what={t`the document`} />}
      {data && (
        <InCurrency currency={data.exchange?.currency ?? null}>
          <DocumentFacts data={data} />
          <Attachments attachments={data.attachments} />
          <Payments sheet={data} />
          <Actions sheet={data} />
        </InCurrency>
      )}
    </aside>
  );
}

/** What a document says: with whom, when, how much, and what for. */
function DocumentFacts({ data }: { readonly data: DocumentSheet }) {
  const { setup, accountName, payeeName, taxName, amount } = useBooks();
  return (
    <>
      {data.isVoid && <p className="note off">{t`Void: it no longer counts.`}</p>}
      <div className="facts">
        <span>{data.side === 'payables' ? t`From` : t`To`}</span>
        <span>{payeeName(data.payeeId)}</span>
        <span>{t`Date`}</span>
        <span>{formatLongDate(data.date)}</span>
        {data.dueDate && (
          <>
            <span>{t`Due`}</span>
            <span>{formatLongDate(data.dueDate)}</span>
          </>
        )}
        <span>{t`Amount`}</span>
        <span>{amount(Math.abs(data.amount))}</span>
        <span>{t`Open`}</span>
        <span>
          <b>{amount(Math.abs(data.open))}</b>
        </span>
        {data.exchange && (
          <>
            <span>{t`Rate`}</span>
            <span>
              1 {data.exchange.currency} = {shortRate(data.exchange.rate)} {setup.books.currency}
            </span>
          </>
        )}
        {data.note && (
          <>
            <span>{t`Note`}</span>
            <span>{data.note}</span>
          </>
        )}
      </div>
      {data.lines.length > 0 && (
        <Table>
          <thead>
            <tr>
              <th>{t`For`}</th>
              <th className="num">{t`With tax`}</th>
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
    </>
  );
}

/** Saves an invoice in the form that machines read. */
function SaveInvoice({ sheet }: { readonly sheet: DocumentSheet }) {
  const { booksId } = useBooks();
  const [load, { isFetching }] = documentsApi.useLazyDocumentInvoiceQuery();
  return (
    <Button
      variant="plain"
      disabled={isFetching}
      onClick={async () => {
        const { data, error } = await load({ booksId, invoiceId: sheet.id });
        if (error) toast.error(shownProblem(error).message);
        else if (data) saveText(data.xml, `${candidateName(sheet)}.xml`, 'application/xml');
      }}
    >
      {t`Save e-invoice`}
    </Button>
  );
}

/** The lines of the bank and the entries that settled it, and the way back. */
function Payments({ sheet }: { readonly sheet: DocumentSheet }) {
  const { booksId, amount } = useBooks();
  const showDate = useShowDate();
  const { told } = useUndo();
  const [reopen] = linesApi.useReopenLinesMutation();
  if (sheet.payments.length === 0) return null;
  return (
    <section>
      <h3 className="small-heading">{t`Settled by`}</h3>
      {sheet.payments.map(({ decisionId, amount: part, lines, entry }) => (
        <div key={decisionId} className="payment">
          {entry && (
            <Link to={`/books/${booksId}/ledger/entries?entry=${entry.id}`}>
              {candidateName(entry)}, {showDate(entry.date)}
            </Link>
          )}
          {lines.map((line) => (
            <Link key={line.id} to={lineAddress(booksId, { ...line, isOpen: false })}>
              {showDate(line.date)} <span className="mono">{line.description}</span>
            </Link>
          ))}
          <span className="num">{amount(Math.abs(part))}</span>
          {lines.length === 0 && entry === null && <span>{t`Set against other documents`}</span>}
          <Button
            variant="plain"
            hidden={lines.length === 0}
            onClick={() =>
              void reopen({
                booksId,
                target: { lineIds: lines.map(({ id }) => id) },
                seenStep: sheet.seenStep,
              }).then(told)
            }
          >
            {t`Undo pairing`}
          </Button>
        </div>
      ))}
    </section>
  );
}

function Actions({ sheet }: { readonly sheet: DocumentSheet }) {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const [voidDocument] = documentsApi.useVoidDocumentMutation();
  const [form, setForm] = useState<'change' | 'credit' | null>(null);
  const kindName = lowerFirst(candidateName({ kind: sheet.kind, number: null }));
  const isFree = sheet.payments.length === 0 && !sheet.isVoid && sheet.kind !== 'credit';
  const canCredit = !sheet.isVoid && (sheet.kind === 'invoice' || sheet.kind === 'bill');
  return (
    <div className="d-flex flex-wrap gap-2">
      {isFree && sheet.side === 'payables' && (
        <Button variant="plain" onClick={() => setForm('change')}>
          {t`Change ${kindName}`}
        </Button>
      )}
      {canCredit && (
        <Button variant="plain" onClick={() => setForm('credit')}>
          {t`Credit note`}
        </Button>
      )}
      {sheet.side === 'receivables' && sheet.kind !== 'credit' && (
        <a
          className="btn btn-plain"
          href={`/api/books/${booksId}/documents/${sheet.id}/pdf`}
          target="_blank"
          rel="noreferrer"
        >
          {t`Open PDF`}
        </a>
      )}
      {sheet.side === 'receivables' && sheet.kind !== 'credit' && <SaveInvoice sheet={sheet} />}
      <EnterPayment sheet={sheet} />
      <SetOff sheet={sheet} />
      {isFree && (
        <Button
          variant="plain"
          onClick={() =>
            void voidDocument({ booksId, documentId: sheet.id, seenStep: sheet.lastStep }).then(
              told,
            )
          }
        >
          {t`Void ${kindName}`}
        </Button>
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

/** Settles what is open against what else is open of its payee the other way. */
function SetOff({ sheet }: { readonly sheet: DocumentSheet }) {
  const [isOpen, setIsOpen] = useState(false);
  const isLeft = sheet.open !== 0 && !sheet.isVoid;
  const others = usePayeeDocuments(isLeft ? sheet.payeeId : null).filter(
    ({ open }) => Math.sign(open) === -Math.sign(sheet.open),
  );
  if (others.length === 0) return null;
  return (
    <>
      <Button variant="plain" onClick={() => setIsOpen(true)}>
        {t`Settle without money`}
      </Button>
      {isOpen && <SetOffDialog document={sheet} others={others} onClose={() => setIsOpen(false)} />}
    </>
  );
}

/** Enters a payment that the bank has not reported yet. */
function EnterPayment({ sheet }: { readonly sheet: DocumentSheet }) {
  const [isOpen, setIsOpen] = useState(false);
  if (sheet.open === 0 || sheet.isVoid) return null;
  return (
    <>
      <Button variant="plain" onClick={() => setIsOpen(true)}>
        {t`Enter payment`}
      </Button>
      {isOpen && (
        <EntryDialog
          entry={null}
          start={{
            kind: sheet.open < 0 ? 'payment' : 'receipt',
            payeeId: sheet.payeeId,
            amount: Math.abs(sheet.open),
            settles: [{ documentId: sheet.id, amount: sheet.open }],
          }}
          onClose={() => setIsOpen(false)}
        />
      )}
    </>
  );
}
