import { Coding } from '@zubrell/contract/coding';
import type { LinesDone, RecodeLines } from '@zubrell/contract/desk';
import type { BooksId, DecisionId, LineId } from '@zubrell/core/ids';
import { linesSaid, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { needsOfCodings } from '../books/needsOf.ts';
import { setLineDecisions } from '../decisions/setLineDecisions.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { plainWords, recordStep, type StepItem } from '../steps/recordStep.ts';
import { joinLiveDecision, lastChangeOfLine } from './lineState.ts';
import { insertPostings, type Posting, postingsOf } from './postings.ts';
import { settleLines } from './postLines.ts';
import {
  bankFactColumns,
  ChangedLine,
  type LeftOut,
  leftOutFor,
  leftOutIfChanged,
  TargetLine,
} from './targetLines.ts';

const PostedRow = TargetLine.extend(ChangedLine.shape).extend({
  kind: z.string().nullable(),
  decisionId: idRow<DecisionId>().nullable(),
  coding: Coding.nullable(),
  /** The other half of a move stands on the same entry. */
  isShared: z.boolean(),
});
type PostedRow = z.infer<typeof PostedRow>;

type Recoded = PostedRow & { readonly decisionId: DecisionId; readonly coding: Coding };

/** What is to be different about posted lines. */
export type RecodeChange = Omit<RecodeLines, 'target' | 'seenStep'>;

/**
 * Codes posted lines otherwise, as one step: each gets a new entry in the place of the old one, which is voided. Of
 * split lines the parts on one account change, where that is named; else they keep their accounts and tax.
 *
 * @throws {ZubrellError} where the new coding can't be posted at all
 */
export async function recodeLines(
  command: BooksCommand,
  lineIds: readonly LineId[],
  change: RecodeChange,
  seenStep: number,
): Promise<LinesDone> {
  const { tx, booksId, step } = command;
  const found = await postedLines(tx, booksId, lineIds);
  const leftOut: LinesDone['leftOut'] = [];
  const lines = found.filter((line): line is Recoded => {
    const left = leftOutIfChanged(line, seenStep) ?? unrecodable(line, change);
    if (left) leftOut.push(left);
    return left === null;
  });
  const wanted = lines.map((line) => ({ line, coding: recoded(line.coding, change) }));
  const { postings, lookups, leftOut: unpostable } = await postingsOf(tx, booksId, wanted);
  leftOut.push(...unpostable);
  if (postings.length === 0) return { step: null, words: 'Nothing recoded', done: [], leftOut };
  const items = await repost(command, postings, lines);
  const to = [
    change.payeeId ? lookups.payeeName(change.payeeId) : null,
    change.accountId ? lookups.accountName(change.accountId) : null,
  ].filter((name) => name !== null);
  const done = postings.map(({ line }) => line.id);
  const words = say`Recoded ${linesSaid(done.length)}${to.length > 0 ? say` to ${to.join(', ')}` : ''}`;
  await recordStep(command, {
    kind: 'recode',
    words,
    items,
    needs: needsOfCodings(postings.map(({ coding }) => coding)),
  });
  return { step, words: plainWords(words), done, leftOut };
}

/**
 * Posts lines anew in the place of what was decided about them.
 *
 * @param decided the lines with the decisions that they have until now
 * @returns what the step touched
 */
export async function repost(
  command: BooksCommand,
  postings: readonly Posting[],
  decided: readonly { readonly id: LineId; readonly decisionId: DecisionId }[],
): Promise<StepItem[]> {
  const before = new Map(decided.map(({ id, decisionId }) => [id, decisionId]));
  const decisionOf = (lineId: LineId) => before.get(lineId) ?? null;
  const lines = postings.map(({ line }) => line);
  await setLineDecisions(
    command,
    lines.map(({ id }) => ({ lineId: id, from: decisionOf(id), to: null })),
  );
  await command.follow.decisionsEnded(
    command,
    lines.flatMap(({ id }) => decisionOf(id) ?? []),
  );
  const items = await insertPostings(command, postings.length === 1 ? 'line' : 'stack', postings);
  await settleLines(command, lines);
  return items.map((item) => ({ ...item, before: { decisionId: decisionOf(item.thingId) } }));
}

/** Why a line can't be coded otherwise; null where it can. */
export function unrecodable(line: PostedRow, change: RecodeChange): LeftOut | null {
  const { id, kind, coding } = line;
  if (kind !== 'posted' || coding === null) {
    return leftOutFor(id, 'LINE_DECIDED', { state: kind ?? 'open' });
  }
  if (line.isShared) return leftOutFor(id, 'ENTRY_PAIRED');
  const { fromAccountId } = change;
  if (fromAccountId !== undefined) {
    const has = coding.parts.some(({ accountId }) => accountId === fromAccountId);
    return has ? null : leftOutFor(id, 'RECODE_ELSEWHERE');
  }
  const isCut = coding.parts.length > 1 && changesAccounts(change);
  return isCut ? leftOutFor(id, 'RECODE_SPLIT') : null;
}

function changesAccounts({ accountId, taxCodeId }: RecodeChange): boolean {
  return accountId !== undefined || taxCodeId !== undefined;
}

/** A coding with what is to change, changed. Another account or tax code has its own tax. */
function recoded(
  coding: Coding,
  { payeeId, note, fromAccountId, ...change }: RecodeChange,
): Coding {
  const { accountId, taxCodeId, costCentreId, jobId } = change;
  return {
    ...coding,
    payeeId: payeeId === undefined ? coding.payeeId : payeeId,
    note: note === undefined ? coding.note : note,
    parts: coding.parts.map((part) => {
      if (fromAccountId !== undefined && part.accountId !== fromAccountId) return part;
      return {
        ...part,
        ...(accountId === undefined ? {} : { accountId }),
        ...(taxCodeId === undefined ? {} : { taxCodeId }),
        ...(costCentreId === undefined ? {} : { costCentreId }),
        ...(jobId === undefined ? {} : { jobId }),
        tax: changesAccounts(change) ? null : part.tax,
      };
    }),
  };
}

/** Lines with what was decided about them, locked. */
export function postedLines(
  tx: Tx,
  booksId: BooksId,
  lineIds: readonly LineId[],
): Promise<PostedRow[]> {
  return rowsOf(
    tx,
    PostedRow,
    sql`select l.id, l.date, l.amount, coalesce(b.currency, k.currency) as currency, ${bankFactColumns},
          l.stem, b.id as "bankAccountId", b.account_id as "ledgerAccountId",
          null as proposal, null as digest, null as odds, l.asked, l.twice_of as "twiceOf", l.held, d.kind, d.id as "decisionId",
          null as "countedTo", d.coding, ${lastChangeOfLine},
          exists (select from decision_legs own
            join legs g on g.books_id = own.books_id and g.id = own.leg_id
            join legs there on there.books_id = g.books_id and there.entry_id = g.entry_id
            join decision_legs other on other.books_id = there.books_id and other.leg_id = there.id
              and other.is_live and other.decision_id <> own.decision_id
            where own.books_id = d.books_id and own.decision_id = d.id) as "isShared"
        from lines l
        join books k on k.id = l.books_id
        join bank_accounts b on b.books_id = l.books_id and b.id = l.bank_account_id
        ${joinLiveDecision}
        left join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
        where l.books_id = ${booksId} and l.id = any(${sql.param(lineIds)}::uuid[])
        order by l.date, l.position, l.id
        for update of l`,
  );
}
