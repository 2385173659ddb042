import type { PastCoding } from '@zubrell/core/propose/habit/proposeFromHabit';
import type { NudgedLine } from '@zubrell/core/propose/nudge/nudgeProposal';
import { laneOf, type Proposal } from '@zubrell/core/propose/proposal';
import { type Knowledge, proposeFor } from '@zubrell/core/propose/proposeFor';
import type { FileCoding } from '@zubrell/core/propose/proposeFromFile';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import { queueJob } from '../../jobs/queueJob.ts';
import { isOpenLine } from './lineState.ts';
import { proposalBooks } from './proposalBooks.ts';

interface PastRow extends PastCoding {
  readonly stem: string;
  readonly isOut: boolean;
}

interface OpenRow extends NudgedLine {
  readonly id: string;
  /** Names the prepared coding that it came with. */
  readonly prepared: string | null;
}

/** So many lines are proposed for at a time, so that memory stays bounded. */
const LINES_AT_ONCE = 20_000;

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
  await tx.execute(
    sql`delete from proposals p using lines l
        where p.books_id = ${booksId} and l.books_id = p.books_id and l.id = p.line_id
          and l.stem = any(${these}::text[]) and not ${isOpenLine}`,
  );
  const propose = await proposing(tx, booksId, these);
  // What is written below the cursor does not see: it reads as things stood when it was opened.
  await tx.execute(
    sql`declare open_lines no scroll cursor for
        select l.id, l.stem, l.amount, l.description, l.reference, l.type, l.category,
          l.prepared::text || coalesce(l.payee, '') as prepared
        from lines l
        where l.books_id = ${booksId} and l.stem = any(${these}::text[]) and ${isOpenLine}`,
  );
  for (;;) {
    const lines = await rowsOf<OpenRow>(tx, sql.raw(`fetch ${LINES_AT_ONCE} from open_lines`));
    if (lines.length > 0) await putProposals(tx, booksId, lines, propose);
    if (lines.length < LINES_AT_ONCE) break;
  }
  await tx.execute(sql`close open_lines`);
}

type StemParam = ReturnType<typeof sql.param>;
type Propose = (line: OpenRow) => Proposal | null;

/** What proposes for lines of these stems, with all that is known of them. */
async function proposing(tx: Tx, booksId: string, stems: StemParam): Promise<Propose> {
  const past = await pastCodings(tx, booksId, stems);
  const prepared = await preparedCodings(tx, booksId, stems);
  const books = await proposalBooks(tx, booksId);
  const of = (line: OpenRow, isOut: boolean) => past.get(`${isOut}|${line.stem}`) ?? [];
  return (line) => {
    const isOut = line.amount < 0;
    const knowledge: Knowledge = {
      past: of(line, isOut),
      pastOfOther: of(line, !isOut),
      fromFile: (line.prepared !== null && prepared.get(line.prepared)) || null,
    };
    return proposeFor(line, knowledge, books);
  };
}

/** What was decided on lines of these stems, by direction and stem. */
async function pastCodings(
  tx: Tx,
  booksId: string,
  stems: StemParam,
): Promise<ReadonlyMap<string, PastRow[]>> {
  const rows = await rowsOf<PastRow>(
    tx,
    sql`select l.stem, l.amount < 0 as "isOut", part ->> 'accountId' as "accountId",
          coalesce(y.merged_into::text, d.coding ->> 'payeeId') as "payeeId",
          part ->> 'taxCodeId' as "taxCodeId", count(*)::int as times,
          (count(*) filter (where abs(l.amount) >= k.asset_threshold))::int as "largeTimes",
          max(d.step) as "lastStep", bool_and(a.is_on) as "isAccountOn"
        from lines l
        join books k on k.id = l.books_id
        join decision_lines dl on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
        join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
        cross join lateral (select d.coding -> 'parts' -> 0 as part) first_part
        join accounts a on a.books_id = l.books_id and a.id = (part ->> 'accountId')::uuid
        left join payees y on y.books_id = l.books_id and y.id = (d.coding ->> 'payeeId')::uuid
        where l.books_id = ${booksId} and l.stem = any(${stems}::text[]) and d.kind = 'posted'
          and jsonb_array_length(d.coding -> 'parts') = 1
          and a.role is distinct from 'suspense'
        group by 1, 2, 3, 4, 5`,
  );
  const byStem = new Map<string, PastRow[]>();
  for (const row of rows) {
    const key = `${row.isOut}|${row.stem}`;
    const there = byStem.get(key);
    if (there) there.push(row);
    else byStem.set(key, [row]);
  }
  return byStem;
}

