import { Coding } from '@zubrell/contract/coding';
import type { LinesDone, RecodeLines } from '@zubrell/contract/desk';
import type { BooksId, DecisionId, LineId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { needsOfCodings } from '../books/needsOf.ts';
import { setLineDecisions } from '../decisions/setLineDecisions.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordStep } from '../steps/recordStep.ts';
import { joinLastChange, joinLiveDecision, lastChangeColumns } from './lineState.ts';
import { insertPostings, postingsOf } from './postings.ts';
import { countLines, settleLines } from './postLines.ts';
import {
  bankFactColumns,
  ChangedLine,
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

/**
 * Gives posted lines another payee, account or tax code, as one step: each gets a new entry in the place
 * of the old one, which is voided. Split lines keep their accounts: only their payee can be changed so.
 *
 * @throws {ZubrellError} where the new coding can't be posted at all
 */
export async function recodeLines(
  command: BooksCommand,
  { lineIds, seenStep, ...change }: RecodeLines,
): Promise<LinesDone> {
  const { tx, booksId, step } = command;
  const found = await postedLines(tx, booksId, lineIds);
  const leftOut: LinesDone['leftOut'] = [];
  const lines = found.filter((line): line is Recoded => {
    const changed = leftOutIfChanged(line, seenStep);
    if (changed) leftOut.push(changed);
    else if (line.kind !== 'posted' || line.coding === null) {
      leftOut.push(leftOutFor(line.id, 'LINE_DECIDED', { state: line.kind ?? 'open' }));
    } else if (line.isShared) {
      leftOut.push(leftOutFor(line.id, 'ENTRY_PAIRED'));
    } else if (line.coding.parts.length > 1 && changesParts(change)) {
      leftOut.push(leftOutFor(line.id, 'RECODE_SPLIT'));
    } else return true;
    return false;
  });
  const wanted = lines.map((line) => ({ line, coding: recoded(line.coding, change) }));
  const { postings, lookups, leftOut: unpostable } = await postingsOf(tx, booksId, wanted);
  leftOut.push(...unpostable);
  if (postings.length === 0) return { step: null, words: 'Nothing recoded', done: [], leftOut };
  const before = new Map(lines.map(({ id, decisionId }) => [id, decisionId]));
  await setLineDecisions(
    tx,
    booksId,
    postings.map(({ line: { id } }) => ({ lineId: id, from: before.get(id) ?? null, to: null })),
    step,
  );
  await command.follow.decisionsEnded(
    command,
    lines.map(({ decisionId }) => decisionId),
  );
  const way = postings.length === 1 ? 'line' : 'stack';
  const items = await insertPostings(command, way, postings);
  const done = postings.map(({ line }) => line);
  await settleLines(command, done);
  const to = [
    change.payeeId ? lookups.payeeName(change.payeeId) : null,
    change.accountId ? lookups.accountName(change.accountId) : null,
  ].filter((name) => name !== null);
  const words = `Recoded ${countLines(done.length)}${to.length > 0 ? ` to ${to.join(', ')}` : ''}`;
  await recordStep(command, {
    kind: 'recode',
    words,
    items: items.map((item) => ({
      ...item,
      before: { decisionId: before.get(item.thingId) ?? null },
    })),
    needs: needsOfCodings(postings.map(({ coding }) => coding)),
  });
  return { step, words, done: done.map(({ id }) => id), leftOut };
}

type Change = Omit<RecodeLines, 'lineIds' | 'seenStep'>;

function changesParts({ accountId, taxCodeId }: Change): boolean {
  return accountId !== undefined || taxCodeId !== undefined;
}

/** A coding with what is to change, changed. Another account or tax code has its own tax. */
function recoded(coding: Coding, change: Change): Coding {
  const payeeId = change.payeeId === undefined ? coding.payeeId : change.payeeId;
  if (!changesParts(change)) return { ...coding, payeeId };
  const parts = coding.parts.map((part) => ({
    ...part,
    accountId: change.accountId ?? part.accountId,
    taxCodeId: change.taxCodeId === undefined ? part.taxCodeId : change.taxCodeId,
    tax: null,
  }));
  return { ...coding, payeeId, parts };
}

function postedLines(tx: Tx, booksId: BooksId, lineIds: readonly LineId[]): Promise<PostedRow[]> {
  return rowsOf(
    tx,
    PostedRow,
    sql`select l.id, l.date, l.amount, coalesce(b.currency, k.currency) as currency, ${bankFactColumns},
          l.stem, b.id as "bankAccountId", b.account_id as "ledgerAccountId",
          null as proposal, null as digest, null as odds, l.asked, l.twice_of as "twiceOf", l.held, d.kind, d.id as "decisionId",
          null as "countedTo", d.coding, ${lastChangeColumns},
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
        ${joinLastChange}
        where l.books_id = ${booksId} and l.id = any(${sql.param(lineIds)}::uuid[])
        order by l.date, l.position, l.id
        for update of l`,
  );
}
