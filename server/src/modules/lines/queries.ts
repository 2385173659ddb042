import { Coding } from '@zubrell/contract/coding';
import {
  type Decided,
  DeskLine,
  type DeskLines,
  FoundLine,
  type LaneCounts,
  type LineOrder,
  LineSheet,
  type Scope,
  Stack,
  type StackKey,
} from '@zubrell/contract/desk';
import { fail } from '@zubrell/core/errors';
import type { BooksId, LineId, PayeeId } from '@zubrell/core/ids';
import { decisionKinds } from '@zubrell/core/ledger/decisions';
import { MOST_OF_STACK } from '@zubrell/core/propose/mostOfStack';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { cursorOf, placeOf } from '../../db/cursor.ts';
import { type BooksTx, rowsOf, type Tx, together } from '../../db/database.ts';
import { booksCurrency, lastStepOf } from '../books/queries.ts';
import { pairedOf } from '../decisions/pairedOf.ts';
import { saidOfStep } from '../steps/stepState.ts';
import { decidedFilter } from './decidedTarget.ts';
import { isInLane, joinLiveDecision, laneOfLine } from './lineState.ts';
import {
  openLinesToScope,
  openStackKeyOf,
  scopeFilter,
  scopeFilters,
  stackFilter,
} from './scopeFilter.ts';

const joinProposal = sql`left join proposals p on p.books_id = l.books_id and p.line_id = l.id`;
const joinDraft = sql`left join drafts f on f.books_id = l.books_id and f.line_id = l.id`;

/** A column of the newest answer about line `l` that nobody has acted on; null where there is none. */
const ofAnswer = (column: 'words' | 'at') => sql`
  (case when l.asked = 'answered' then (
    select ${sql.raw(`a.${column}`)} from question_lines about
    join answers a on a.books_id = about.books_id and a.question_id = about.question_id
    where about.books_id = l.books_id and about.line_id = l.id
    order by a.at desc limit 1) end)`;

/** What was typed for line `l`; an answer that came later takes its place. */
const draftCoding = sql`(case when f.updated_at < ${ofAnswer('at')} then null else f.coding end)`;

const LaneCountsRow = z.object({ state: z.string(), inside: z.number(), outside: z.number() });

/** How many lines of a scope stand in each lane and decision. */
export async function laneCounts(tx: Tx, booksId: BooksId, scope: Scope): Promise<LaneCounts> {
  const { ofOpen, ofLines } = await scopeFilters({ tx, booksId }, scope);
  const isSearch = (scope.search ?? '').trim() !== '';
  const rows = await rowsOf(
    tx,
    LaneCountsRow,
    sql`select l.lane as state, count(*) filter (where inside.it)::int as inside,
          count(*) filter (where not inside.it)::int as outside
        from ${openLinesToScope} l
        -- Looked at once a line, though it is counted by twice.
        cross join lateral (select ${ofOpen} as it offset 0) inside
        where l.books_id = ${booksId} group by 1
        union all
        ${isSearch ? foundCounts(booksId, ofLines) : await keptCounts({ tx, booksId }, scope)}`,
  );
  const count = (state: string) => sumOfCounts(rows, (row) => row.state === state);
  const decided = sumOfCounts(rows, ({ state }) => decisionKinds.some((kind) => kind === state));
  return {
    ready: count('ready'),
    check: count('check'),
    blank: count('blank'),
    asked: count('asked'),
    posted: count('posted'),
    paired: count('paired'),
    excluded: count('excluded'),
    deleted: count('deleted'),
    isDecidedMore: isSearch && decided > MOST_COUNTED,
    openOutside: rows.reduce((sum, row) => sum + row.outside, 0),
  };
}

