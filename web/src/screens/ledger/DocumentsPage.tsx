import type { Documents, ListedDocument } from '@zubrell/contract/documents';
import type { DocumentSide } from '@zubrell/core/ledger/documents';
import { candidateName } from '@zubrell/core/pair/candidateNames';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { useSearchParams } from 'react-router';
import { documentsApi } from '../../api/documents.ts';
import { counted } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { type Column, DataTable } from '../../ui/DataTable.tsx';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Segments } from '../../ui/Segments.tsx';
import { useDateColumn } from '../../ui/useDateColumn.ts';
import { Waiting } from '../../ui/Waiting.tsx';
import { DocumentDialog } from './DocumentDialog.tsx';
import { DocumentSheetPanel } from './DocumentSheetPanel.tsx';
import type { DocumentDraft } from './documentForm.ts';
import { EInvoiceDialog } from './EInvoiceDialog.tsx';
import { ImportRecordsDialog } from './ImportRecordsDialog.tsx';
import { LedgerTabs } from './LedgerTabs.tsx';
import './ledger.scss';

const STATES = [
  ['open', t`Open`],
  ['settled', t`Settled`],
  ['void', t`Void`],
  ['all', t`All`],
] as const;

/** Bills from suppliers. */
export function BillsPage() {
  return <DocumentsPage key="payables" side="payables" />;
}

/** Invoices to customers. */
export function InvoicesPage() {
  return <DocumentsPage key="receivables" side="receivables" />;
}

function DocumentsPage({ side }: { readonly side: DocumentSide }) {
  const { booksId } = useBooks();
  const [params, setParams] = useSearchParams();
  const [state, setState] = useState<(typeof STATES)[number][0]>('open');
  const [search, setSearch] = useState('');
  const [open, setOpen] = useState<'document' | 'file' | null>(null);
  /** An electronic invoice that is read, and then the bill that it makes. */
  const [invoice, setInvoice] = useState<File | null>(null);
  const [draft, setDraft] = useState<DocumentDraft | null>(null);
  const { data, error } = documentsApi.useDocumentsQuery(
    { booksId, side, state: state === 'all' ? undefined : state, search: search.trim() },
    { refetchOnMountOrArgChange: true },
  );
  const documentId = params.get('document');
  const isBills = side === 'payables';
  const missing = [
    ...(data?.series?.invoice.missing ?? []),
    ...(data?.series?.creditNote.missing ?? []),
  ];
  return (
    <main className="ledger-list">
      <header className="list-head">
        <h1>{t`Ledger`}</h1>
        <LedgerTabs current={isBills ? 'bills' : 'invoices'} />
        <Segments label={t`State`} choices={STATES} value={state} onChange={setState} />
        <input
          type="search"
          className="form-control"
          aria-label={t`Search`}
          placeholder={t`Number, payee, amount`}
          value={search}
          onChange={({ target }) => setSearch(target.value)}
        />
        <span className="ways">
          <Button variant="plain" onClick={() => setOpen('file')}>
            {isBills ? t`Import bills` : t`Import invoices`}
          </Button>
          <Button variant="main" onClick={() => setOpen('document')}>
            {isBills ? t`New bill` : t`New invoice`}
          </Button>
        </span>
      </header>
      <section className="list-body" aria-label={isBills ? t`Bills` : t`Invoices`}>
        {error && <ErrorNote error={error} />}
        {!data && !error && <Waiting what={isBills ? t`the bills` : t`the invoices`} />}
        {data && <Ages ages={data.ages} />}
        {missing.length > 0 && (
          <p className="doubt">
            {missing.length === 1
              ? t`A number is missing in the series: ${missing[0]}`
              : t`${missing.length} numbers are missing in the series: ${missing.slice(0, 12).join(', ')}`}
            {missing.length > 12 && ' …'}
          </p>
        )}
        {data && data.documents.length === 0 && (
          <EmptyState title={isBills ? t`No bills` : t`No invoices`}>
            <p>
              {isBills
                ? t`Enter bills as they arrive. When the bank reports the payment, the line is paired with the bill and nothing is booked twice.`
                : t`Enter invoices when you send them. When the money arrives, the line is paired with the invoice.`}
            </p>
          </EmptyState>
        )}
        {data && data.documents.length > 0 && (
          <DocumentsTable
            documents={data.documents}
            today={data.today}
            currentId={documentId}
            onDocument={(id) => setParams({ document: id })}
          />
        )}
      </section>
      {documentId !== null && (
        <DocumentSheetPanel
          key={documentId}
          documentId={documentId}
          onClose={() => setParams({})}
        />
      )}
      {open === 'document' && (
        <DocumentDialog side={side} document={null} onClose={() => setOpen(null)} />
      )}
      {open === 'file' && (
        <ImportRecordsDialog
          kind="documents"
          onInvoice={(file) => {
            setOpen(null);
            setInvoice(file);
          }}
          onClose={() => setOpen(null)}
        />
      )}
      {invoice !== null && draft === null && (
        <EInvoiceDialog file={invoice} onBill={setDraft} onClose={() => setInvoice(null)} />
      )}
      {invoice !== null && draft !== null && (
        <DocumentDialog
          side="payables"
          document={null}
          start={draft}
          attachment={invoice}
          onClose={() => {
            setInvoice(null);
            setDraft(null);
          }}
        />
      )}
    </main>
  );
}

