import { randomUUID } from 'node:crypto';
import type { LinesDone, PostLines } from '@zubrell/contract/desk';
import { buildLegs, type Leg } from '@zubrell/core/ledger/buildLegs';
import type { Coding } from '@zubrell/core/ledger/coding';
import type { Proposal } from '@zubrell/core/propose/proposal';
import { sql } from 'drizzle-orm';
import { bulkInsert } from '../../db/bulkInsert.ts';
import type { Tx } from '../../db/database.ts';
import { refreshStatistics } from '../../db/refreshStatistics.ts';
import type { Actor, Services } from '../../services.ts';
import { type BooksLookups, loadLookups } from '../books/lookups.ts';
import { booksCurrency } from '../books/queries.ts';
import { recordStep, takeStepNumber } from '../steps/recordStep.ts';
import { renewProposals } from './proposals.ts';
import { leftOutFor, type TargetLine, targetLines } from './targetLines.ts';

/** Rows that one posted line makes. */
interface Posting {
  readonly line: TargetLine;
  readonly entryId: string;
  readonly decisionId: string;
  readonly legs: readonly (Leg & { readonly id: string })[];
}

/**
 * Posts open lines with one coding, each as an entry of its own, as one step. Lines that can't be
 * posted are left out and named.
 *
 * @throws {ZubrellError} where the coding itself can't be posted; then nothing is
 */
export async function postLines(
  tx: Tx,
  services: Pick<Services, 'clock'>,
  booksId: string,
  actor: Actor,
  { target, coding, seenStep }: PostLines,
): Promise<LinesDone> {
  const lookups = await loadLookups(tx, booksId, coding);
  lookups.checkCoding(coding);
  const currency = await booksCurrency(tx, booksId);
  const found = await targetLines(tx, booksId, currency, target, seenStep);
  const lines = found.lines.filter(({ twiceOf }) => twiceOf === null);
  const leftOut = [
    ...found.leftOut,
    ...found.lines
      .filter(({ twiceOf }) => twiceOf !== null)
      .map(({ id }) => leftOutFor(id, 'LINE_TWICE')),
  ];
  if (lines.length === 0) return { step: null, words: 'Nothing posted', done: [], leftOut };
  const postings = lines.map((line) => postingOf(line, coding, lookups));
  const step = await takeStepNumber(tx, booksId);
  await insertPostings(tx, booksId, step, coding, postings);
  await refreshStatistics(tx, postings.length);
  await settleLines(tx, booksId, step, lines);
  const words = postedWords(lines.length, coding, lookups);
  await recordStep(tx, services, booksId, actor, step, {
    kind: 'post',
    words,
    items: postings.map(({ line, decisionId }) => ({
      thing: 'line',
      thingId: line.id,
      before: { decisionId: null },
      after: { decisionId },
    })),
  });
  return { step, words, done: lines.map((line) => line.id), leftOut };
}

function postingOf(line: TargetLine, coding: Coding, lookups: BooksLookups): Posting {
  const legs = buildLegs(line.amount, line.ledgerAccountId, coding, lookups.on(line.date));
  return {
    line,
    entryId: randomUUID(),
    decisionId: randomUUID(),
    legs: legs.map((leg) => ({ ...leg, id: randomUUID() })),
  };
}

async function insertPostings(
  tx: Tx,
  booksId: string,
  step: number,
  coding: Coding,
  postings: readonly Posting[],
): Promise<void> {
  await bulkInsert(
    tx,
    'entries',
    {
      books_id: 'uuid',
      id: 'uuid',
      date: 'date',
      kind: 'text',
      payee_id: 'uuid',
      note: 'text',
      step: 'bigint',
      is_void: 'boolean',
    },
    postings.map(({ entryId, line }) => ({
      books_id: booksId,
      id: entryId,
      date: line.date,
      kind: 'line',
      payee_id: coding.payeeId,
      note: coding.note,
      step,
      is_void: false,
    })),
  );
  await bulkInsert(
    tx,
    'legs',
    {
      books_id: 'uuid',
      id: 'uuid',
      entry_id: 'uuid',
      position: 'integer',
      account_id: 'uuid',
      amount: 'bigint',
      tax_code_id: 'uuid',
      role: 'text',
    },
    postings.flatMap(({ entryId, legs }) =>
      legs.map((leg, position) => ({
        books_id: booksId,
        id: leg.id,
        entry_id: entryId,
        position,
        account_id: leg.accountId,
        amount: leg.amount,
        tax_code_id: leg.taxCodeId,
        role: leg.role,
      })),
    ),
  );
  await bulkInsert(
    tx,
    'decisions',
    {
      books_id: 'uuid',
      id: 'uuid',
      kind: 'text',
      coding: 'jsonb',
      proposed_by: 'text',
      is_kept: 'boolean',
      step: 'bigint',
    },
    postings.map(({ decisionId, line }) => {
      const proposal = line.proposal as Proposal | null;
      return {
        books_id: booksId,
        id: decisionId,
        kind: 'posted',
        coding,
        proposed_by: proposal?.source ?? null,
        is_kept: proposal !== null && isKept(proposal.coding, coding),
        step,
      };
    }),
  );
  const ties = { books_id: 'uuid', decision_id: 'uuid' } as const;
  await bulkInsert(
    tx,
    'decision_lines',
    { ...ties, line_id: 'uuid' },
    postings.map(({ decisionId, line }) => ({
      books_id: booksId,
      decision_id: decisionId,
      line_id: line.id,
    })),
  );
  await bulkInsert(
    tx,
    'decision_legs',
    { ...ties, leg_id: 'uuid' },
    postings.flatMap(({ decisionId, legs }) =>
      legs
        .filter((leg) => leg.role === 'bank')
        .map((leg) => ({ books_id: booksId, decision_id: decisionId, leg_id: leg.id })),
    ),
  );
}

/** Marks lines as touched, takes their drafts and proposals away, and teaches their look-alikes. */
export async function settleLines(
  tx: Tx,
  booksId: string,
  step: number,
  lines: readonly Pick<TargetLine, 'id' | 'stem'>[],
): Promise<void> {
  const ids = sql.param(lines.map((line) => line.id));
  await tx.execute(
    sql`update lines set last_step = ${step}
        where books_id = ${booksId} and id = any(${ids}::uuid[])`,
  );
  await tx.execute(
    sql`delete from drafts where books_id = ${booksId} and line_id = any(${ids}::uuid[])`,
  );
  await renewProposals(
    tx,
    booksId,
    lines.map((line) => line.stem),
  );
}

/** Whether a coding leaves a proposal as it was, but for the note. */
function isKept(proposed: Coding, coding: Coding): boolean {
  return (
    proposed.payeeId === coding.payeeId &&
    JSON.stringify(proposed.parts.map(partKey)) === JSON.stringify(coding.parts.map(partKey))
  );
}

function partKey(part: Coding['parts'][number]): unknown[] {
  return [part.accountId, part.taxCodeId, part.share, part.tax];
}

function postedWords(count: number, coding: Coding, lookups: BooksLookups): string {
  const accounts = [...new Set(coding.parts.map((part) => lookups.accountName(part.accountId)))];
  const payee = coding.payeeId === null ? '' : ` of ${lookups.payeeName(coding.payeeId)}`;
  return `Posted ${countLines(count)}${payee} to ${accounts.join(', ')}`;
}

/** @example countLines(1) // '1 line' */
export function countLines(count: number): string {
  return count === 1 ? '1 line' : `${count} lines`;
}
