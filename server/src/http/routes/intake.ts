import { intakeEndpoints } from '@zubrell/contract/endpoints/intake';
import { addBalance, addLine } from '../../modules/intake/byHand.ts';
import { keepApart } from '../../modules/intake/keepApart.ts';
import { moveBatch } from '../../modules/intake/moveBatch.ts';
import {
  batchesOf,
  batchLines,
  batchSheet,
  knownLines,
  layoutsOf,
} from '../../modules/intake/queries.ts';
import { startBatch } from '../../modules/intake/startBatch.ts';
import { takeBackBatch } from '../../modules/intake/takeBackBatch.ts';
import { checkRoomForUpload, LARGEST_FILE, storeUpload } from '../../modules/intake/uploads.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { query, runCommand } from '../command.ts';
import { serve } from '../serve.ts';
import type { Uploads } from '../uploads.ts';

/** Files come in here: the raw bytes first, then the order to keep a statement of them. */
export function intakeRoutes(api: Api, services: Services, uploads: Uploads): void {
  serve(
    api,
    intakeEndpoints.upload,
    (request) =>
      uploads.take(request, LARGEST_FILE, ({ size, pieces }) =>
        query(services, request, async (tx, booksId) => {
          await checkRoomForUpload(tx, booksId, size);
          const { fileName } = request.query;
          return { uploadId: await storeUpload({ tx, booksId, ...services }, fileName, pieces) };
        }),
      ),
    { bodyLimit: LARGEST_FILE },
  );

  serve(api, intakeEndpoints.knownLines, (request) =>
    query(services, request, async (tx, booksId) => {
      const { bankAccountId } = request.params;
      const { lines, ...known } = await knownLines({ tx, booksId }, bankAccountId, request.query);
      return { ...known, lines: [...lines] };
    }),
  );

  serve(api, intakeEndpoints.keepBatch, (request) =>
    runCommand(services, request, (command) => startBatch(command, request.body)),
  );

  serve(api, intakeEndpoints.batches, (request) =>
    query(services, request, async (tx, booksId) => ({
      batches: await batchesOf(tx, booksId),
    })),
  );

  serve(api, intakeEndpoints.batch, (request) =>
    query(services, request, (tx, booksId) => batchSheet(tx, booksId, request.params.batchId)),
  );

  serve(api, intakeEndpoints.batchLines, (request) =>
    query(services, request, (tx, booksId) =>
      batchLines(tx, booksId, request.params.batchId, request.query.cursor),
    ),
  );

  serve(api, intakeEndpoints.keepApart, (request) =>
    runCommand(services, request, (command) =>
      keepApart(command, request.params.batchId, request.params.lineId),
    ),
  );

  serve(api, intakeEndpoints.takeBackBatch, (request) =>
    runCommand(services, request, (command) =>
      takeBackBatch(command, request.params.batchId, request.body),
    ),
  );

  serve(api, intakeEndpoints.moveBatch, (request) =>
    runCommand(services, request, (command) =>
      moveBatch(command, request.params.batchId, request.body),
    ),
  );

  serve(api, intakeEndpoints.addLine, (request) =>
    runCommand(services, request, (command) =>
      addLine(command, request.params.bankAccountId, request.body),
    ),
  );

  serve(api, intakeEndpoints.addBalance, (request) =>
    runCommand(services, request, (command) =>
      addBalance(command, request.params.bankAccountId, request.body),
    ),
  );

  serve(api, intakeEndpoints.layouts, (request) =>
    query(services, request, async (tx, booksId) => ({
      layouts: await layoutsOf(tx, booksId),
    })),
  );
}
