import { documentEndpoints } from '@zubrell/contract/endpoints/documents';
import { writeInvoice } from '@zubrell/core/invoices/writeInvoice';
import { candidateName } from '@zubrell/core/pair/candidateNames';
import {
  changeDocument,
  enterDocument,
  voidDocument,
} from '../../modules/documents/changeDocument.ts';
import { documentInvoice } from '../../modules/documents/documentInvoice.ts';
import { documentPdf, printedDocument } from '../../modules/documents/documentPdf.ts';
import { importDocuments } from '../../modules/documents/importDocuments.ts';
import { offsetDocuments } from '../../modules/documents/offsetDocuments.ts';
import { documentSheet, documentsOf } from '../../modules/documents/queries.ts';
import { rechargesOf } from '../../modules/documents/recharges.ts';
import { LARGEST_ATTACHMENT } from '../../modules/questions/attachments.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { actorOf, query, runCommand } from '../command.ts';
import { sendPdf } from '../sendFile.ts';
import { serve } from '../serve.ts';
import { takeAttachment } from '../takeAttachment.ts';
import type { Uploads } from '../uploads.ts';

/** Bills, invoices and credit notes. */
export function documentRoutes(api: Api, services: Services, uploads: Uploads): void {
  serve(api, documentEndpoints.documents, (request) =>
    query(services, request, (tx, booksId) =>
      documentsOf(tx, booksId, request.query, services.clock.today()),
    ),
  );

  serve(api, documentEndpoints.document, (request) =>
    query(services, request, (tx, booksId) =>
      documentSheet(tx, booksId, request.params.documentId),
    ),
  );

  serve(api, documentEndpoints.documentPdf, async (request, reply) => {
    const { documentId } = request.params;
    const printed = await query(services, request, (tx, booksId) =>
      printedDocument(tx, booksId, actorOf(request).userId, documentId),
    );
    return sendPdf(reply, candidateName(printed.sheet), await documentPdf(printed));
  });

  serve(api, documentEndpoints.documentInvoice, (request) =>
    query(services, request, async (tx, booksId) => {
      const { invoiceId } = request.params;
      const printed = await printedDocument(tx, booksId, actorOf(request).userId, invoiceId);
      return { xml: writeInvoice(documentInvoice(printed)) };
    }),
  );

  serve(
    api,
    documentEndpoints.addDocumentAttachment,
    (request) =>
      takeAttachment({ services, uploads }, request, { documentId: request.params.documentId }),
    { bodyLimit: LARGEST_ATTACHMENT },
  );

  serve(api, documentEndpoints.recharges, (request) =>
    query(services, request, async (tx, booksId) => ({
      recharges: await rechargesOf(tx, booksId),
    })),
  );

  serve(api, documentEndpoints.enterDocument, (request) =>
    runCommand(services, request, (command) => enterDocument(command, request.body)),
  );

  serve(api, documentEndpoints.importDocuments, (request) =>
    runCommand(services, request, (command) => importDocuments(command, request.body)),
  );

  serve(api, documentEndpoints.offsetDocuments, (request) =>
    runCommand(services, request, (command) => offsetDocuments(command, request.body)),
  );

  serve(api, documentEndpoints.changeDocument, (request) =>
    runCommand(services, request, (command) => {
      const { document, seenStep } = request.body;
      const wanted = { id: request.params.documentId, document, seenStep };
      return changeDocument(command, wanted);
    }),
  );

  serve(api, documentEndpoints.voidDocument, (request) =>
    runCommand(services, request, (command) => {
      const { seenStep } = request.body;
      const wanted = { id: request.params.documentId, seenStep };
      return voidDocument(command, wanted);
    }),
  );
}
