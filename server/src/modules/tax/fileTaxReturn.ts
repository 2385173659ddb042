import { randomUUID } from 'node:crypto';
import type { Made } from '@zubrell/contract/common';
import type { HandEntry } from '@zubrell/contract/ledger';
import type { FileTaxReturn, TaxFigures } from '@zubrell/contract/tax';
import { formatLongDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { AccountId, TaxReturnId } from '@zubrell/core/ids';
import { roleNames } from '@zubrell/core/ledger/accountRoles';
import { formatAmount } from '@zubrell/core/money/formatAmount';
import { taxDue, taxUnexplained } from '@zubrell/core/tax/taxReturn';
import { amountSaid, dateSaid, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import { IdRow, idRow } from '../../db/rows.ts';
import { taxReturns } from '../../db/schema/tax.ts';
import { putSettings, settingsOf } from '../books/changeBooks.ts';
import { needsLeave } from '../books/needsLeave.ts';
import { booksCurrency } from '../books/queries.ts';
import {
  followPlans,
  type HandPlan,
  handPlans,
  insertHandPlans,
  needsOfEntries,
} from '../ledger/handPlans.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordDone, type StepItem } from '../steps/recordStep.ts';
import { taxFigures, unreported } from './taxFigures.ts';
import { checkPeriod, reportedTo } from './taxReturns.ts';

/**
 * Files a return: what it counted is kept, and isn't reported again.
 *
 * @throws {ZubrellError} LEAVE_NEEDED, REPORT_TURNED, TAX_RETURN_GAP, TAX_RETURN_EARLY, TAX_RETURN_CHANGED,
 * TAX_ACCOUNTS_OFF, ACCOUNT_ROLE_MISSING
 */
export async function fileTaxReturn(
  command: BooksCommand,
  { from, to, seenDue, movesTax, locks, note }: FileTaxReturn,
): Promise<Made> {
  const { tx, booksId, clock } = command;
  await needsLeave(command, 'close');
  await checkPeriod(tx, booksId, { from, to });
  if (to >= clock.today()) fail('TAX_RETURN_EARLY', { to: formatLongDate(to) });
  const figures = await taxFigures(tx, booksId, { from, to });
  const currency = await booksCurrency(tx, booksId);
  const { due } = taxDue(figures.rows);
  if (due !== seenDue) fail('TAX_RETURN_CHANGED', { due: formatAmount(due, currency) });
  const off = taxUnexplained(figures.agreement);
  if (off !== 0) fail('TAX_ACCOUNTS_OFF', { off: formatAmount(off, currency) });
  const days = `${formatLongDate(from)} to ${formatLongDate(to)}`;
  const journal = movesTax ? await clearingJournal(command, to, `Tax return ${days}`) : null;
  const plans = journal === null ? [] : await clearingPlans(command, journal);
  // The return is kept before its own journal: it counts what was there when it was looked at.
  const { id, item } = await insertReturn(command, { kind: 'filed', from, to, figures, note });
  const entries = await insertHandPlans(command, plans);
  await followPlans(command, plans);
  const [plan] = plans;
  if (plan) {
    await tx.execute(
      sql`update tax_returns set entry_id = ${plan.entry.id} where books_id = ${booksId} and id = ${id}`,
    );
  }
  const items = [item, ...entries, ...(locks ? await lock(command, to) : [])];
  const words = say`Filed the tax return ${dateSaid(from)} to ${dateSaid(to)}, ${amountSaid(due, currency)} due`;
  const wanted = journal === null ? [] : needsOfEntries([journal]);
  return {
    id,
    ...(await recordDone(command, { kind: 'fileTaxReturn', words, items, needs: wanted })),
  };
}

/**
 * Records that tax was reported elsewhere up to a day: nothing dated up to then is reported from here.
 *
 * @throws {ZubrellError} LEAVE_NEEDED, TAX_RETURN_ORDER
 */
export async function reportedElsewhere(command: BooksCommand, to: string): Promise<Made> {
  const { tx, booksId } = command;
  await needsLeave(command, 'close');
  const reported = await reportedTo(tx, booksId);
  if (reported !== null) fail('TAX_RETURN_ORDER', { reported: formatLongDate(reported) });
  const figures = await taxFigures(tx, booksId, { from: to, to });
  const wanted = { kind: 'elsewhere', from: to, to, figures, note: null } as const;
  const { id, item } = await insertReturn(command, wanted);
  const words = say`Recorded that tax was reported elsewhere up to ${dateSaid(to)}`;
  return {
    id,
    ...(await recordDone(command, { kind: 'reportTaxElsewhere', words, items: [item] })),
  };
}

interface NewReturn {
  readonly kind: 'filed' | 'elsewhere';
  readonly from: string;
  readonly to: string;
  readonly figures: TaxFigures;
  readonly note: string | null;
}

async function insertReturn(
  { tx, booksId, actor, clock, step }: BooksCommand,
  { kind, from, to, figures, note }: NewReturn,
): Promise<{ readonly id: TaxReturnId; readonly item: StepItem }> {
  const id = randomUUID();
  await tx.insert(taxReturns).values({
    booksId,
    id,
    kind,
    fromDate: from,
    toDate: to,
    figures,
    note,
    filedBy: actor.userId,
    filedAt: clock.now(),
    step,
    // What it counts is asked for while it isn't there yet.
    isHere: false,
  });
  await tx.execute(
    sql`insert into tax_return_parts (books_id, return_id, leg_id, sign)
        select ${booksId}, ${id}, x.leg_id, x.sign from (${unreported(booksId, to)}) x`,
  );
  await tx.execute(
    sql`update tax_returns set is_here = true, counted = (
          select coalesce(sum(p.sign * g.amount), 0)::bigint from tax_return_parts p
          join legs g on g.books_id = p.books_id and g.id = p.leg_id and g.role = 'tax'
          where p.books_id = ${booksId} and p.return_id = ${id})
        where books_id = ${booksId} and id = ${id}`,
  );
  return { id, item: { thing: 'taxReturn', thingId: id, before: null, after: { from, to } } };
}

const MovedRow = z.object({ accountId: idRow<AccountId>(), amount: z.int() });

/** The journal that moves the tax of a return from the tax accounts to what is owed; null where there is none. */
async function clearingJournal(
  { tx, booksId }: BooksCommand,
  date: string,
  note: string,
): Promise<HandEntry | null> {
  const moved = await rowsOf(
    tx,
    MovedRow,
    sql`select g.account_id as "accountId", sum(x.sign * g.amount)::bigint as amount
        from (${unreported(booksId, date)}) x
        join legs g on g.books_id = ${booksId} and g.id = x.leg_id and g.role = 'tax'
        group by 1 having sum(x.sign * g.amount) <> 0`,
  );
  if (moved.length === 0) return null;
  const [owed] = await rowsOf(
    tx,
    IdRow,
    sql`select id from accounts where books_id = ${booksId} and role = 'taxOwed' and is_here`,
  );
  if (!owed) fail('ACCOUNT_ROLE_MISSING', { what: roleNames.taxOwed });
  const total = moved.reduce((sum, { amount }) => sum + amount, 0);
  return {
    kind: 'journal',
    date,
    number: null,
    payeeId: null,
    note,
    legs: [
      ...moved.map(({ accountId, amount }) => ({ accountId, amount: -amount })),
      ...(total === 0 ? [] : [{ accountId: owed.id, amount: total }]),
    ],
  };
}

/** Where the last day of the period is closed, the journal counts on the first open day. */
async function clearingPlans(
  { tx, booksId }: BooksCommand,
  journal: HandEntry,
): Promise<readonly HandPlan[]> {
  const plans = await handPlans(tx, booksId, [journal]);
  return plans.map((plan) => ({ ...plan, entry: { ...plan.entry, mayBeLate: true } }));
}

/** Locks the books up to a day, where they aren't locked beyond it already. */
async function lock(command: BooksCommand, to: string): Promise<StepItem[]> {
  const { tx, booksId } = command;
  const before = await settingsOf(tx, booksId);
  if (before.lockDate !== null && before.lockDate >= to) return [];
  const after = { ...before, lockDate: to };
  await putSettings(command, before, after);
  return [{ thing: 'books', thingId: booksId, before, after }];
}
