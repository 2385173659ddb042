import { documentEndpoints } from '@zubrell/contract/endpoints/documents';
import type { Api } from '../../app.ts';
import { query, runCommand } from '../../http/command.ts';
import { serve } from '../../http/serve.ts';
import type { Services } from '../../services.ts';
import { changeDocument, enterDocument, voidDocument } from './changeDocument.ts';
import { importDocuments } from './importDocuments.ts';
import { offsetDocuments } from './offsetDocuments.ts';
import { documentSheet, documentsOf } from './queries.ts';

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
