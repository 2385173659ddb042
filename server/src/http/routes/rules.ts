import { ruleEndpoints } from '@zubrell/contract/endpoints/rules';
import { reopenLines } from '../../modules/lines/reopenLines.ts';
import { changeRule, changeRules, createRule, moveRule } from '../../modules/rules/changeRules.ts';
import { correctRule, miscodedLines } from '../../modules/rules/correctRule.ts';
import { draftRule, suggestRules } from '../../modules/rules/draftRule.ts';
import { listRules, ruleVersions } from '../../modules/rules/listRules.ts';
import { postedByRule } from '../../modules/rules/postAtOnce.ts';
import { importRules, readRuleFile, writeRuleFile } from '../../modules/rules/ruleFiles.ts';
import { ruleTurns } from '../../modules/rules/ruleTurns.ts';
import { linesOfRule, tryRule } from '../../modules/rules/tryRule.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { query, runCommand } from '../command.ts';
import { recordRequest } from '../recordRequest.ts';
import { serve } from '../serve.ts';

/** Rules: listed, tried, written, ordered, changed together, read from and written to files. */
export function ruleRoutes(api: Api, services: Services): void {
  serve(api, ruleEndpoints.rules, (request) => query(services, request, listRules));
  serve(api, ruleEndpoints.ruleTurns, (request) => query(services, request, ruleTurns));
  serve(api, ruleEndpoints.ruleSuggestions, (request) => query(services, request, suggestRules));
  serve(api, ruleEndpoints.ruleFile, (request) =>
    query(services, request, async (tx, booksId) => {
      const details = { what: 'rules' };
      await recordRequest(tx, request, { kind: 'exported', booksId, details });
      return writeRuleFile(tx, booksId, request.query.ruleId);
    }),
  );
  serve(api, ruleEndpoints.ruleVersions, (request) =>
    query(services, request, (tx, booksId) => ruleVersions(tx, booksId, request.params.ruleId)),
  );
  serve(api, ruleEndpoints.ruleLines, (request) =>
    query(services, request, (tx, booksId) => linesOfRule(tx, booksId, request.params.ruleId)),
  );
  serve(api, ruleEndpoints.tryRule, (request) =>
    query(services, request, (tx, booksId) => tryRule(tx, booksId, request.body)),
  );
  serve(api, ruleEndpoints.draftRule, (request) =>
    query(services, request, (tx, booksId) => draftRule(tx, booksId, request.body)),
  );
  serve(api, ruleEndpoints.createRule, (request) =>
    runCommand(services, request, (command) => createRule(command, request.body)),
  );
  serve(api, ruleEndpoints.changeRule, (request) =>
    runCommand(services, request, (command) =>
      changeRule(command, request.params.ruleId, request.body),
    ),
  );
  serve(api, ruleEndpoints.moveRule, (request) =>
    runCommand(services, request, (command) =>
      moveRule(command, request.params.ruleId, request.body),
    ),
  );
  serve(api, ruleEndpoints.changeRules, (request) =>
    runCommand(services, request, (command) => changeRules(command, request.body)),
  );
  serve(api, ruleEndpoints.reopenRuleLines, (request) =>
    runCommand(services, request, async (command) => {
      const { tx, booksId } = command;
      const lineIds = await postedByRule(tx, booksId, request.params.ruleId);
      const { seenStep } = request.body;
      return reopenLines(command, lineIds, seenStep);
    }),
  );
  serve(api, ruleEndpoints.miscodedLines, (request) =>
    query(services, request, (tx, booksId) => miscodedLines(tx, booksId, request.params.ruleId)),
  );
  serve(api, ruleEndpoints.correctRule, (request) =>
    runCommand(services, request, (command) =>
      correctRule(command, request.params.ruleId, request.body),
    ),
  );
  const large = { bodyLimit: 24 * 1024 * 1024 };
  serve(
    api,
    ruleEndpoints.readRuleFile,
    (request) =>
      query(services, request, (tx, booksId) => readRuleFile(tx, booksId, request.body.text)),
    large,
  );
  serve(
    api,
    ruleEndpoints.importRules,
    (request) => runCommand(services, request, (command) => importRules(command, request.body)),
    large,
  );
}
