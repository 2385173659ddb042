import { BooksParams, Id, StepDone } from '@zubrell/contract/common';
import {
  ChangeDocument,
  DocumentSheet,
  Documents,
  DocumentsWanted,
  NewDocument,
  OffsetDocuments,
  VoidDocument,
} from '@zubrell/contract/documents';
import { Imported, ImportRecords } from '@zubrell/contract/ledger';
import type { Api } from '../../app.ts';
import { query, runCommand } from '../../http/command.ts';
import type { Services } from '../../services.ts';
import { changeDocument, enterDocument, voidDocument } from './changeDocument.ts';
import { importDocuments } from './importDocuments.ts';
import { offsetDocuments } from './offsetDocuments.ts';
import { documentSheet, documentsOf } from './queries.ts';

const DocumentParams = BooksParams.extend({ documentId: Id });
const Done = StepDone.extend({ id: Id });

/** Bills, invoices and credit notes. */
export function documentRoutes(api: Api, services: Services): void {
  api.get(
    '/api/books/:booksId/documents',
    {
      config: { access: 'reviewer' },
      schema: { params: BooksParams, querystring: DocumentsWanted, response: { 200: Documents } },
    },
    (request) =>
      query(services, request, (tx, booksId) =>
        documentsOf(tx, booksId, request.query, services.clock.today()),
      ),
  );

  api.get(
    '/api/books/:booksId/documents/:documentId',
    {
      config: { access: 'reviewer' },
      schema: { params: DocumentParams, response: { 200: DocumentSheet } },
    },
    (request) =>
      query(services, request, (tx, booksId) =>
        documentSheet(tx, booksId, request.params.documentId),
      ),
  );

  api.post(
    '/api/books/:booksId/documents',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: NewDocument, response: { 200: Done } },
    },
    (request) => runCommand(services, request, (command) => enterDocument(command, request.body)),
  );

  api.post(
    '/api/books/:booksId/documents/import',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: ImportRecords, response: { 200: Imported } },
    },
    (request) => runCommand(services, request, (command) => importDocuments(command, request.body)),
  );

  api.post(
    '/api/books/:booksId/documents/offset',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: OffsetDocuments, response: { 200: Done } },
    },
    (request) => runCommand(services, request, (command) => offsetDocuments(command, request.body)),
  );

  api.put(
    '/api/books/:booksId/documents/:documentId',
    {
      config: { access: 'bookkeeper' },
      schema: { params: DocumentParams, body: ChangeDocument, response: { 200: Done } },
    },
    (request) =>
      runCommand(services, request, (command) => {
        const { document, seenStep } = request.body;
        const wanted = { id: request.params.documentId, document, seenStep };
        return changeDocument(command, wanted);
      }),
  );

  api.post(
    '/api/books/:booksId/documents/:documentId/void',
    {
      config: { access: 'bookkeeper' },
      schema: { params: DocumentParams, body: VoidDocument, response: { 200: Done } },
    },
    (request) =>
      runCommand(services, request, (command) => {
        const { seenStep } = request.body;
        const wanted = { id: request.params.documentId, seenStep };
        return voidDocument(command, wanted);
      }),
  );
}
