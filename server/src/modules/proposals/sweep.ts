import type { DeskLine, LinesDone, Scope, SweepLines, SweepSummary } from '@zubrell/contract/desk';
import type { AccountId, BooksId, PayeeId } from '@zubrell/core/ids';
import { sumOf } from '@zubrell/core/money/minor';
import { proposedCoding } from '@zubrell/core/propose/proposal';
import { countSaid, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { IdRow, idRow } from '../../db/rows.ts';
import { booksCurrency, lastStepOf } from '../books/queries.ts';
import { isInLane } from '../lines/lineState.ts';
import { coveredPostings } from '../lines/postings.ts';
import { postAsStep } from '../lines/postLines.ts';
import { laneCounts, linesOf } from '../lines/queries.ts';
import { scopeFilter } from '../lines/scopeFilter.ts';
import { isSwept, leftOutFor, targetLines } from '../lines/targetLines.ts';
import { proposedPlans } from '../pairing/pairLines.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';

/** So many lines of a sweep are laid out for a look. */
const LOOKED_AT = 5;
/** So many of the largest are shown. */
const LARGEST = 5;
/** So many pairs are shown, and so many moves between own accounts. */
const PAIRS_SHOWN = 25;

const ReadyRow = z.object({
  id: z.string(),
  amount: z.number(),
  /** Null where the line is to be paired. */
  accountId: idRow<AccountId>().nullable(),
  isPair: z.boolean(),
  payeeId: idRow<PayeeId>().nullable(),
  /** How many look-alikes the proposal rests on. */
  evidence: z.number(),
  digest: z.string(),
  /** The line of another own account that it arrived by or left by, where it is such a move. */
  otherHalf: z.string().nullable(),
});
type ReadyRow = z.infer<typeof ReadyRow>;

/** What a sweep of the Ready lines of a scope would do, and what it would leave. */
export async function sweepSummary(tx: Tx, booksId: BooksId, scope: Scope): Promise<SweepSummary> {
  const seenStep = await lastStepOf(tx, booksId);
  const lines = await readyRows(tx, booksId, scope);
  const transfers = transfersOf(lines);
  const halves = new Set(transfers.flatMap((each) => [each.out.id, each.in.id]));
  const others = lines.filter(({ id }) => !halves.has(id));
  const byAccount = new Map<string, { count: number; total: number }>();
  for (const { accountId, amount } of others) {
    if (accountId === null) continue;
    const { count, total } = byAccount.get(accountId) ?? { count: 0, total: 0 };
    byAccount.set(accountId, { count: count + 1, total: total + amount });
  }
  const paired = others.filter(({ isPair }) => isPair);
  const posted = others.filter(({ isPair }) => !isPair);
  const largest = largestOf(posted, LARGEST);
  const look = laidOut(posted.filter(({ id }) => !largest.includes(id)));
  const pairs = largestOf(paired, PAIRS_SHOWN);
  const moves = transfers.slice(0, PAIRS_SHOWN);
  const moved = moves.flatMap((each) => [each.out.id, each.in.id]);
  const shown = await linesOf(tx, booksId, [...largest, ...look, ...pairs, ...moved]);
  const pick = (ids: readonly string[]): DeskLine[] =>
    ids.flatMap((id) => shown.find((line) => line.id === id) ?? []);
  const { check, blank, asked } = await laneCounts(tx, booksId, scope);
  const closed = await lateCount(tx, booksId, scope);
  return {
    seenStep,
    seen: [...new Set(lines.map(({ digest }) => digest))],
    count: lines.length,
    paidIn: sumOf(others.filter(({ amount }) => amount > 0)),
    paidOut: sumOf(others.filter(({ amount }) => amount < 0)),
    accounts: [...byAccount]
      .map(([accountId, sums]) => ({ accountId, ...sums }))
      .sort((a, b) => Math.abs(b.total) - Math.abs(a.total)),
    pairs: { count: paired.length, total: sumOf(paired), lines: pick(pairs) },
    transfers: {
      count: transfers.length,
      moved: sumOf(transfers.map((each) => each.out)),
      halves: moves.flatMap((each) => {
        const [out, into] = pick([each.out.id, each.in.id]);
        return out && into ? [{ out, in: into }] : [];
      }),
    },
    newPayeeIds: await newPayees(tx, booksId, lines),
    largest: pick(largest),
    look: pick(look),
    left: { check: check - closed, blank, asked, closed },
  };
}

/** The ids of the largest, the largest first. */
function largestOf(lines: readonly ReadyRow[], count: number): string[] {
  return [...lines]
    .sort((a, b) => Math.abs(b.amount) - Math.abs(a.amount))
    .slice(0, count)
    .map(({ id }) => id);
}

/** Moves between own accounts of which both halves are there, the largest first. */
function transfersOf(lines: readonly ReadyRow[]): { out: ReadyRow; in: ReadyRow }[] {
  const byId = new Map(lines.map((line) => [line.id, line]));
  return lines
    .flatMap((out) => {
      const into = out.amount < 0 ? byId.get(out.otherHalf ?? '') : undefined;
      return into?.otherHalf === out.id ? [{ out, in: into }] : [];
    })
    .sort((a, b) => a.out.amount - b.out.amount);
}

async function readyRows(tx: Tx, booksId: BooksId, scope: Scope): Promise<ReadyRow[]> {
  return rowsOf(
    tx,
    ReadyRow,
    sql`select l.id, l.amount, p.proposal #>> '{coding,parts,0,accountId}' as "accountId",
          p.proposal #>> '{coding,payeeId}' as "payeeId", p.proposal ->> 'kind' = 'pair' as "isPair",
          coalesce((p.proposal #>> '{grounds,0,of}')::int, 0) as evidence,
          p.digest::text as digest,
          jsonb_path_query_first(p.proposal, '$.grounds[*] ? (@.kind == "otherHalf").lineId') #>> '{}' as "otherHalf"
        from lines l
        join proposals p on p.books_id = l.books_id and p.line_id = l.id
        where l.books_id = ${booksId}
          and ${await isSwept({ tx, booksId }, scope)}
        order by l.date, l.position, l.id`,
  );
}

const CountRow = z.object({ count: z.number() });

/** How many lines of a scope wait in Check because their period is closed. */
async function lateCount(tx: Tx, booksId: BooksId, scope: Scope): Promise<number> {
  const [row] = await rowsOf(
    tx,
    CountRow,
    sql`select count(*)::int as count from lines l
        where l.books_id = ${booksId} and l.held = 'late' and ${isInLane('check')} and ${await scopeFilter({ tx, booksId }, scope)}`,
  );
  return row?.count ?? 0;
}

/** Those with the least behind them first, then some from all over. */
function laidOut(lines: readonly ReadyRow[]): string[] {
  const weakest = [...lines].sort((a, b) => a.evidence - b.evidence).slice(0, 2);
  const others = lines.filter((line) => !weakest.includes(line));
  const stride = Math.max(1, Math.floor(others.length / (LOOKED_AT - weakest.length)));
  const some = others.filter((_, index) => index % stride === Math.floor(stride / 2));
  return [...weakest, ...some].slice(0, LOOKED_AT).map(({ id }) => id);
}

async function newPayees(tx: Tx, booksId: BooksId, lines: readonly ReadyRow[]): Promise<string[]> {
  const ids = [...new Set(lines.flatMap(({ payeeId }) => payeeId ?? []))];
  const rows = await rowsOf(
    tx,
    IdRow,
    sql`select wanted.id from unnest(${sql.param(ids)}::uuid[]) as wanted (id)
        where not exists (select from entries e where e.books_id = ${booksId}
          and e.payee_id = wanted.id and not e.is_void)`,
  );
  return rows.map(({ id }) => id);
}

/**
 * Posts or pairs the Ready lines of a scope as each is proposed, as one step. Lines with a draft, those taken out
 * and those changed or proposed otherwise meanwhile stay.
 */
export async function sweepLines(
  command: BooksCommand,
  { scope, without, seenStep, seen }: SweepLines,
): Promise<LinesDone> {
  const { tx, booksId } = command;
  const currency = await booksCurrency(tx, booksId);
  const found = await targetLines({ tx, booksId }, currency, { ready: scope, without }, seenStep);
  const read = new Set(seen);
  const known = found.lines.filter(({ digest }) => read.has(digest ?? ''));
  const unread = found.lines.filter(({ digest }) => !read.has(digest ?? ''));
  const wanted = known.flatMap((line) => {
    const coding = proposedCoding(line.proposal);
    return coding === null ? [] : [{ line, coding }];
  });
  const { postings, leftOut: unpostable } = await coveredPostings(tx, booksId, wanted);
  const { plans, leftOut: unpairable } = await proposedPlans(tx, booksId, known);
  const leftOut = [
    ...found.leftOut,
    ...unread.map(({ id }) => leftOutFor(id, 'LINE_UNREAD')),
    ...unpostable,
    ...unpairable,
  ];
  const count = postings.length + plans.length;
  if (count === 0) return { step: null, words: 'Nothing swept', done: [], leftOut };
  const words = say`Swept ${countSaid(count, 'ready line', 'ready lines')}`;
  const way = 'sweep';
  const done = await postAsStep(command, {
    kind: way,
    way,
    words,
    postings,
    plans,
  });
  return { ...done, leftOut };
}
