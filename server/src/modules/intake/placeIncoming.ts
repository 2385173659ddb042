import { addDays } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { BankAccountId, BatchId, BooksId } from '@zubrell/core/ids';
import type { DatedBalance } from '@zubrell/core/intake/balanceChain';
import {
  amountShare,
  type Days,
  daysApart,
  type Evidence,
  type IdCounts,
  isTouchSure,
  matchLoosely,
  touchingDay,
} from '@zubrell/core/intake/matchSources';
import { balanceVerdict } from '@zubrell/core/intake/settleByBalance';
import { formatAmount } from '@zubrell/core/money/formatAmount';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { countRows, rowsOf, type Tx } from '../../db/database.ts';
import { refreshStatistics } from '../../db/refreshStatistics.ts';
import { StemRow } from '../../db/rows.ts';
import { aliasOf } from '../lines/aliases.ts';
import { SourceRow, standingBalance } from './queries.ts';
import { factColumns, factsOf, ownFacts, saysOther } from './sightedFacts.ts';

/** Where incoming lines are to go. */
export interface Placing {
  readonly bankAccountId: BankAccountId;
  readonly batchId: BatchId;
  readonly step: number;
  /** The stated closing balance, if any. */
  readonly closing: DatedBalance | null;
  readonly currency: string;
  /** Days that the source reports wholly; null where its first and last may be cut. */
  readonly wholeDays: { readonly from: string; readonly to: string } | null;
  /** Keep them although the closing balance does not fit what is here. */
  readonly confirmBalance: boolean;
}

/** What came of it. */
export interface Placed {
  readonly lineCount: number;
  /** Lines that were not here before. */
  readonly newCount: number;
  readonly doubtfulCount: number;
}

const CountRow = z.object({ all: z.number(), seen: z.number(), doubtful: z.number() });

/**
 * Places the incoming lines in a bank account: each is here already (a further sighting), perhaps here
 * (a new line with a doubt) or new. Ids and counting are done in the database, as set against set;
 * what they leave is paired by the core.
 *
 * @throws {ZubrellError} FILE_OTHER_BALANCE
 */
export async function placeIncoming(tx: Tx, booksId: BooksId, placing: Placing): Promise<Placed> {
  await pairIncoming(tx, booksId, placing);
  await settle(tx, booksId, placing);
  await tx.execute(
    sql`create temporary table placed on commit drop as
        select i.position, p.is_sure is true as is_seen,
          case when p.is_sure then p.line_id else gen_random_uuid() end as line_id,
          case when not p.is_sure then p.line_id end as twice_of
        from incoming i left join paired p on p.position = i.position`,
  );
  await tx.execute(
    sql`insert into lines (books_id, id, bank_account_id, ${factColumns}, position, stem, own_stem,
          plain, twice_of, last_step)
        select ${booksId}, p.line_id, ${placing.bankAccountId}, ${factsOf('i')}, i.position,
          coalesce(a.target, i.stem), i.stem, i.plain, p.twice_of, ${placing.step}
        from incoming i join placed p on p.position = i.position
        left join lateral (${aliasOf(booksId, sql`i.stem`, sql`i.plain`)}) a on true
        where not p.is_seen`,
  );
  const revived = await countRows(
    tx,
    sql`update lines l set is_here = true, last_step = ${placing.step} from placed p
        where l.books_id = ${booksId} and l.id = p.line_id and p.is_seen and not l.is_here
        returning l.id`,
  );
  await tx.execute(
    sql`insert into sightings (books_id, batch_id, line_id, place, is_fold, own)
        select ${booksId}, ${placing.batchId}, p.line_id, i.place, p.is_seen,
          case when p.is_seen and ${saysOther} then ${ownFacts} end
        from incoming i join placed p on p.position = i.position
        left join lines l on p.is_seen and l.books_id = ${booksId} and l.id = p.line_id`,
  );
  const [counts] = await rowsOf(
    tx,
    CountRow,
    sql`select count(*)::int as all, (count(*) filter (where is_seen))::int as seen,
          count(twice_of)::int as doubtful from placed`,
  );
  const { all = 0, seen = 0, doubtful = 0 } = counts ?? {};
  await refreshStatistics(tx, ['lines', 'sightings'], all);
  return {
    lineCount: all,
    newCount: all - seen + revived,
    doubtfulCount: doubtful,
  };
}

