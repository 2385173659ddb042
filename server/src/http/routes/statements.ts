import { statementEndpoints } from '@zubrell/contract/endpoints/statements';
import { changeCycle } from '../../modules/books/changeCycle.ts';
import {
  agreeStatement,
  changeStatement,
  moveStatementLines,
  reopenStatement,
  tickEntries,
} from '../../modules/statements/changeStatement.ts';
import { listStatements } from '../../modules/statements/listStatements.ts';
import { settleCause } from '../../modules/statements/settleCause.ts';
import { statementOf } from '../../modules/statements/statementOf.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { query, runCommand } from '../command.ts';
import { serve } from '../serve.ts';

/** Statements of bank accounts, and agreeing them with the bank. */
export function statementRoutes(api: Api, services: Services): void {
  const today = () => services.clock.today();

  serve(api, statementEndpoints.statements, (request) =>
    query(services, request, (tx, booksId) => listStatements(tx, booksId, today())),
  );

  serve(api, statementEndpoints.statement, (request) =>
    query(services, request, async (tx, booksId) => {
      const { bankAccountId, to } = request.params;
      return (await statementOf(tx, booksId, bankAccountId, { to, today: today() })).shown;
    }),
  );

  serve(api, statementEndpoints.changeStatement, (request) =>
    runCommand(services, request, (command) =>
      changeStatement(command, request.params, request.body),
    ),
  );

  serve(api, statementEndpoints.moveStatementLines, (request) =>
    runCommand(services, request, (command) =>
      moveStatementLines(command, request.params, request.body),
    ),
  );

  serve(api, statementEndpoints.settleCause, (request) =>
    runCommand(services, request, (command) =>
      settleCause(command, request.params.bankAccountId, request.body),
    ),
  );

  serve(api, statementEndpoints.tickEntries, (request) =>
    runCommand(services, request, (command) => tickEntries(command, request.params, request.body)),
  );

  serve(api, statementEndpoints.agreeStatement, (request) =>
    runCommand(services, request, (command) =>
      agreeStatement(command, request.params, request.body),
    ),
  );

  serve(api, statementEndpoints.reopenStatement, (request) =>
    runCommand(services, request, (command) =>
      reopenStatement(command, request.params, request.body),
    ),
  );

  serve(api, statementEndpoints.changeCycle, (request) =>
    runCommand(services, request, (command) =>
      changeCycle(command, request.params.bankAccountId, request.body.cycle),
    ),
  );
}
