import { documentEndpoints } from '@zubrell/contract/endpoints/documents';
import {
  changeDocument,
  enterDocument,
  voidDocument,
} from '../../modules/documents/changeDocument.ts';
import { importDocuments } from '../../modules/documents/importDocuments.ts';
import { offsetDocuments } from '../../modules/documents/offsetDocuments.ts';
import { documentSheet, documentsOf } from '../../modules/documents/queries.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { query, runCommand } from '../command.ts';
import { serve } from '../serve.ts';

/** Bills, invoices and credit notes. */
export function documentRoutes(api: Api, services: Services): void {
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