/** What prepared files say of open lines with these stems, as far as it names accounts of the books. */
async function preparedCodings(
  tx: Tx,
  booksId: string,
  stems: StemParam,
): Promise<ReadonlyMap<string, FileCoding>> {
  const rows = await rowsOf<FileCoding & { readonly prepared: string }>(
    tx,
    sql`select w.prepared::text || coalesce(w.payee, '') as prepared, a.id as "accountId",
          a.is_on as "isAccountOn", w.payee, y.id as "payeeId",
          w.prepared ->> 'tax' as tax, t.id as "taxCodeId"
        from (
          select distinct l.prepared, l.payee from lines l
          where l.books_id = ${booksId} and l.stem = any(${stems}::text[])
            and l.prepared is not null and ${isOpenLine}) w
        join accounts a on a.books_id = ${booksId}
          and lower(w.prepared ->> 'account') in (
            lower(a.code), lower(a.name), lower(a.code || ' ' || a.name))
        left join tax_codes t on t.books_id = ${booksId}
          and lower(t.name) = lower(w.prepared ->> 'tax')
        left join payees y on y.books_id = ${booksId} and lower(y.name) = lower(w.payee)`,
  );
  return new Map(rows.map(({ prepared, ...coding }) => [prepared, coding]));
}

/** Writes the proposals of lines; what stays as it was is not written again. */
async function putProposals(
  tx: Tx,
  booksId: string,
  lines: readonly OpenRow[],
  propose: Propose,
): Promise<void> {
  const made: { readonly lineId: string; readonly number: number }[] = [];
  // Many lines are proposed for alike: each proposal goes to the database once.
  const distinct = new Map<string, { readonly number: number; readonly proposal: Proposal }>();
  for (const line of lines) {
    const proposal = propose(line);
    if (proposal === null) continue;
    const text = JSON.stringify(proposal);
    const said = distinct.get(text) ?? { number: distinct.size + 1, proposal };
    distinct.set(text, said);
    made.push({ lineId: line.id, number: said.number });
  }
  const said = [...distinct].map(([text, { proposal }]) => ({
    text,
    lane: laneOf(proposal),
    accountId: proposal.coding.parts[0]?.accountId ?? null,
  }));
  await tx.execute(
    sql`with wanted as (
          select line_id, said.* from unnest(
            ${sql.param(made.map(({ lineId }) => lineId))}::uuid[],
            ${sql.param(made.map(({ number }) => number))}::int[]) as w (line_id, no)
          join unnest(
            ${sql.param(said.map(({ lane }) => lane))}::text[],
            ${sql.param(said.map(({ text }) => text))}::text[],
            ${sql.param(said.map(({ accountId }) => accountId))}::uuid[])
            with ordinality as said (lane, proposal, account_id, number) on said.number = w.no),
        gone as (
          delete from proposals p
          where p.books_id = ${booksId}
            and p.line_id = any(${sql.param(lines.map(({ id }) => id))}::uuid[])
            and not exists (select from wanted where wanted.line_id = p.line_id))
        insert into proposals (books_id, line_id, lane, proposal, digest, account_id)
        select ${booksId}::uuid, line_id, lane, proposal::jsonb, hashtextextended(proposal, 0),
          account_id
        from wanted
        on conflict (books_id, line_id) do update set lane = excluded.lane,
          proposal = excluded.proposal, digest = excluded.digest, account_id = excluded.account_id
        where proposals.digest <> excluded.digest`,
  );
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

/** Computes the proposals of all open lines anew: something changed that all of them depend on. */
export async function renewAll(tx: Tx, booksId: string): Promise<void> {
  const open = await rowsOf<{ stem: string }>(
    tx,
    sql`select distinct l.stem from lines l where l.books_id = ${booksId} and ${isOpenLine}`,
  );
  await renewSoon(
    tx,
    booksId,
    open.map(({ stem }) => stem),
  );
}
