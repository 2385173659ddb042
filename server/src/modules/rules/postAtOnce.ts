import type { BooksId, RuleId } from '@zubrell/core/ids';
import { proposedCoding } from '@zubrell/core/propose/proposal';
import { linesSaid, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { IdRow, idRow } from '../../db/rows.ts';
import { booksCurrency } from '../books/queries.ts';
import { isOpenLine, isTwice } from '../lines/lineState.ts';
import { coveredPostings } from '../lines/postings.ts';
import { postAsStep } from '../lines/postLines.ts';
import { targetLines } from '../lines/targetLines.ts';
import { type BooksCommand, nextCommand } from '../steps/booksCommand.ts';
import { postsAtOnce, ruleRows } from './ruleRows.ts';

const WaitingRow = z.object({ id: z.string(), ruleId: idRow<RuleId>(), amount: z.number() });

/**
 * Posts what rules that may post at once take, a step for each rule. Only lines without a doubt, up to the
 * rule's largest amount, outside closed periods, that nobody has ever worked on.
 */
export async function postAtOnce(command: BooksCommand): Promise<void> {
  const { tx, booksId } = command;
  let next = command;
  const rules = (await ruleRows(tx, booksId)).filter(postsAtOnce);
  if (rules.length === 0) return;
  const currency = await booksCurrency(tx, booksId);
  const waiting = await rowsOf(
    tx,
    WaitingRow,
    sql`select l.id, p.rule_id as "ruleId", l.amount from proposals p
        join lines l on l.books_id = p.books_id and l.id = p.line_id
        where p.books_id = ${booksId} and p.lane = 'ready'
          and p.rule_id = any(${sql.param(rules.map(({ id }) => id))}::uuid[])
          and ${isOpenLine} and l.asked is null and l.held is null and not ${isTwice}
          and not exists (select from drafts f where f.books_id = l.books_id and f.line_id = l.id)
          and not exists (select from decision_lines dl
            where dl.books_id = l.books_id and dl.line_id = l.id)`,
  );
  for (const { id, name, body } of rules) {
    const largest = body.after.kind === 'post' ? body.after.largest : null;
    const lineIds = waiting
      .filter(({ ruleId, amount }) => ruleId === id && Math.abs(amount) <= (largest ?? Infinity))
      .map((line) => line.id);
    if (lineIds.length === 0) continue;
    const seen = Number.MAX_SAFE_INTEGER;
    const { lines } = await targetLines({ tx, booksId }, currency, { lineIds }, seen);
    const wanted = lines.flatMap((line) => {
      const coding = proposedCoding(line.proposal);
      return coding ? [{ line, coding }] : [];
    });
    const { postings } = await coveredPostings(tx, booksId, wanted);
    if (postings.length === 0) continue;
    const words = say`The rule “${name}” posted ${linesSaid(postings.length)} at once`;
    await postAsStep(next, { kind: 'rulePost', way: 'rule', words, postings });
    next = nextCommand(next);
  }
}

/** The lines that a rule posted at once and that still stand so. */
export async function postedByRule(tx: Tx, booksId: BooksId, ruleId: RuleId): Promise<string[]> {
  const rows = await rowsOf(
    tx,
    IdRow,
    sql`select dl.line_id as id from decisions d
        join decision_lines dl on dl.books_id = d.books_id and dl.decision_id = d.id and dl.is_live
        where d.books_id = ${booksId} and d.rule_id = ${ruleId} and d.way = 'rule'`,
  );
  return rows.map(({ id }) => id);
}
