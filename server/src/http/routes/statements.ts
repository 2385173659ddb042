import { statementEndpoints } from '@zubrell/contract/endpoints/statements';
import { changeCycle, nameHolders } from '../../modules/books/changeBankAccount.ts';
import { agreeStatement } from '../../modules/statements/agreeStatement.ts';
import { changeStatement } from '../../modules/statements/changeStatement.ts';
import { listStatements } from '../../modules/statements/listStatements.ts';
import { reopenStatement } from '../../modules/statements/reopenStatement.ts';
import { reportNames } from '../../modules/statements/reportNames.ts';
import { settleCause } from '../../modules/statements/settleCause.ts';
import { statementCsv } from '../../modules/statements/statementCsv.ts';
import { moveStatementLines, tickEntries } from '../../modules/statements/statementDays.ts';
import { statementOf } from '../../modules/statements/statementOf.ts';
import { statementPdf } from '../../modules/statements/statementPdf.ts';
import { statementHolders, statementRows } from '../../modules/statements/statementRows.ts';
import { wholeStatement } from '../../modules/statements/wholeStatement.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { actorOf, query, runCommand } from '../command.ts';
import { sendCsv, sendPdf } from '../sendFile.ts';
import { serve } from '../serve.ts';

/** Statements of bank accounts, and agreeing them with the bank. */
export function statementRoutes(api: Api, services: Services): void {
  const today = () => services.clock.today();

  serve(api, statementEndpoints.statements, (request) =>
    query(services, request, (tx, booksId) => listStatements(tx, booksId, today())),
  );

  serve(api, statementEndpoints.statement, (request) =>
    query(services, request, (tx, booksId) => {
      const { bankAccountId, to } = request.params;
      return statementOf(tx, booksId, bankAccountId, { to, today: today() });
    }),
  );

  serve(api, statementEndpoints.statementRows, (request) =>
    query(services, request, (tx, booksId) => {
      const { bankAccountId, to } = request.params;
      const { cursor } = request.query;
      return statementRows(tx, booksId, bankAccountId, { to, today: today(), cursor });
    }),
  );

  serve(api, statementEndpoints.statementHolders, (request) =>
    query(services, request, async (tx, booksId) => {
      const { bankAccountId, to } = request.params;
      const wanted = { to, today: today() };
      return { holders: await statementHolders(tx, booksId, bankAccountId, wanted) };
    }),
  );

  serve(api, statementEndpoints.statementReport, async (request, reply) => {
    const { bankAccountId, to } = request.params;
    const { shown, rows, names } = await query(services, request, async (tx, booksId) => {
      const whole = await wholeStatement(tx, booksId, bankAccountId, { to, today: today() });
      const names = await reportNames(tx, booksId, actorOf(request).userId, whole.account);
      return { ...whole, names };
    });
    const name = `${names.bankAccount} ${to}`;
    return request.query.as === 'csv'
      ? sendCsv(reply, name, statementCsv(shown, rows, names))
      : sendPdf(reply, name, await statementPdf(shown, rows, names));
  });

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

  serve(api, statementEndpoints.nameHolders, (request) =>
    runCommand(services, request, (command) =>
      nameHolders(command, request.params.bankAccountId, request.body.holderNames),
    ),
  );
}