/** The stems of the placed lines that anything can be proposed for. */
export async function placedStems(tx: Tx, booksId: BooksId): Promise<string[]> {
  const rows = await rowsOf(
    tx,
    StemRow,
    sql`select distinct l.stem from incoming i
        join placed p on p.position = i.position
        join lines l on l.books_id = ${booksId} and l.id = p.line_id`,
  );
  return rows.map(({ stem }) => stem);
}

/** Pairs incoming lines with those of the bank account, into the table `paired`. */
async function pairIncoming(
  tx: Tx,
  booksId: BooksId,
  { bankAccountId, wholeDays }: Placing,
): Promise<void> {
  const incoming = await daysOf(tx, sql`incoming`);
  const { first, last } = incoming;
  // Lines of batches taken back count too, after those that are here.
  await tx.execute(
    sql`create temporary table here on commit drop as
        select id, date, amount, plain, bank_id, is_here,
          row_number() over (order by is_here desc, date, position, id) as rank
        from lines
        where books_id = ${booksId} and bank_account_id = ${bankAccountId}
          and date between ${addDays(first, -daysApart)} and ${addDays(last, daysApart)}`,
  );
  await tx.execute(
    sql`create temporary table paired
        (position integer not null, line_id uuid not null, is_sure boolean not null) on commit drop`,
  );
  await tx.execute(sql`analyze incoming, here`);
  const byId = await tx.execute(
    sql`insert into paired
        select mine.position, theirs.id, true
        from (select position, bank_id, date, amount,
                row_number() over (partition by bank_id, date, amount order by position) as no
              from incoming where bank_id is not null) mine
        join (select id, bank_id, date, amount,
                row_number() over (partition by bank_id, date, amount order by rank) as no
              from here where bank_id is not null) theirs
          using (bank_id, date, amount, no)`,
  );
  const touching = wholeDays ? null : touchingDay(await daysOf(tx, sql`here`), incoming);
  const ids = await pairByWording(tx, byId.rowCount ?? 0, touching);
  const covered = wholeDays ? { first: wholeDays.from, last: wholeDays.to } : incoming;
  await pairLoosely(tx, booksId, { covered, touching, ids });
}

const DayRow = z.object({ first: z.string().nullable(), last: z.string().nullable() });

async function daysOf(tx: Tx, table: SQL): Promise<Days> {
  const [days] = await rowsOf(
    tx,
    DayRow,
    sql`select min(date) as first, max(date) as last from ${table}`,
  );
  return { first: days?.first ?? '', last: days?.last ?? '' };
}

const ChangedRow = z.object({ changed: z.number() });

/**
 * Counts lines of the same date, amount and wording.
 *
 * @param kept how many ids were met again
 * @param touching the only day that is here and in the source, which either may have cut
 */
async function pairByWording(tx: Tx, kept: number, touching: string | null): Promise<IdCounts> {
  await tx.execute(
    sql`create temporary table same_wording on commit drop as
        select mine.position, theirs.id as line_id, date,
          coalesce(mine.bank_id <> theirs.bank_id, false) as is_conflict
        from (select position, bank_id, date, amount, plain,
                row_number() over (partition by date, amount, plain order by position) as no
              from incoming i
              where not exists (select from paired p where p.position = i.position)) mine
        join (select id, bank_id, date, amount, plain,
                row_number() over (partition by date, amount, plain order by rank) as no
              from here h where not exists (select from paired p where p.line_id = h.id)) theirs
          using (date, amount, plain, no)`,
  );
  const [found] = await rowsOf(
    tx,
    ChangedRow,
    sql`select (count(*) filter (where is_conflict))::int as changed from same_wording`,
  );
  const ids = { kept, changed: found?.changed ?? 0 };
  await tx.execute(
    sql`insert into paired
        select position, line_id,
          ${isTouchSure(ids)} or not is_conflict or date is distinct from ${touching}::date
        from same_wording`,
  );
  return ids;
}

const Numbered = SourceRow.extend({ key: z.string() });

/**
 * Pairs what is left by weaker evidence: only lines that have another of their amount nearby, or one
 * that had to come again and may have come with another amount.
 */
