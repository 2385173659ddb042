import { z } from 'zod';
import { BooksParams, DocumentId, Id, Made, text } from '../common.ts';
import {
  ChangeDocument,
  DocumentSheet,
  Documents,
  DocumentsWanted,
  NewDocument,
  OffsetDocuments,
  Recharge,
  VoidDocument,
} from '../documents.ts';
import { endpoints } from '../endpoint.ts';
import { Imported, ImportRecords } from '../ledger.ts';

const DocumentParams = BooksParams.extend({ documentId: DocumentId });

/** Bills, invoices and credit notes. */
export const documentEndpoints = endpoints({
  documents: {
    method: 'GET',
    path: '/books/:booksId/documents',
    access: 'reviewer',
    params: BooksParams,
    query: DocumentsWanted,
    answer: Documents,
    reads: ['documents'],
  },
  document: {
    method: 'GET',
    path: '/books/:booksId/documents/:documentId',
    access: 'reviewer',
    params: DocumentParams,
    answer: DocumentSheet,
    reads: ['documents'],
  },
  documentPdf: {
    method: 'GET',
    path: '/books/:booksId/documents/:documentId/pdf',
    access: 'reviewer',
    params: DocumentParams,
    answer: null,
    reads: ['documents'],
  },
  documentInvoice: {
    method: 'GET',
    path: '/books/:booksId/invoices/:invoiceId/e-invoice',
    access: 'reviewer',
    params: BooksParams.extend({ invoiceId: DocumentId }),
    answer: z.object({ xml: z.string() }),
    reads: ['documents'],
  },
  addDocumentAttachment: {
    method: 'POST',
    path: '/books/:booksId/documents/:documentId/attachments',
    access: 'bookkeeper',
    params: DocumentParams,
    query: z.object({ fileName: text(255).min(1) }),
    takesFile: true,
    answer: z.object({ id: Id }),
    touches: ['attachment'],
  },
  recharges: {
    method: 'GET',
    path: '/books/:booksId/recharges',
    access: 'reviewer',
    params: BooksParams,
    answer: z.object({ recharges: z.array(Recharge) }),
    reads: ['ledger', 'documents'],
  },
  enterDocument: {
    method: 'POST',
    path: '/books/:booksId/documents',
    access: 'bookkeeper',
    params: BooksParams,
    body: NewDocument,
    answer: Made,
    touches: ['document', 'payee'],
  },
  importDocuments: {
    method: 'POST',
    path: '/books/:booksId/documents/import',
    access: 'bookkeeper',
    params: BooksParams,
    body: ImportRecords,
    answer: Imported,
    touches: ['document', 'payee'],
  },
  offsetDocuments: {
    method: 'POST',
    path: '/books/:booksId/documents/offset',
    access: 'bookkeeper',
    params: BooksParams,
    body: OffsetDocuments,
    answer: Made,
    touches: ['offset'],
  },
  changeDocument: {
    method: 'PUT',
    path: '/books/:booksId/documents/:documentId',
    access: 'bookkeeper',
    params: DocumentParams,
    body: ChangeDocument,
    answer: Made,
    touches: ['document'],
  },
  voidDocument: {
    method: 'POST',
    path: '/books/:booksId/documents/:documentId/void',
    access: 'bookkeeper',
    params: DocumentParams,
    body: VoidDocument,
    answer: Made,
    touches: ['document'],
  },
});
