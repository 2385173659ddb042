import { pairingEndpoints } from '@zubrell/contract/endpoints/pairing';
import { pairingView } from '../../modules/pairing/pairingView.ts';
import { pairLines } from '../../modules/pairing/pairLines.ts';
import { pairProposed } from '../../modules/pairing/pairProposed.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { query, runCommand } from '../command.ts';
import { serve } from '../serve.ts';

/** What lines could be in the books already, and pairing them with it. */
export function pairingRoutes(api: Api, services: Services): void {
  serve(api, pairingEndpoints.pairing, (request) =>
    query(services, request, (tx, booksId) => {
      const { lineId, search = '' } = request.query;
      return pairingView(tx, booksId, lineId, search.trim());
    }),
  );

  serve(api, pairingEndpoints.pairLines, (request) =>
    runCommand(services, request, (command) => pairLines(command, request.body)),
  );

  serve(api, pairingEndpoints.pairProposed, (request) =>
    runCommand(services, request, (command) => pairProposed(command, request.body)),
  );
}