/** The number of decided lines of a scope without a search, as the database keeps it. */
async function keptCounts(books: BooksTx, { attachment, ...scope }: Scope): Promise<SQL> {
  const { booksId } = books;
  const inScope = await scopeFilter(books, scope);
  const all = sql`select l.kind as state, sum(l.count)::int as inside, 0 as outside
    from (select *, case when is_out then -1 else 1 end as amount from decided_days) l
    where l.books_id = ${booksId} and ${inScope} group by 1`;
  if (attachment === undefined) return all;
  // Few lines have an attachment: they are taken off.
  return sql`${all} union all
    select d.kind, -count(*)::int, 0
    from (select distinct line_id from attachments
      where books_id = ${booksId} and line_id is not null) attached
    join lines l on l.books_id = ${booksId} and l.id = attached.line_id and l.is_here
    join decision_lines dl on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
    join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
    where ${inScope} group by 1`;
}

/** So many decided lines that a search finds are counted. */
const MOST_COUNTED = 2_000;

/** The number of decided lines that a search finds, or one more than are counted. */
function foundCounts(booksId: BooksId, inScope: SQL): SQL {
  // In the order of an index, so that it ends where enough are counted: the oldest first, as few of them are open.
  return sql`select counted.kind, count(*)::int, 0
    from (
      select d.kind from lines l
      join decision_lines dl on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
      join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
      where l.books_id = ${booksId} and l.is_here and ${inScope}
      order by l.date, l.id limit ${MOST_COUNTED + 1}) counted
    group by 1`;
}

const sumOfCounts = (
  rows: readonly z.infer<typeof LaneCountsRow>[],
  isMeant: (row: z.infer<typeof LaneCountsRow>) => boolean,
): number => rows.filter(isMeant).reduce((sum, { inside }) => sum + inside, 0);

const StackRow = Stack.omit({ grouping: true });

/** The stacks of one lane: in Check the largest amounts first, elsewhere the most lines first. */
export async function stacksOf(
  { tx, booksId }: BooksTx,
  scope: Scope,
  ofLane: string,
  grouping: StackKey['grouping'],
): Promise<Stack[]> {
  const [own, { ofOpen }] = await together(
    booksCurrency(tx, booksId),
    scopeFilters({ tx, booksId }, scope),
  );
  const order =
    grouping === 'date'
      ? sql`key, direction`
      : ofLane === 'check'
        ? sql`case when "twiceCount" > 0 then 'a' when "answeredCount" > 0 then 'b'
              when "heldCount" > 0 then 'b' || held
              else 'c' || coalesce(s.proposal #>> '{doubts,0,kind}', '')
                || coalesce(s.proposal #>> '{doubts,0,nudge}', '') end,
            abs(total) desc, key, direction`
        : sql`count desc, abs(total) desc, key, direction`;
  const key = openStackKeyOf(grouping);
  const isMeant = sql`l.books_id = ${booksId} and l.lane = ${ofLane} and ${ofOpen}`;
  const rows = await rowsOf(
    tx,
    StackRow,
    // Proposals are compared by their digests; of those that are alike one is fetched. Lines that are in the
    // books already do not keep the others from being posted together. Counting by accounts
    // first spares a sort of all lines, and few of them have a draft.
    sql`with by_account as (
          select ${key} as key, l.amount < 0 as is_out, l.account_id, l.bank_account_id,
            min(l.stem) as title, count(*) as lines, sum(l.amount) as total, min(l.date) as first, max(l.date) as last,
            min(abs(l.amount)) as smallest, max(abs(l.amount)) as largest,
            count(l.digest) as proposed, min(l.digest) as low, max(l.digest) as high,
            count(*) filter (where l.is_twice) as twice,
            count(l.held) as held, min(l.held) as held_for,
            count(*) filter (where l.is_pair) as pairs,
            max(l.equal_lines::text) filter (where l.is_pair) as equal_lines,
            count(l.equal_lines) filter (where l.is_pair) as equals,
            count(l.digest) filter (where not l.is_pair) as coded,
            min(l.digest) filter (where not l.is_pair) as coded_low,
            max(l.digest) filter (where not l.is_pair) as coded_high,
            count(*) filter (where l.asked = 'answered') as answered,
            min(${ofAnswer('words')}) as answer
          from ${openLinesToScope} l
          where ${isMeant}
          group by 1, 2, 3, 4),
        drafted as (
          select key, is_out, count(coding) as drafts, min(coding::text) as low, max(coding::text) as high
          from (
            select ${key} as key, l.amount < 0 as is_out, ${draftCoding} as coding
            from ${openLinesToScope} l join drafts f on f.books_id = l.books_id and f.line_id = l.id
            where ${isMeant}) d
          group by 1, 2),
        grouped as (
          select key, is_out, min(title) as title, sum(lines)::int as count, sum(total)::bigint as total,
            case when count(distinct coalesce(b.currency, ${own})) = 1 then min(coalesce(b.currency, ${own})) end as currency,
            min(first) as "firstDate", max(last) as "lastDate",
            min(smallest) as smallest, max(largest) as largest,
            case when sum(proposed) = sum(lines) and min(low) = max(high) then min(low)
              when sum(coded) > 0 and sum(coded) = sum(lines) - sum(pairs)
                and min(coded_low) = max(coded_high) then min(coded_low) end as digest,
            sum(twice)::int as "twiceCount", sum(held)::int as "heldCount", min(held_for) as held,
            sum(answered)::int as "answeredCount", min(answer) as answer,
            count(distinct a.account_id)::int as "accountCount",
            sum(pairs)::int as "pairCount", max(equal_lines)::jsonb as "equalLines",
            sum(equals)::int as "equalCount"
          from by_account a
          join bank_accounts b on b.books_id = ${booksId} and b.id = a.bank_account_id
          group by 1, 2)
        select g.*, case when g.is_out then 'out' else 'in' end as direction,
          case when d.drafts = g.count and d.low = d.high then d.low::jsonb end as draft,
          coalesce(d.drafts, 0)::int as "draftCount", s.proposal
        from grouped g
        left join drafted d on d.key = g.key and d.is_out = g.is_out
        left join lateral (
          select proposal from proposals
          where books_id = ${booksId} and digest = g.digest limit 1) s on true
        order by ${order}`,
  );
  return rows.map((row) => ({ ...row, grouping }));
}

