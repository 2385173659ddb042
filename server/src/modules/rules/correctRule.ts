import { type LinesDone, Proposal as TakenProposal } from '@zubrell/contract/desk';
import type { CorrectRule, MiscodedLines } from '@zubrell/contract/rules';
import type { BooksId, RuleId } from '@zubrell/core/ids';
import type { Coding } from '@zubrell/core/ledger/coding';
import { type PostProposal, ruleGround } from '@zubrell/core/propose/proposal';
import { takesOf } from '@zubrell/core/propose/rule/conditions';
import { linesSaid, say } from '@zubrell/core/words/say';
import type { Tx } from '../../db/database.ts';
import { needsOfCodings } from '../books/needsOf.ts';
import { bankLedgers } from '../books/queries.ts';
import { postingsOf } from '../lines/postings.ts';
import { postedLines, repost, unrecodable } from '../lines/recodeLines.ts';
import { openingOf } from '../lines/reopenLines.ts';
import { type LeftOut, leftOutFor, leftOutIfChanged } from '../lines/targetLines.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { putItems } from '../steps/putItems.ts';
import { plainWords, recordStep } from '../steps/recordStep.ts';
import { proposingByOneRule } from './activeRules.ts';
import { type KnownLine, linesByRule } from './booksLines.ts';
import { ruleAmong, ruleRows } from './ruleRows.ts';
import { earlierOf, sameAs, shown } from './tryRule.ts';

/** So many lines are listed. */
const LISTED = 500;

/** A line that a rule coded otherwise than it would now. */
interface Miscoded {
  readonly line: KnownLine;
  /** What it would be coded to; null where the rule doesn't take it any more. */
  readonly proposal: PostProposal | null;
}

/**
 * Lines that still stand as a rule coded them and that it would code otherwise by now, or not take any more, the
 * newest first. What was changed by hand since is no business of the rule.
 */
async function miscodedOf(tx: Tx, booksId: BooksId, ruleId: RuleId): Promise<readonly Miscoded[]> {
  const rows = await ruleRows(tx, booksId);
  const rule = ruleAmong(rows, ruleId);
  const coded = await linesByRule(tx, booksId, ruleId);
  const own = coded.filter(({ state, isKept }) => state === 'posted' && isKept);
  if (own.length === 0) return [];
  const holds = takesOf(rule.body.takes);
  const before = earlierOf(rows, ruleId);
  const bankLedger = await bankLedgers(tx, booksId);
  const propose = await proposingByOneRule(tx, booksId, {
    id: ruleId,
    name: rule.name,
    ...rule.body,
  });
  return own.flatMap((line): Miscoded[] => {
    const isTaken = rule.isOn && holds(line) && before(line) === null;
    const proposal = isTaken ? propose(line.facts) : null;
    if (proposal?.kind !== 'post') return [{ line, proposal: null }];
    const { payeeId } = proposal.coding;
    const isPayeeSame = payeeId === null || payeeId === line.payeeId;
    const isSame = isPayeeSame && sameAs(rule.body.result, line, bankLedger) !== false;
    return isSame ? [] : [{ line, proposal }];
  });
}

/** What a rule coded otherwise than it would now. */
export async function miscodedLines(
  tx: Tx,
  booksId: BooksId,
  ruleId: RuleId,
): Promise<MiscodedLines> {
  const all = await miscodedOf(tx, booksId, ruleId);
  const lines = all.slice(0, LISTED).map(({ line, proposal }) => ({
    ...shown(line, null, false, null),
    fix: proposal === null ? ('reopen' as const) : ('recode' as const),
  }));
  return { count: all.length, lines };
}

/**
 * Puts right what a rule coded before it was changed, as one step: lines that it still takes are coded as it says now,
 * others are opened again. What the rule leaves open stays as it is.
 *
 * @throws {ZubrellError} RULE_UNKNOWN
 */
export async function correctRule(
  command: BooksCommand,
  ruleId: RuleId,
  { lineIds, seenStep }: CorrectRule,
): Promise<LinesDone> {
  const { tx, booksId } = command;
  const { name } = ruleAmong(await ruleRows(tx, booksId), ruleId);
  const wrong = new Map(
    (await miscodedOf(tx, booksId, ruleId)).map((each) => [each.line.id, each]),
  );
  const leftOut: LeftOut[] = lineIds
    .filter((id) => !wrong.has(id))
    .map((id) => leftOutFor(id, 'RULE_LINE_RIGHT'));
  const wanted = lineIds.flatMap((id) => wrong.get(id) ?? []);
  const toOpen = wanted.flatMap(({ line, proposal }) => (proposal === null ? [line.id] : []));
  const opening = await openingOf(command, toOpen, seenStep);
  leftOut.push(...opening.leftOut);
  if (opening.items.length > 0) await putItems(command, opening.items);
  const recoded = await recodeAsProposed(command, wanted, seenStep);
  leftOut.push(...recoded.leftOut);
  const done = [...opening.done, ...recoded.done];
  if (done.length === 0) return { step: null, words: 'No lines corrected', done, leftOut };
  const words = say`Corrected ${linesSaid(done.length)} that the rule “${name}” had coded`;
  await recordStep(command, {
    kind: 'recode',
    words,
    items: [...opening.items, ...recoded.items],
    needs: needsOfCodings(recoded.codings),
  });
  return { step: command.step, words: plainWords(words), done, leftOut };
}

/** Codes posted lines as is proposed for them now. */
async function recodeAsProposed(
  command: BooksCommand,
  wanted: readonly Miscoded[],
  seenStep: number,
) {
  const { tx, booksId } = command;
  const proposals = new Map(
    wanted.flatMap(({ line, proposal }) => (proposal === null ? [] : [[line.id, proposal]])),
  );
  const leftOut: LeftOut[] = [];
  const lines = await postedLines(tx, booksId, [...proposals.keys()]);
  const coded = lines.flatMap((line) => {
    const left = leftOutIfChanged(line, seenStep) ?? unrecodable(line, {});
    const proposal = proposals.get(line.id);
    if (left) leftOut.push(left);
    if (left || !proposal || !line.coding) return [];
    const taken = { ...line, proposal: TakenProposal.parse(proposal) };
    return [{ line: taken, coding: filledUp(proposal, line.coding) }];
  });
  const { postings, leftOut: unpostable } = await postingsOf(tx, booksId, coded);
  leftOut.push(...unpostable);
  const decided = lines.flatMap(({ id, decisionId }) => (decisionId ? [{ id, decisionId }] : []));
  return {
    leftOut,
    items: postings.length === 0 ? [] : await repost(command, postings, decided),
    done: postings.map(({ line }) => line.id),
    codings: postings.map(({ coding }) => coding),
  };
}

/** A rule's coding; what it leaves open is as it was. */
function filledUp(proposal: PostProposal, before: Coding): Coding {
  const { payeeId, note, parts } = proposal.coding;
  const leaves = ruleGround(proposal)?.leaves ?? [];
  const [part] = before.parts;
  const taxCodeId = before.parts.length === 1 ? (part?.taxCodeId ?? null) : null;
  return {
    payeeId: leaves.includes('payee') ? before.payeeId : payeeId,
    note: note ?? before.note,
    parts: leaves.includes('tax') ? parts.map((each) => ({ ...each, taxCodeId })) : parts,
  };
}
