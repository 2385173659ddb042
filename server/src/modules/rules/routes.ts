import { BooksParams, Id, Seen } from '@zubrell/contract/common';
import { LinesDone } from '@zubrell/contract/desk';
import {
  ChangeRules,
  DraftedRule,
  DraftRule,
  ImportRules,
  MoveRule,
  RuleFile,
  RuleFileRead,
  RuleFileText,
  RuleLines,
  RuleList,
  RuleSaved,
  RuleSuggestions,
  RulesChanged,
  RulesImported,
  RuleTried,
  RuleVersions,
  SaveRule,
  TryRule,
} from '@zubrell/contract/rules';
import { z } from 'zod';
import type { Api } from '../../app.ts';
import { query, runCommand } from '../../http/command.ts';
import type { Services } from '../../services.ts';
import { recordRequest } from '../audit/recordAccess.ts';
import { reopenLines } from '../lines/reopenLines.ts';
import { changeRule, changeRules, createRule, moveRule } from './changeRules.ts';
import { draftRule, suggestRules } from './draftRule.ts';
import { listRules, ruleVersions } from './listRules.ts';
import { postedByRule } from './postAtOnce.ts';
import { importRules, readRuleFile, writeRuleFile } from './ruleFiles.ts';
import { linesOfRule, tryRule } from './tryRule.ts';

/** Rules: listed, tried, written, ordered, changed together, read from and written to files. */
export function ruleRoutes(api: Api, services: Services): void {
  const read = { access: 'reviewer' } as const;
  const change = { access: 'bookkeeper' } as const;
  const base = '/api/books/:booksId/rules';
  const OneRule = BooksParams.extend({ ruleId: Id });
  const ids = z.union([Id, z.array(Id)]).transform((value) => [value].flat());

  api.get(
    base,
    { config: read, schema: { params: BooksParams, response: { 200: RuleList } } },
    (request) => query(services, request, listRules),
  );
  api.get(
    `${base}/suggestions`,
    { config: read, schema: { params: BooksParams, response: { 200: RuleSuggestions } } },
    (request) => query(services, request, suggestRules),
  );
  api.get(
    `${base}/file`,
    {
      config: read,
      schema: {
        params: BooksParams,
        querystring: z.object({ ruleId: ids.optional() }),
        response: { 200: RuleFile },
      },
    },
    (request) =>
      query(services, request, async (tx, booksId) => {
        const details = { what: 'rules' };
        await recordRequest(tx, request, { kind: 'exported', booksId, details });
        return writeRuleFile(tx, booksId, request.query.ruleId);
      }),
  );
  api.get(
    `${base}/:ruleId/versions`,
    { config: read, schema: { params: OneRule, response: { 200: RuleVersions } } },
    (request) =>
      query(services, request, (tx, booksId) => ruleVersions(tx, booksId, request.params.ruleId)),
  );
  api.get(
    `${base}/:ruleId/lines`,
    { config: read, schema: { params: OneRule, response: { 200: RuleLines } } },
    (request) =>
      query(services, request, (tx, booksId) => linesOfRule(tx, booksId, request.params.ruleId)),
  );
  api.post(
    `${base}/try`,
    {
      config: read,
      schema: { params: BooksParams, body: TryRule, response: { 200: RuleTried } },
    },
    (request) => query(services, request, (tx, booksId) => tryRule(tx, booksId, request.body)),
  );
  api.post(
    `${base}/draft`,
    {
      config: read,
      schema: { params: BooksParams, body: DraftRule, response: { 200: DraftedRule } },
    },
    (request) => query(services, request, (tx, booksId) => draftRule(tx, booksId, request.body)),
  );
  api.post(
    base,
    {
      config: change,
      schema: { params: BooksParams, body: SaveRule, response: { 200: RuleSaved } },
    },
    (request) => runCommand(services, request, (command) => createRule(command, request.body)),
  );
  api.put(
    `${base}/:ruleId`,
    { config: change, schema: { params: OneRule, body: SaveRule, response: { 200: RuleSaved } } },
    (request) =>
      runCommand(services, request, (command) =>
        changeRule(command, request.params.ruleId, request.body),
      ),
  );
  api.post(
    `${base}/:ruleId/move`,
    {
      config: change,
      schema: { params: OneRule, body: MoveRule, response: { 200: RulesChanged } },
    },
    (request) =>
      runCommand(services, request, (command) =>
        moveRule(command, request.params.ruleId, request.body),
      ),
  );
  api.post(
    `${base}/change`,
    {
      config: change,
      schema: { params: BooksParams, body: ChangeRules, response: { 200: RulesChanged } },
    },
    (request) => runCommand(services, request, (command) => changeRules(command, request.body)),
  );
  api.post(
    `${base}/:ruleId/reopen`,
    {
      config: change,
      schema: {
        params: OneRule,
        body: z.object({ seenStep: Seen }),
        response: { 200: LinesDone },
      },
    },
    (request) =>
      runCommand(services, request, async (command) => {
        const { tx, booksId } = command;
        const lineIds = await postedByRule(tx, booksId, request.params.ruleId);
        const { seenStep } = request.body;
        return reopenLines(command, { lineIds, seenStep });
      }),
  );
  const large = { bodyLimit: 24 * 1024 * 1024 };
  api.post(
    `${base}/file/read`,
    {
      ...large,
      config: read,
      schema: { params: BooksParams, body: RuleFileText, response: { 200: RuleFileRead } },
    },
    (request) =>
      query(services, request, (tx, booksId) => readRuleFile(tx, booksId, request.body.text)),
  );
  api.post(
    `${base}/file`,
    {
      ...large,
      config: change,
      schema: { params: BooksParams, body: ImportRules, response: { 200: RulesImported } },
    },
    (request) => runCommand(services, request, (command) => importRules(command, request.body)),
  );
}
