import { statementEndpoints } from '@zubrell/contract/endpoints/statements';
import { changeCycle, nameHolders } from '../../modules/books/changeBankAccount.ts';
import { booksSetup } from '../../modules/books/queries.ts';
import { agreeStatement } from '../../modules/statements/agreeStatement.ts';
import { changeStatement } from '../../modules/statements/changeStatement.ts';
import { listStatements } from '../../modules/statements/listStatements.ts';
import { reopenStatement } from '../../modules/statements/reopenStatement.ts';
import { settleCause } from '../../modules/statements/settleCause.ts';
import { moveStatementLines, tickEntries } from '../../modules/statements/statementDays.ts';
import { statementOf } from '../../modules/statements/statementOf.ts';
import { statementPdf } from '../../modules/statements/statementPdf.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { actorOf, query, runCommand } from '../command.ts';
import { sendPdf } from '../sendPdf.ts';
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

  serve(api, statementEndpoints.statementReport, async (request, reply) => {
    const { bankAccountId, to } = request.params;
    const { shown, names } = await query(services, request, async (tx, booksId) => {
      const { account, shown } = await statementOf(tx, booksId, bankAccountId, {
        to,
        today: today(),
      });
      const { books, accounts, payees } = await booksSetup(tx, booksId, actorOf(request).userId);
      const nameOf = (things: readonly { readonly id: string; readonly name: string }[]) => {
        const named = new Map(things.map(({ id, name }) => [id, name]));
        return (id: string | null) => named.get(id ?? '') ?? '';
      };
      const { name } = books;
      const { currency } = account;
      const called = { payee: nameOf(payees), account: nameOf(accounts) };
      return { shown, names: { books: name, bankAccount: account.name, currency, ...called } };
    });
    return sendPdf(reply, `${names.bankAccount} ${to}`, await statementPdf(shown, names));
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
