import { type PastCoding, proposeFromHabit } from '@zubrell/core/propose/habit/proposeFromHabit';
import { laneOf } from '@zubrell/core/propose/proposal';
import { type FileCoding, proposeFromFile } from '@zubrell/core/propose/proposeFromFile';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import { queueJob } from '../../jobs/queueJob.ts';
import { isOpenLine } from './lineState.ts';

interface PastRow extends PastCoding {
  readonly stem: string;
  readonly isOut: boolean;
}

/**
 * Computes the proposals of all open lines with these stems anew, from what was decided on their
 * look-alikes. A line's proposal depends on nothing else yet.
 */
export async function renewProposals(
  tx: Tx,
  booksId: string,
  stems: readonly string[],
): Promise<void> {
  const these = sql.param([...new Set(stems)]);
  const past = await rowsOf<PastRow>(
    tx,
    sql`select l.stem, l.amount < 0 as "isOut", part ->> 'accountId' as "accountId",
          coalesce(y.merged_into::text, d.coding ->> 'payeeId') as "payeeId",
          part ->> 'taxCodeId' as "taxCodeId",
          count(*)::int as times, max(d.step) as "lastStep", bool_and(a.is_on) as "isAccountOn"
        from lines l
        join decision_lines dl on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
        join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
        cross join lateral (select d.coding -> 'parts' -> 0 as part) first_part
        join accounts a on a.books_id = l.books_id and a.id = (part ->> 'accountId')::uuid
        left join payees y on y.books_id = l.books_id and y.id = (d.coding ->> 'payeeId')::uuid
        where l.books_id = ${booksId} and l.stem = any(${these}::text[]) and d.kind = 'posted'
          and jsonb_array_length(d.coding -> 'parts') = 1
        group by 1, 2, 3, 4, 5`,
  );
  const groups = new Map<string, PastRow[]>();
  for (const row of past) {
    const key = `${row.isOut}|${row.stem}`;
    groups.set(key, [...(groups.get(key) ?? []), row]);
  }
  const made = [...groups.values()].flatMap((rows) => {
    const [first] = rows;
    const proposal = proposeFromHabit(
      rows.map(({ stem: _stem, isOut: _isOut, ...coding }) => coding),
    );
    return first && proposal ? [{ stem: first.stem, isOut: first.isOut, proposal }] : [];
  });
  // What stays as it was is not written again: a stem may have thousands of open lines.
  await tx.execute(
    sql`with made as (
          select * from unnest(
            ${sql.param(made.map((each) => each.stem))}::text[],
            ${sql.param(made.map((each) => each.isOut))}::boolean[],
            ${sql.param(made.map((each) => laneOf(each.proposal)))}::text[],
            ${sql.param(made.map((each) => JSON.stringify(each.proposal)))}::text[],
            ${sql.param(made.map((each) => each.proposal.coding.parts[0]?.accountId ?? null))}::uuid[]
          ) as made (stem, is_out, lane, proposal, account_id)),
        gone as (
          delete from proposals p using lines l
          where p.books_id = ${booksId} and l.books_id = p.books_id and l.id = p.line_id
            and l.stem = any(${these}::text[])
            and (not ${isOpenLine} or not exists (
              select from made where made.stem = l.stem and made.is_out = (l.amount < 0))))
        insert into proposals (books_id, line_id, lane, proposal, digest, account_id)
        select l.books_id, l.id, made.lane, made.proposal::jsonb, hashtextextended(made.proposal, 0),
          made.account_id
        from made
        join lines l on l.books_id = ${booksId} and l.stem = made.stem
          and (l.amount < 0) = made.is_out
        where ${isOpenLine}
        on conflict (books_id, line_id) do update set lane = excluded.lane,
          proposal = excluded.proposal, digest = excluded.digest, account_id = excluded.account_id
        where proposals.digest <> excluded.digest`,
  );
  await proposeFromPrepared(tx, booksId, these);
}

/** What the queue holds of proposals to be computed anew. */
export interface RenewProposalsJob {
  readonly booksId: string;
  readonly stems: readonly string[];
}

/** So many open lines are proposed for anew at once; more as a job. */
const AT_ONCE = 2_000;

/** Computes the proposals of open lines with these stems anew: now where they are few, else in a job. */
export async function renewSoon(tx: Tx, booksId: string, stems: readonly string[]): Promise<void> {
  const wanted = [...new Set(stems)];
  const reached = await rowsOf(
    tx,
    sql`select from lines l
        where l.books_id = ${booksId} and l.stem = any(${sql.param(wanted)}::text[])
          and ${isOpenLine} limit ${AT_ONCE + 1}`,
  );
  if (reached.length <= AT_ONCE) {
    await renewProposals(tx, booksId, wanted);
    return;
  }
  const job: RenewProposalsJob = { booksId, stems: wanted };
  await queueJob(tx, 'renewProposals', job);
}

type FileCodingRow = FileCoding & { readonly prepared: string };

/** Proposes what a prepared file says, for open lines that nothing else is proposed for. */
async function proposeFromPrepared(
  tx: Tx,
  booksId: string,
  stems: ReturnType<typeof sql.param>,
): Promise<void> {
  const waiting = sql`
    from lines l
    left join proposals p on p.books_id = l.books_id and p.line_id = l.id
    where l.books_id = ${booksId} and l.stem = any(${stems}::text[]) and l.prepared is not null
      and p.line_id is null and ${isOpenLine}`;
  const codings = await rowsOf<FileCodingRow>(
    tx,
    sql`select w.prepared::text || coalesce(w.payee, '') as prepared, a.id as "accountId",
          a.is_on as "isAccountOn", w.payee, y.id as "payeeId",
          w.prepared ->> 'tax' as tax, t.id as "taxCodeId"
        from (select distinct l.prepared, l.payee ${waiting}) w
        join accounts a on a.books_id = ${booksId}
          and lower(w.prepared ->> 'account') in (
            lower(a.code), lower(a.name), lower(a.code || ' ' || a.name))
        left join tax_codes t on t.books_id = ${booksId}
          and lower(t.name) = lower(w.prepared ->> 'tax')
        left join payees y on y.books_id = ${booksId} and lower(y.name) = lower(w.payee)`,
  );
  const made = codings.map((row) => ({ key: row.prepared, proposal: proposeFromFile(row) }));
  await tx.execute(
    sql`insert into proposals (books_id, line_id, lane, proposal, digest, account_id)
        select distinct on (w.id) ${booksId}::uuid, w.id, made.lane, made.proposal::jsonb,
          hashtextextended(made.proposal, 0), made.account_id
        from (select l.id, l.prepared::text || coalesce(l.payee, '') as key ${waiting}) w
        join unnest(
          ${sql.param(made.map(({ key }) => key))}::text[],
          ${sql.param(made.map(({ proposal }) => laneOf(proposal)))}::text[],
          ${sql.param(made.map(({ proposal }) => JSON.stringify(proposal)))}::text[],
          ${sql.param(made.map(({ proposal }) => proposal.coding.parts[0]?.accountId ?? null))}::uuid[]
        ) as made (key, lane, proposal, account_id) on made.key = w.key`,
  );
}