const lineColumns = sql`
  l.id, l.bank_account_id as "bankAccountId", l.date, l.amount, l.description, l.stem,
  p.proposal, p.sureness, ${draftCoding} as draft,
  coalesce(f.version, 0) as "draftVersion", l.asked,
  ${ofAnswer('words')} as answer,
  (select json_build_object('id', o.id, 'date', o.date, 'amount', o.amount,
      'description', o.description, 'reference', o.reference)
    from lines o where o.books_id = l.books_id and o.id = l.twice_of and o.is_here) as "twiceOf",
  l.held,
  case when d.id is not null then json_build_object('id', d.id, 'kind', d.kind,
    'reason', d.reason, 'coding', d.coding, 'step', d.step, 'rule', (select json_build_object('id', r.id, 'name', r.name, 'isHere', r.is_here)
      from rules r where r.books_id = d.books_id and r.id = d.rule_id),
    'isOnce', d.is_once,
    'mates', (select count(*) - 1 from decision_lines mate
      where mate.books_id = d.books_id and mate.decision_id = d.id),
    'paired', case when d.kind = 'paired' then ${pairedOf(sql`d`)} else '[]' end) end as decision`;

const lineJoins = sql`
  ${joinProposal} ${joinDraft} ${joinLiveDecision}
  left join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id`;

/** The open lines of one stack, the oldest first; of a very large one only these. */
export async function stackLines(
  { tx, booksId }: BooksTx,
  scope: Scope,
  ofLane: string,
  stack: StackKey,
): Promise<DeskLine[]> {
  const inScope = await scopeFilter({ tx, booksId }, scope);
  return rowsOf(
    tx,
    DeskLine,
    sql`select ${lineColumns} from lines l ${lineJoins}
        where l.books_id = ${booksId} and ${isInLane(ofLane)}
          and ${stackFilter(stack)} and ${inScope}
        order by l.date, l.position, l.id limit ${MOST_OF_STACK}`,
  );
}