async function pairLoosely(tx: Tx, booksId: BooksId, evidence: Evidence): Promise<void> {
  await tx.execute(sql`analyze paired`);
  const { covered, touching } = evidence;
  await tx.execute(
    sql`create temporary table left_over on commit drop as
        with mine as (select position, date, amount from incoming i
            where not exists (select from paired p where p.position = i.position)),
          theirs as (select id, date, amount, rank from here h
            where not exists (select from paired p where p.line_id = h.id))
        select mine.position, theirs.id as line_id, theirs.rank
        from mine join theirs on theirs.amount = mine.amount
          and theirs.date between mine.date - ${daysApart}::int and mine.date + ${daysApart}::int
        union
        select mine.position, theirs.id, theirs.rank
        from mine join (
            select days.date as near, theirs.* from theirs
            cross join lateral (
              select theirs.date + days as date from generate_series(0, ${daysApart}::int) days) days
            where theirs.date between ${covered.first} and ${covered.last}
              and theirs.date is distinct from ${touching}::date) theirs
          on theirs.near = mine.date and sign(theirs.amount) = sign(mine.amount)
          and abs(theirs.amount - mine.amount)
            <= ${amountShare}::numeric * greatest(abs(theirs.amount), abs(mine.amount))`,
  );
  const incoming = await rowsOf(
    tx,
    Numbered,
    sql`select i.position::text as key, i.date, i.amount, i.description, i.reference,
          i.bank_id as "bankId", false as "isPending"
        from incoming i where i.position in (select position from left_over) order by i.position`,
  );
  if (incoming.length === 0) return;
  const here = await rowsOf(
    tx,
    Numbered,
    sql`select l.id::text as key, l.date, l.amount, l.description, l.reference,
          l.bank_id as "bankId", false as "isPending"
        from lines l
        join (select line_id, min(rank) as rank from left_over group by 1) o on o.line_id = l.id
        where l.books_id = ${booksId} order by o.rank`,
  );
  const pairs = matchLoosely(here, incoming, evidence);
  await tx.execute(
    sql`insert into paired select * from unnest(
          ${sql.param(pairs.map(({ mine }) => Number(incoming[mine]?.key)))}::int[],
          ${sql.param(pairs.map(({ theirs }) => here[theirs]?.key))}::uuid[],
          ${sql.param(pairs.map(({ isSure }) => isSure))}::boolean[])`,
  );
}

const SumRow = z.object({ fresh: z.number(), doubtful: z.number() });

/** Lets the stated closing balance decide about doubtful lines, and be wrong only if confirmed. */
async function settle(
  tx: Tx,
  booksId: BooksId,
  { bankAccountId, closing, currency, confirmBalance }: Placing,
): Promise<void> {
  const standing = closing && (await standingBalance(tx, booksId, bankAccountId, closing.date));
  if (closing === null || standing === null) return;
  const upTo = sql`i.date <= ${closing.date}`;
  const [sums] = await rowsOf(
    tx,
    SumRow,
    sql`select coalesce(sum(i.amount) filter (
            where p.position is null or (p.is_sure and not h.is_here)), 0)::bigint as fresh,
          coalesce(sum(i.amount) filter (where not p.is_sure), 0)::bigint as doubtful
        from incoming i
        left join paired p on p.position = i.position
        left join here h on h.id = p.line_id
        where ${upTo}`,
  );
  const { fresh = 0, doubtful = 0 } = sums ?? {};
  const verdict = balanceVerdict(standing + fresh, doubtful, closing.amount);
  const decided = sql`not is_sure and position in (select i.position from incoming i where ${upTo})`;
  if (verdict === 'real') await tx.execute(sql`delete from paired where ${decided}`);
  if (verdict === 'copies')
    await tx.execute(sql`update paired set is_sure = true where ${decided}`);
  const wouldBe = verdict === 'real' ? standing + fresh + doubtful : standing + fresh;
  if (wouldBe !== closing.amount && !confirmBalance) {
    const shown = (amount: number) => formatAmount(amount, currency);
    fail('FILE_OTHER_BALANCE', {
      date: closing.date,
      stated: shown(closing.amount),
      here: shown(wouldBe),
      difference: shown(closing.amount - wouldBe),
    });
  }
}
