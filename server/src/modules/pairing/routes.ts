import { BooksParams, Seen } from '@zubrell/contract/common';
import { LinesDone, Target } from '@zubrell/contract/desk';
import { PairingView, PairingWanted, PairLines } from '@zubrell/contract/pairing';
import { z } from 'zod';
import type { Api } from '../../app.ts';
import { query, runCommand } from '../../http/command.ts';
import type { Services } from '../../services.ts';
import { pairingView } from './pairingView.ts';
import { pairLines } from './pairLines.ts';
import { pairProposed } from './pairProposed.ts';

/** What lines could be in the books already, and pairing them with it. */
export function pairingRoutes(api: Api, services: Services): void {
  api.get(
    '/api/books/:booksId/pairing',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, querystring: PairingWanted, response: { 200: PairingView } },
    },
    (request) =>
      query(services, request, (tx, booksId) => {
        const { lineId, search = '' } = request.query;
        return pairingView(tx, booksId, lineId, search.trim());
      }),
  );

  api.post(
    '/api/books/:booksId/lines/pair',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: PairLines, response: { 200: LinesDone } },
    },
    (request) => runCommand(services, request, (command) => pairLines(command, request.body)),
  );

  api.post(
    '/api/books/:booksId/lines/pair-proposed',
    {
      config: { access: 'bookkeeper' },
      schema: {
        params: BooksParams,
        body: z.object({ target: Target, seenStep: Seen }),
        response: { 200: LinesDone },
      },
    },
    (request) => runCommand(services, request, (command) => pairProposed(command, request.body)),
  );
}
