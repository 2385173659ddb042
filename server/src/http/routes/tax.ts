import { taxEndpoints } from '@zubrell/contract/endpoints/tax';
import { changeTaxCode, makeTaxCode } from '../../modules/tax/changeTaxCodes.ts';
import { fileTaxReturn, reportedElsewhere } from '../../modules/tax/fileTaxReturn.ts';
import { taxLegs } from '../../modules/tax/taxFigures.ts';
import { taxDraft, taxReturns } from '../../modules/tax/taxReturns.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { query, runCommand } from '../command.ts';
import { serve } from '../serve.ts';

/** Tax codes and tax returns. */
export function taxRoutes(api: Api, services: Services): void {
  serve(api, taxEndpoints.makeTaxCode, (request) =>
    runCommand(services, request, (command) => makeTaxCode(command, request.body)),
  );

  serve(api, taxEndpoints.changeTaxCode, (request) =>
    runCommand(services, request, (command) =>
      changeTaxCode(command, request.params.taxCodeId, request.body),
    ),
  );

  serve(api, taxEndpoints.taxReturns, (request) =>
    query(services, request, (tx, booksId) => taxReturns(tx, booksId, services.clock.today())),
  );

  serve(api, taxEndpoints.taxDraft, (request) =>
    query(services, request, (tx, booksId) => taxDraft(tx, booksId, request.query)),
  );

  serve(api, taxEndpoints.taxLegs, (request) =>
    query(services, request, (tx, booksId) =>
      taxLegs(tx, booksId, request.params.taxCodeId, request.query),
    ),
  );

  serve(api, taxEndpoints.fileTaxReturn, (request) =>
    runCommand(services, request, (command) => fileTaxReturn(command, request.body)),
  );

  serve(api, taxEndpoints.reportedElsewhere, (request) =>
    runCommand(services, request, (command) => reportedElsewhere(command, request.body.to)),
  );
}
