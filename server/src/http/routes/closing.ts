import { closingEndpoints } from '@zubrell/contract/endpoints/closing';
import { closeMonth } from '../../modules/closing/closeMonth.ts';
import { monthClosing } from '../../modules/closing/monthClosing.ts';
import { reviewLines, reviewSample } from '../../modules/closing/reviewLines.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { query, runCommand } from '../command.ts';
import { serve } from '../serve.ts';

/** Closing months. */
export function closingRoutes(api: Api, services: Services): void {
  serve(api, closingEndpoints.monthClosing, (request) =>
    query(services, request, (tx, booksId) =>
      monthClosing(tx, booksId, request.params.month, services.clock.today()),
    ),
  );

  serve(api, closingEndpoints.closeMonth, (request) =>
    runCommand(services, request, (command) =>
      closeMonth(command, request.params.month, request.body),
    ),
  );

  serve(api, closingEndpoints.reviewSample, (request) =>
    query(services, request, (tx, booksId) => reviewSample(tx, booksId, request.params.month)),
  );

  serve(api, closingEndpoints.reviewLines, (request) =>
    runCommand(services, request, (command) =>
      reviewLines(command, request.params.month, request.body),
    ),
  );
}