const AGES = {
  notDue: t`Not due yet`,
  to30: t`Up to 30 days late`,
  to60: t`31 to 60`,
  to90: t`61 to 90`,
  older: t`Older`,
} as const;

/** What is open, by how late it is. */
function Ages({ ages }: { readonly ages: Documents['ages'] }) {
  const { amount } = useBooks();
  return (
    <dl className="ages">
      {ages.map(({ age, count, amount: sum }) => (
        <div key={age} className={count > 0 && age !== 'notDue' ? 'late' : ''}>
          <dt>{AGES[age]}</dt>
          <dd>
            <b>{amount(Math.abs(sum))}</b>
            <span className="quiet">{counted(count, 'open', 'open')}</span>
          </dd>
        </div>
      ))}
    </dl>
  );
}

/** In which currency a document’s amounts are shown. */
function inIts({ exchange }: ListedDocument): { readonly currency?: string } {
  return exchange === null ? {} : { currency: exchange.currency };
}

function DocumentsTable({
  documents,
  today,
  currentId,
  onDocument,
}: {
  readonly documents: readonly ListedDocument[];
  readonly today: string;
  readonly currentId: string | null;
  readonly onDocument: (id: string) => void;
}) {
  const { amount, payeeName } = useBooks();
  const showDate = useShowDate();
  const dateColumn = useDateColumn();
  const columns: readonly Column<ListedDocument>[] = [
    dateColumn,
    {
      id: 'what',
      head: t`What`,
      cell: (each) => (
        <Button variant="link" onClick={() => onDocument(each.id)}>
          {candidateName(each)}
        </Button>
      ),
      sortBy: candidateName,
    },
    {
      id: 'payee',
      head: t`Payee`,
      cell: ({ payeeId }) => payeeName(payeeId),
      sortBy: ({ payeeId }) => payeeName(payeeId),
    },
    {
      id: 'due',
      head: t`Due`,
      cell: ({ dueDate, open }) =>
        dueDate !== null && (
          <span className={open !== 0 && dueDate < today ? 'doubt' : ''}>{showDate(dueDate)}</span>
        ),
      sortBy: ({ dueDate }) => dueDate ?? '',
    },
    {
      id: 'amount',
      head: t`Amount`,
      className: 'num',
      cell: (each) => amount(Math.abs(each.amount), inIts(each)),
      sortBy: (each) => Math.abs(each.amount),
    },
    {
      id: 'open',
      head: t`Open`,
      className: 'num',
      cell: (each) => (each.isVoid ? t`void` : amount(Math.abs(each.open), inIts(each))),
      sortBy: ({ isVoid, open }) => (isVoid ? 0 : Math.abs(open)),
    },
  ];
  return (
    <DataTable
      className="list-table"
      rows={documents}
      columns={columns}
      rowKey={({ id }) => id}
      rowClass={({ id, isVoid }) =>
        `${id === currentId ? 'current' : ''} ${isVoid ? 'void' : ''}`.trim()
      }
    />
  );
}