/** Lines by their ids, in no order. */
export async function linesOf(
  tx: Tx,
  booksId: BooksId,
  lineIds: readonly LineId[],
): Promise<DeskLine[]> {
  return rowsOf(
    tx,
    DeskLine,
    sql`select ${lineColumns} from lines l ${lineJoins}
        where l.books_id = ${booksId} and l.id = any(${sql.param(lineIds)}::uuid[])`,
  );
}

/** So many lines are found at once. */
const FOUND = 20;

/** Open, decided and deleted lines that a search finds, the newest first. */
export async function findLines(tx: Tx, booksId: BooksId, search: string): Promise<FoundLine[]> {
  const found = await scopeFilter({ tx, booksId }, { search });
  return rowsOf(
    tx,
    FoundLine,
    sql`select l.id, l.date, l.amount, l.bank_account_id as "bankAccountId", l.description,
          coalesce(d.kind, ${laneOfLine}) as state
        from lines l ${joinLiveDecision}
        left join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
        where l.books_id = ${booksId} and l.is_here and ${found}
        order by l.date desc, l.id limit ${FOUND}`,
  );
}

const CodingRow = z.object({ coding: Coding });

/** How a payee's line was split last, or null where none was. */
export async function lastSplit(
  tx: Tx,
  booksId: BooksId,
  payeeId: PayeeId,
): Promise<Coding | null> {
  const [row] = await rowsOf(
    tx,
    CodingRow,
    sql`select d.coding from decisions d
        where d.books_id = ${booksId} and d.kind = 'posted'
          and d.payee_id = ${payeeId} and jsonb_array_length(d.coding -> 'parts') > 1
          and exists (select from decision_lines dl where dl.books_id = d.books_id
            and dl.decision_id = d.id and dl.is_live)
        order by d.step desc limit 1`,
  );
  return row?.coding ?? null;
}

const PAGE = 200;

/** A page of decided lines: where it begins, and in which order they stand. */
interface DecidedPage {
  readonly cursor: string | undefined;
  readonly order: LineOrder;
  /** Whether the oldest, smallest or last in the alphabet come first. */
  readonly isTurned: boolean;
}

/** By what lines are ordered, the part of a cursor that says it, and whether it runs downwards by itself. */
const LINE_ORDERS = {
  date: { by: sql`l.date`, part: 'date', isDown: true, cast: sql`date` },
  amount: { by: sql`abs(l.amount)`, part: 'amount', isDown: true, cast: sql`bigint` },
  name: { by: sql`l.description`, part: 'text', isDown: false, cast: sql`text` },
} as const;

/** Lines that were decided so, a page of them. */
export async function decidedLines(
  { tx, booksId }: BooksTx,
  decided: Decided,
  { cursor, order, isTurned }: DecidedPage,
): Promise<DeskLines> {
  const [seenStep, wanted] = await together(
    lastStepOf(tx, booksId),
    decidedFilter({ tx, booksId }, decided),
  );
  const { by, part, isDown, cast } = LINE_ORDERS[order];
  const [direction, beyond] = isDown === isTurned ? [sql`asc`, sql`>`] : [sql`desc`, sql`<`];
  const place = placeOf(cursor, part, 'id');
  const items = await rowsOf(
    tx,
    DeskLine,
    sql`select ${lineColumns} from lines l ${lineJoins}
        where l.books_id = ${booksId} and ${wanted}
          and ${place === null ? sql`true` : sql`(${by}, l.id) ${beyond} (${place[0]}::${cast}, ${place[1]}::uuid)`}
        order by ${by} ${direction}, l.id ${direction} limit ${PAGE}`,
  );
  const last = items.at(-1);
  const ends = last && {
    date: last.date,
    amount: Math.abs(last.amount),
    name: last.description,
  };
  return {
    seenStep,
    items,
    next: ends && items.length === PAGE ? cursorOf(ends[order], last.id) : null,
  };
}

const LineRow = LineSheet.omit({ sightings: true, history: true, first: true });

const SightingRow = LineSheet.shape.sightings.element;

