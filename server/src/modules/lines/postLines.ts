import type { LinesDone, PostLines } from '@zubrell/contract/desk';
import type { Coding } from '@zubrell/core/ledger/coding';
import type { PostedWay } from '@zubrell/core/ledger/decisions';
import { candidateNames } from '@zubrell/core/pair/candidateNames';
import type { Proposal } from '@zubrell/core/propose/proposal';
import type { StepKind } from '@zubrell/core/steps/stepKinds';
import { linesSaid, type Said, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { execute, together } from '../../db/database.ts';
import { type BooksLookups, loadLookups } from '../books/lookups.ts';
import { loadMoney } from '../books/money.ts';
import { needsOfCodings } from '../books/needsOf.ts';
import { booksCurrency } from '../books/queries.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { plainWords, recordStep } from '../steps/recordStep.ts';
import { insertPairings, needsOfPlans, type PairingPlan } from './pairings.ts';
import { insertPostings, type Posting, postingOf, withoutOverdrawn } from './postings.ts';
import { leftOutFor, type TargetLine, targetLines, withoutTwice } from './targetLines.ts';

/**
 * Posts open lines with one coding, each as an entry of its own, as one step. Lines that can't be
 * posted are left out and named.
 *
 * @throws {ZubrellError} where the coding itself can't be posted; then nothing is
 */
export async function postLines(
  command: BooksCommand,
  { target, coding, isOnce, isNew, seenStep }: PostLines,
): Promise<LinesDone> {
  const { tx, booksId } = command;
  const [lookups, currency] = await together(
    loadLookups(tx, booksId, [coding]),
    booksCurrency(tx, booksId),
  );
  lookups.checkCoding(coding);
  const found = withoutTwice(await targetLines({ tx, booksId }, currency, target, seenStep));
  const leftOut = [...found.leftOut];
  const lines = found.lines.filter(({ id, proposal }) => {
    const fits = isNew ? null : inBooks(proposal);
    if (fits !== null) leftOut.push(leftOutFor(id, 'LINE_IN_BOOKS', { what: fits }));
    return fits === null;
  });
  if (lines.length === 0) return { step: null, words: 'Nothing posted', done: [], leftOut };
  const money = await loadMoney(tx, booksId, lines);
  const covered = await withoutOverdrawn(
    tx,
    booksId,
    lines.map((line) => postingOf(line, coding, lookups, money)),
  );
  const { postings } = covered;
  leftOut.push(...covered.leftOut);
  if (postings.length === 0) return { step: null, words: 'Nothing posted', done: [], leftOut };
  const done = await postAsStep(command, {
    kind: 'post',
    way: postings.length === 1 ? 'line' : 'stack',
    words: postedWords(postings.length, coding, lookups, isOnce ?? false),
    postings,
    isOnce: isOnce ?? false,
  });
  return { ...done, leftOut };
}

/** Postings, with the step that they are. */
export interface PostingStep {
  readonly kind: StepKind;
  readonly way: PostedWay;
  readonly words: Said;
  readonly postings: readonly Posting[];
  /** Lines that are paired in the same step. */
  readonly plans?: readonly PairingPlan[];
  /** Nothing is to be learned from it. */
  readonly isOnce?: boolean;
}

/** Writes postings and pairings as one step and settles their lines. */
export async function postAsStep(
  command: BooksCommand,
  { kind, way, words, postings, plans = [], isOnce = false }: PostingStep,
): Promise<Omit<LinesDone, 'leftOut'>> {
  const { step } = command;
  const lines = [
    ...postings.map(({ line }) => line),
    ...plans.flatMap(({ lines: paired }) => paired),
  ];
  const targetIds = plans.flatMap(({ targets }) => targets.map(({ id }) => id));
  const items = [
    ...(await insertPostings(command, way, postings, isOnce)),
    ...(await insertPairings(command, way, plans)),
  ];
  await settleLines(command, lines, targetIds);
  const needs = [...needsOfCodings(postings.map(({ coding }) => coding)), ...needsOfPlans(plans)];
  await recordStep(command, { kind, words, items, needs });
  return { step, words: plainWords(words), done: lines.map(({ id }) => id) };
}

/**
 * Takes the drafts of decided lines away, teaches their look-alikes, and those for which
 * it matters that they are decided.
 *
 * @param targetIds legs and documents that they were paired with
 */
export async function settleLines(
  command: BooksCommand,
  lines: readonly Pick<TargetLine, 'id' | 'stem' | 'amount'>[],
  targetIds: readonly string[] = [],
): Promise<void> {
  const { tx, booksId } = command;
  const ids = sql.param(lines.map((line) => line.id));
  await execute(
    tx,
    sql`delete from drafts where books_id = ${booksId} and line_id = any(${ids}::uuid[])`,
  );
  await command.follow.linesDecided(command, {
    stems: lines.map((line) => line.stem),
    amounts: lines.map((line) => line.amount),
    targetIds,
  });
}

/** What a line seems to be in the books already; null where nothing is. */
function inBooks(proposal: Proposal | null): string | null {
  return proposal?.kind === 'pair' ? candidateNames(proposal.targets) : null;
}

function postedWords(count: number, coding: Coding, lookups: BooksLookups, isOnce: boolean): Said {
  const names = [...new Set(coding.parts.map((part) => lookups.accountName(part.accountId)))];
  const accounts = names.join(', ');
  const lines = linesSaid(count);
  const words =
    coding.payeeId === null
      ? say`Posted ${lines} to ${accounts}`
      : say`Posted ${lines} of ${lookups.payeeName(coding.payeeId)} to ${accounts}`;
  return isOnce ? say`${words}, only this once` : words;
}
