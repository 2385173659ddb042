import { randomUUID } from 'node:crypto';
import type {
  ChangeRules,
  MoveRule,
  RuleSaved,
  RulesChanged,
  SaveRule,
} from '@zubrell/contract/rules';
import { fail } from '@zubrell/core/errors';
import type { BooksId, RuleId } from '@zubrell/core/ids';
import { checkRule } from '@zubrell/core/propose/rule/checkRule';
import { KEPT_TO_POST, type RuleBody } from '@zubrell/core/propose/rule/rule';
import { ruleKey } from '@zubrell/core/propose/rule/ruleFile';
import type { StepKind } from '@zubrell/core/steps/stepKinds';
import { linesSaid, type Said, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { needsLeave, roleOf } from '../books/needsLeave.ts';
import { needs } from '../books/needsOf.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { type Need, plainWords, recordStep } from '../steps/recordStep.ts';
import { rankBefore, ranksAnew } from './ranks.ts';
import { ruleBooks } from './ruleBooks.ts';
import { ruleUses } from './ruleRecords.ts';
import { type RuleRow, type RuleState, ruleAmong, ruleRows, stateOf } from './ruleRows.ts';
import { type RuleChange, setRules } from './setRules.ts';
import { againstHand } from './tryRule.ts';

/**
 * Writes a new rule, at the end of the order or before another, and applies it to what is open.
 *
 * @throws {ZubrellError} those of `checkRule`, RULE_NAME, RULE_POST_EARLY
 */
export async function createRule(
  command: BooksCommand,
  { name, isOn, body, beforeId }: SaveRule,
): Promise<RuleSaved> {
  const { tx, booksId, step } = command;
  if (name === '') fail('RULE_NAME');
  checkRule(body, await ruleBooks(tx, booksId));
  if (body.after.kind === 'post') fail('RULE_POST_EARLY', { needed: KEPT_TO_POST, kept: 0 });
  const rows = await ruleRows(tx, booksId);
  const id = randomUUID();
  const moves = rankBefore(rows, beforeId ?? null) === null ? ranksAnew(rows) : [];
  const rank = rankBefore(moved(rows, moves), beforeId ?? null) ?? fail('INTERNAL');
  const against = await againstHand(tx, booksId, null, body);
  const after: RuleState = { name, rank, isOn, body, sinceStep: step, against };
  const changes: RuleChange[] = [...moves, { thing: 'rule', thingId: id, before: null, after }];
  const done = await put(command, changes, 'makeRule', say`Created rule “${name}”`);
  return { id, ...done };
}

/**
 * Changes a rule, and applies it anew.
 *
 * @throws {ZubrellError} those of `checkRule`, RULE_UNKNOWN, RULE_NAME, RULE_CHANGED, RULE_POST_EARLY, LEAVE_NEEDED,
 * ROLE_TOO_LOW
 */
export async function changeRule(
  command: BooksCommand,
  ruleId: RuleId,
  { name, isOn, body, seenStep }: SaveRule,
): Promise<RuleSaved> {
  const { tx, booksId, step } = command;
  if (name === '') fail('RULE_NAME');
  const row = ruleAmong(await ruleRows(tx, booksId), ruleId);
  if (row.lastStep > seenStep) await failChanged(tx, booksId, row);
  checkRule(body, await ruleBooks(tx, booksId));
  const before = stateOf(row);
  await refuseReviewer(command, before, { name, isOn, body });
  const isNewMeaning = ruleKey(row.body) !== ruleKey(body);
  if (body.after.kind === 'post') {
    await needsLeave(command, 'letRulesPost');
    const use = (await ruleUses(tx, booksId)).find((each) => each.ruleId === ruleId);
    const kept = isNewMeaning ? 0 : (use?.keptInRow ?? 0);
    if (kept >= KEPT_TO_POST) {
      await tx.execute(
        sql`update rules set stopped_step = null where books_id = ${booksId} and id = ${ruleId}`,
      );
    } else if (isNewMeaning || row.body.after.kind !== 'post') {
      fail('RULE_POST_EARLY', { needed: KEPT_TO_POST, kept });
    }
  }
  const sinceStep = isNewMeaning ? step : row.sinceStep;
  const against = isNewMeaning ? await againstHand(tx, booksId, ruleId, body) : row.against;
  const after: RuleState = { ...before, name, isOn, body, sinceStep, against };
  const changes: RuleChange[] = [{ thing: 'rule', thingId: ruleId, before, after }];
  const verb =
    row.isOn !== isOn && !isNewMeaning
      ? say`Switched the rule “${name}” ${isOn ? say`on` : say`off`}`
      : say`Changed the rule “${name}”`;
  const done = await put(command, changes, 'changeRule', verb);
  return { id: ruleId, ...done };
}

/** A reviewer may say whether a rule posts at once, where that is left to them, and nothing else of it. */
async function refuseReviewer(
  command: BooksCommand,
  before: RuleState,
  { name, isOn, body }: Pick<RuleState, 'name' | 'isOn' | 'body'>,
): Promise<void> {
  if ((await roleOf(command)) !== 'reviewer') return;
  await needsLeave(command, 'letRulesPost');
  const isSame =
    name === before.name && isOn === before.isOn && ruleKey(body) === ruleKey(before.body);
  if (!isSame) fail('ROLE_TOO_LOW', { role: 'reviewer' });
}

const StepRow = z.object({ who: z.string(), what: z.string() });

async function failChanged(tx: Tx, booksId: BooksId, { lastStep }: RuleRow): Promise<never> {
  const [step] = await rowsOf(
    tx,
    StepRow,
    sql`select u.name as who, s.words as what from steps s join users u on u.id = s.user_id
        where s.books_id = ${booksId} and s.no = ${lastStep}`,
  );
  return fail('RULE_CHANGED', { who: step?.who ?? '', what: step?.what ?? '' });
}

/** Moves a rule before another, or to the end. @throws {ZubrellError} RULE_UNKNOWN */
export async function moveRule(
  command: BooksCommand,
  ruleId: RuleId,
  { beforeId }: MoveRule,
): Promise<RulesChanged> {
  const { tx, booksId } = command;
  const rows = await ruleRows(tx, booksId);
  const row = ruleAmong(rows, ruleId);
  if (beforeId !== null) ruleAmong(rows, beforeId);
  const others = rows.filter(({ id }) => id !== ruleId);
  const moves = rankBefore(others, beforeId) === null ? ranksAnew(others) : [];
  const rank = rankBefore(moved(others, moves), beforeId) ?? fail('INTERNAL');
  const before = stateOf(row);
  const changes: RuleChange[] = [
    ...moves,
    { thing: 'rule', thingId: ruleId, before, after: { ...before, rank } },
  ];
  const to = others.findIndex(({ id }) => id === beforeId);
  const number = to < 0 ? rows.length : to + 1;
  const words = say`Moved the rule “${row.name}” to place ${number}`;
  return put(command, changes, 'moveRule', words);
}

/** Switches several rules on or off, deletes or copies them, as one step. @throws {ZubrellError} RULE_UNKNOWN */
export async function changeRules(
  command: BooksCommand,
  { ruleIds, to, bankAccountIds }: ChangeRules,
): Promise<RulesChanged> {
  const { tx, booksId, step } = command;
  const rows = await ruleRows(tx, booksId);
  const chosen = [...new Set(ruleIds)].map((id) => ruleAmong(rows, id));
  const books = await ruleBooks(tx, booksId);
  const last = rows.at(-1)?.rank ?? 0;
  const changes = chosen.map((row, at): RuleChange => {
    const before = stateOf(row);
    if (to === 'deleted') return { thing: 'rule', thingId: row.id, before, after: null };
    if (to !== 'copied') {
      // What a rule names may be gone by now: it can be switched off, but not on.
      if (to === 'on') checkRule(row.body, books);
      const after = { ...before, isOn: to === 'on' };
      return { thing: 'rule', thingId: row.id, before, after };
    }
    const takes = { ...row.body.takes, ...(bankAccountIds ? { bankAccountIds } : {}) };
    const body: RuleBody = { ...row.body, takes, after: { kind: 'hold' } };
    checkRule(body, books);
    const name = `${row.name} (copy)`;
    const after = { name, rank: last + at + 1, isOn: false, body, sinceStep: step, against: 0 };
    return { thing: 'rule', thingId: randomUUID(), before: null, after };
  });
  const verbs = {
    on: say`Switched on`,
    off: say`Switched off`,
    deleted: say`Deleted`,
    copied: say`Copied`,
  };
  const [only] = chosen;
  const what =
    only && chosen.length === 1 ? say`the rule “${only.name}”` : say`${chosen.length} rules`;
  const kind = to === 'copied' ? 'makeRule' : to === 'deleted' ? 'deleteRule' : 'changeRule';
  return put(command, changes, kind, say`${verbs[to]} ${what}`);
}

/** Writes changes of rules as a step and says how many open lines they take now. */
export async function put(
  command: BooksCommand,
  changes: readonly RuleChange[],
  kind: StepKind,
  said: Said,
): Promise<RulesChanged> {
  const openTaken = (await setRules(command, changes)) ?? fail('INTERNAL');
  const words = openTaken === 0 ? said : say`${said}: it takes ${linesSaid(openTaken)} still open`;
  await recordStep(command, { kind, words, items: changes, needs: needsOfRules(changes) });
  return { step: command.step, words: plainWords(words), openTaken };
}

/** What rules name has to be there. */
function needsOfRules(changes: readonly RuleChange[]): Need[] {
  return changes.flatMap(({ after }) => {
    if (after === null) return [];
    const { takes, result } = after.body;
    const banks = needs('bankAccount', [
      ...(takes.bankAccountIds ?? []),
      ...(result.kind === 'transfer' ? [result.bankAccountId] : []),
    ]);
    if (result.kind !== 'code') return banks;
    const { payee, parts } = result;
    return [
      ...banks,
      ...needs('payee', [payee.kind === 'fixed' ? payee.payeeId : null]),
      ...needs(
        'account',
        parts.map(({ accountId }) => accountId),
      ),
      ...needs(
        'costObject',
        parts.flatMap(({ costCentreId, jobId }) => [costCentreId, jobId]),
      ),
    ];
  });
}

/** Rules with the ranks that changes give them. */
function moved(rows: readonly RuleRow[], changes: readonly RuleChange[]): readonly RuleRow[] {
  const ranks = new Map(changes.map(({ thingId, after }) => [thingId, after?.rank]));
  return rows.map((row) => ({ ...row, rank: ranks.get(row.id) ?? row.rank }));
}
