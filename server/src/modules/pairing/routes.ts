import { pairingEndpoints } from '@zubrell/contract/endpoints/pairing';
import type { Api } from '../../app.ts';
import { query, runCommand } from '../../http/command.ts';
import { serve } from '../../http/serve.ts';
import type { Services } from '../../services.ts';
import { pairingView } from './pairingView.ts';
import { pairLines } from './pairLines.ts';
import { pairProposed } from './pairProposed.ts';

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