const HistoryRow = LineSheet.shape.history.element;

/** All there is to know of one line. */
export async function lineSheet(tx: Tx, booksId: BooksId, lineId: LineId): Promise<LineSheet> {
  const lineThere = rowsOf(
    tx,
    LineRow,
    sql`select ${lineColumns}, l.value_date as "valueDate", l.reference, l.payee, l.type,
          l.bank_id as "bankId", l.cheque_number as "chequeNumber", l.counterparty, l.category,
          l.cardholder, l.original, l.balance,
          (select g.entry_id from decision_legs t
            join legs g on g.books_id = t.books_id and g.id = t.leg_id
            where t.books_id = d.books_id and t.decision_id = d.id limit 1) as "entryId"
        from lines l ${lineJoins}
        where l.books_id = ${booksId} and l.id = ${lineId}`,
  );
  const sightingsThere = rowsOf(
    tx,
    SightingRow,
    sql`select b.id as "batchId", b.file_name as "fileName", g.place,
          to_json(b.created_at) #>> '{}' as at
        from sightings g join batches b on b.books_id = g.books_id and b.id = g.batch_id
        where g.books_id = ${booksId} and g.line_id = ${lineId} and b.status = 'kept'
        order by b.created_at`,
  );
  const historyThere = rowsOf(
    tx,
    HistoryRow,
    sql`select s.no, to_json(s.at) #>> '{}' as at, u.name as who, s.words, ${saidOfStep} as said,
          (select json_build_object('by', coalesce(d.proposed_by, 'hand'), 'isKept', d.is_kept,
              'rule', ${ruleThen(sql`d.rule_id`, sql`s.no`)})
            from decisions d where d.books_id = s.books_id and d.step = s.no and exists (
              select from decision_lines dl
              where dl.books_id = d.books_id and dl.decision_id = d.id and dl.line_id = ${lineId})
            limit 1) as decision
        from steps s join users u on u.id = s.user_id
        where s.books_id = ${booksId} and s.no in (
          select step_no from step_needs where books_id = ${booksId} and thing_id = ${lineId}
          union
          select step_no from step_items where books_id = ${booksId} and thing_id = ${lineId}
          union
          select i.step_no from sightings g
          join step_items i on i.books_id = g.books_id and i.thing_id = g.batch_id and i.thing = 'batch'
          where g.books_id = ${booksId} and g.line_id = ${lineId})
        order by s.no desc`,
  );
  const [[line], sightings, history, first] = await together(
    lineThere,
    sightingsThere,
    historyThere,
    firstProposal(tx, booksId, lineId),
  );
  return { ...(line ?? fail('LINE_UNKNOWN')), sightings, history, first };
}

/** A rule as it was when a step was done, as JSON: its name and which version it was. */
const ruleThen = (ruleId: ReturnType<typeof sql>, step: ReturnType<typeof sql>) => sql`
  (select json_build_object('name', r.name, 'version', greatest(1, (
      select count(*) from step_items i where i.books_id = r.books_id and i.thing = 'rule'
        and i.thing_id = r.id and i.step_no <= ${step})))
    from rules r where r.id = ${ruleId})`;

const FirstProposalRow = LineSheet.shape.first.unwrap();

/** What was first proposed for a line, and by which version of a rule. */
async function firstProposal(
  tx: Tx,
  booksId: BooksId,
  lineId: LineId,
): Promise<LineSheet['first']> {
  const [first] = await rowsOf(
    tx,
    FirstProposalRow,
    sql`select to_json(f.at) #>> '{}' as at, t.proposal, f.sureness,
          ${ruleThen(
            sql`(select (ground ->> 'ruleId')::uuid
              from jsonb_array_elements(t.proposal -> 'grounds') ground
              where ground ->> 'kind' = 'rule' limit 1)`,
            sql`f.step`,
          )} as rule
        from first_proposals f
        join proposal_texts t on t.books_id = f.books_id and t.digest = f.digest
        where f.books_id = ${booksId} and f.line_id = ${lineId}`,
  );
  return first ?? null;
}
