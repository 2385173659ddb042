import type { Imported } from '@zubrell/contract/ledger';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Modal } from 'react-bootstrap';
import { useDropzone } from 'react-dropzone';
import { booksApi } from '../../api/books.ts';
import { currenciesApi } from '../../api/currencies.ts';
import { documentsApi } from '../../api/documents.ts';
import { ledgerApi } from '../../api/ledger.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Dialog } from '../../ui/Dialog.tsx';
import { DialogFoot } from '../../ui/DialogFoot.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { tx } from '../../ui/tx.tsx';
import { mayBeInvoice } from './eInvoiceDraft.ts';

const WANTED = {
  documents: {
    title: t`Bills and invoices from a file`,
    columns: 'Kind, Number, Payee, Date, Due, Amount, Account, Tax, Text',
    kinds: 'bill, invoice, credit note, supplier credit note',
    example: 'bill;2093;Penhallow Clay;02.03.2026;01.04.2026;312,40;5020;20 %;Stoneware',
  },
  accounts: {
    title: t`Chart of accounts from a file`,
    columns: 'Code, Name, Type, Below, Tax, Words',
    kinds: 'asset, liability, equity, income, expense',
    example: '6210;Kiln fuel;expense;6000;by type;propane wood',
  },
  rates: {
    title: t`Exchange rates from a file`,
    columns: t`Date, Currency, Rate, Base, or Date and a column for each currency`,
    kinds: '',
    example: `Date;USD;GBP
2026-03-03;1.0832;0.8412`,
  },
  entries: {
    title: t`Entries from a file`,
    columns: 'Kind, Date, Amount, Bank account, Number, Payee, Account, Tax, Text, To',
    kinds: 'payment, receipt, cheque, deposit, transfer',
    example: 'cheque;02.03.2026;48,50;Everyday;001042;Penhallow Clay;5020;20 %;;',
  },
} as const;

/** Reads entries or documents from a CSV file; says all that is wrong before anything is kept. */
export function ImportRecordsDialog({
  kind,
  onInvoice,
  onClose,
}: {
  readonly kind: keyof typeof WANTED;
  /** Takes a file that is an electronic invoice, where these can come. */
  readonly onInvoice?: (file: File) => void;
  readonly onClose: () => void;
}) {
  const { booksId, setup } = useBooks();
  const { told } = useUndo();
  const [text, setText] = useState<string | null>(null);
  const [fileName, setFileName] = useState('');
  const [found, setFound] = useState<Imported | null>(null);
  const ofEntries = ledgerApi.useImportEntriesMutation();
  const ofDocuments = documentsApi.useImportDocumentsMutation();
  const ofAccounts = booksApi.useImportChartMutation();
  const ofRates = currenciesApi.useImportRatesMutation();
  const { isLoading, error } = {
    entries: ofEntries,
    documents: ofDocuments,
    accounts: ofAccounts,
    rates: ofRates,
  }[kind][1];
  const { title, columns, kinds, example } = WANTED[kind];
  const isNaming = found !== null && found.problems.length === 0 && found.newPayees.length > 0;

  async function send(content: string, makePayees: boolean): Promise<void> {
    const answer =
      kind === 'accounts' || kind === 'rates'
        ? await (kind === 'accounts' ? ofAccounts : ofRates)[0]({ booksId, text: content })
        : await (kind === 'entries' ? ofEntries : ofDocuments)[0]({
            booksId,
            text: content,
            makePayees,
          });
    if (!answer.data) return;
    if (answer.data.step === null) setFound(answer.data);
    else if (told(answer)) onClose();
  }

  const { getRootProps, getInputProps, isDragActive } = useDropzone({
    multiple: false,
    onDropAccepted: ([file]) => {
      if (!file) return;
      if (onInvoice && mayBeInvoice(file)) {
        onInvoice(file);
        return;
      }
      setFileName(file.name);
      void file.text().then((content) => {
        setText(content);
        void send(content, false);
      });
    },
  });

  return (
    <Dialog title={title} isWide onClose={onClose}>
      <Modal.Body className="entry-form">
        <div {...getRootProps({ className: `drop-zone ${isDragActive ? 'over' : ''}` })}>
          <input
            {...getInputProps({
              'aria-label': kind === 'rates' ? t`A file of rates` : t`A CSV file`,
            })}
          />
          {text === null
            ? onInvoice
              ? t`Drop an electronic invoice or a CSV file here, or choose one.`
              : kind === 'rates'
                ? t`Drop a CSV or XML file here, or choose one.`
                : t`Drop a CSV file here, or choose one.`
            : fileName}
        </div>
        {onInvoice && (
          <p className="mb-0">
            {t`An electronic invoice from a supplier, as XML (UBL 2.1 or Cross Industry Invoice) or inside a PDF, is read, checked and entered as a bill. A CSV file can hold many.`}
          </p>
        )}
        <p className="quiet mb-0">
          {kind === 'rates'
            ? t`A central bank’s daily rates as XML are read as they are: what one euro is worth. As CSV, the first row names the columns: ${columns}.`
            : t`The first row names the columns, in any order: ${columns}.`}{' '}
          {kinds !== '' && (kind === 'accounts' ? t`Types: ${kinds}.` : t`Kinds: ${kinds}.`)}{' '}
          {kind === 'rates' &&
            t`A figure says how much of the currency one unit of the base is; without a base that is ${setup.books.currency}.`}
          {kind === 'accounts' && t`Accounts with an existing code are changed, others are added.`}{' '}
          {t`For example:`}
        </p>
        <pre className="mono mb-0">{example}</pre>
        {error && <ErrorNote error={error} />}
        {found !== null && found.problems.length > 0 && (
          <>
            <p className="trouble mb-0">
              {found.problems.length === 1
                ? t`Nothing was imported. Correct this row in the file and choose it again:`
                : t`Nothing was imported. Correct these ${found.problems.length} rows in the file and choose it again:`}
            </p>
            <ul className="problems">
              {found.problems.slice(0, 50).map(({ row, message }) => (
                <li key={`${row} ${message}`}>{t`Row ${row}: ${message}`}</li>
              ))}
            </ul>
          </>
        )}
        {found !== null && found.problems.length === 0 && !isNaming && (
          <p className="mb-0">{t`Nothing changed: everything in the file is already here.`}</p>
        )}
        {isNaming && (
          <p className="mb-0">
            {tx`These payees are not in the books yet: ${<b>{found.newPayees.join(', ')}</b>}. Check the names.`}
          </p>
        )}
      </Modal.Body>
      <DialogFoot
        isOff={!isNaming || isLoading}
        onLeave={onClose}
        onConfirm={() => send(text ?? '', true)}
      >
        {t`Create payees and import file`}
      </DialogFoot>
    </Dialog>
  );
}
