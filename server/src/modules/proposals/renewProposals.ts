import { duePaid } from '@zubrell/core/closing/cards';
import type { AccountId, BooksId, LineId, PayeeId, TaxCodeId } from '@zubrell/core/ids';
import { controlRoles } from '@zubrell/core/ledger/accountRoles';
import { textOf, wordingFeatures } from '@zubrell/core/propose/habit/features';
import { predict } from '@zubrell/core/propose/habit/predict';
import { laneOf, type Proposal, proposedCoding, ruleOf } from '@zubrell/core/propose/proposal';
import { type Knowledge, proposeFor, type SureProposal } from '@zubrell/core/propose/proposeFor';
import type { FileCoding } from '@zubrell/core/propose/proposeFromFile';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { countRows, execute, rowsOf, type Tx, together } from '../../db/database.ts';
import { queueJob } from '../../db/queueJob.ts';
import { idRow, StemRow } from '../../db/rows.ts';
import { isSameText } from '../../db/textSearch.ts';
import { habitsOf } from '../habits/booksMemory.ts';
import { elsewhereOf } from '../habits/elsewhereOf.ts';
import { habitLineColumns } from '../lines/lineColumns.ts';
import { isOpenLine, isTwice } from '../lines/lineState.ts';
import { findPairs } from '../pairing/findPairs.ts';
import { proposingByRule, RuledLine } from '../rules/activeRules.ts';
import { cardDues } from './cardDues.ts';
import { proposalBooks } from './proposalBooks.ts';

const OpenRow = RuledLine.extend({
  ...habitLineColumns,
  id: z.string(),
  stem: z.string(),
  type: z.string().nullable(),
  category: z.string().nullable(),
  /** Names the prepared coding that it came with. */
  prepared: z.string().nullable(),
  /** Whether something was proposed for it before. */
  wasProposed: z.boolean(),
});
type OpenRow = z.infer<typeof OpenRow>;

/** So many lines are proposed for at a time, so that memory stays bounded and others get their turn. */
const LINES_AT_ONCE = 2_000;

/**
 * Computes the proposals of all open lines with these stems anew, from what was decided on lines that are
 * alike.
 *
 * @returns how many lines are proposed for otherwise than before
 */
export async function renewProposals(
  tx: Tx,
  booksId: BooksId,
  stems: readonly string[],
): Promise<number> {
  const these = sql.param([...new Set(stems)]);
  const fetch = () => rowsOf(tx, OpenRow, sql.raw(`fetch ${LINES_AT_ONCE} from open_lines`));
  // What is written below the cursor does not see: it reads as things stood when it was opened.
  const opened = execute(
    tx,
    sql`declare open_lines no scroll cursor for
        select l.id, l.stem, l.date, l.amount, l.description, l.reference, l.payee, l.type,
          l.category, l.counterparty, l.cheque_number as "chequeNumber", case when ${isTwice} then l.twice_of end as "twiceOf",
          b.account_id as "ledgerAccountId", l.bank_account_id as "bankAccountId",
          l.prepared::text || coalesce(l.payee, '') as prepared,
          exists (
            select from first_proposals f
            where f.books_id = l.books_id and f.line_id = l.id) as "wasProposed"
        from lines l
        join bank_accounts b on b.books_id = l.books_id and b.id = l.bank_account_id
        where l.books_id = ${booksId} and l.stem = any(${these}::text[]) and ${isOpenLine}`,
  );
  let [, lines] = await together(opened, fetch());
  let changed = 0;
  if (lines.length > 0) {
    const propose = await proposing(tx, booksId, stems);
    changed += await putProposals(tx, booksId, lines, propose);
    while (lines.length === LINES_AT_ONCE) {
      lines = await fetch();
      changed += await putProposals(tx, booksId, lines, propose);
    }
  }
  await tx.execute(sql`close open_lines`);
  return changed;
}

type StemParam = ReturnType<typeof sql.param>;
type Propose = (lines: readonly OpenRow[]) => readonly (SureProposal | null)[];

/** What proposes for lines of these stems, with all that is known of them. */
async function proposing(tx: Tx, booksId: BooksId, stems: readonly string[]): Promise<Propose> {
  const [prepared, found, { ask, shift }, ofBooks, elsewhere, dues] = await together(
    preparedCodings(tx, booksId, sql.param(stems)),
    findPairs(tx, booksId, stems),
    habitsOf(tx, booksId),
    proposalBooks(tx, booksId),
    elsewhereOf(tx, booksId),
    cardDues(tx, booksId),
  );
  const { pairs, nearly, halves, named } = found;
  const books = { ...ofBooks, shift };
  const byRule = await proposingByRule(tx, booksId, books);
  return (lines) =>
    ask((memory) =>
      lines.map((line) => {
        const features = wordingFeatures(textOf(line));
        const knowledge: Knowledge = {
          prediction: predict(memory, line, features),
          fromPair: pairs.get(line.id) ?? null,
          nearly: nearly.get(line.id) ?? null,
          fromHalf: halves.get(line.id) ?? null,
          namedAccount: named.get(line.id) ?? null,
          cardDue: duePaid(line, dues),
          fromRule: byRule(line),
          fromElsewhere: elsewhere?.(line.amount < 0, features) ?? null,
          fromFile: (line.prepared !== null && prepared.get(line.prepared)) || null,
        };
        return proposeFor(line, knowledge, books);
      }),
    );
}

const PreparedCodingsRow = z.object({
  prepared: z.string(),
  accountId: idRow<AccountId>(),
  isAccountOn: z.boolean(),
  payee: z.string().nullable(),
  payeeId: idRow<PayeeId>().nullable(),
  tax: z.string().nullable(),
  taxCodeId: idRow<TaxCodeId>().nullable(),
}) satisfies z.ZodType<FileCoding>;

/** What prepared files say of open lines with these stems, as far as it names accounts of the books. */
async function preparedCodings(
  tx: Tx,
  booksId: BooksId,
  stems: StemParam,
): Promise<ReadonlyMap<string, FileCoding>> {
  const rows = await rowsOf(
    tx,
    PreparedCodingsRow,
    sql`select w.prepared::text || coalesce(w.payee, '') as prepared, a.id as "accountId",
          a.is_on as "isAccountOn", w.payee, y.id as "payeeId",
          w.prepared ->> 'tax' as tax, t.id as "taxCodeId"
        from (
          select distinct l.prepared, l.payee from lines l
          where l.books_id = ${booksId} and l.stem = any(${stems}::text[])
            and l.prepared is not null and ${isOpenLine}) w
        join accounts a on a.books_id = ${booksId} and a.is_here
          and coalesce(a.role, '') <> all(${sql.param(controlRoles)}::text[])
          and folded(w.prepared ->> 'account') in (
            folded(a.code), folded(a.name), folded(a.code || ' ' || a.name))
        left join tax_codes t on t.books_id = ${booksId} and t.is_here
          and ${isSameText(sql`t.name`, sql`w.prepared ->> 'tax'`)}
        left join payees y on y.books_id = ${booksId} and y.is_here
          and ${isSameText(sql`y.name`, sql`w.payee`)}`,
  );
  return new Map(rows.map(({ prepared, ...coding }) => [prepared, coding]));
}

const ChangedRow = z.object({ changed: z.int() });

/**
 * Writes the proposals of lines; what stays as it was is not written again, and the first of a line is kept for ever.
 *
 * @returns how many lines are proposed for otherwise than before
 */
async function putProposals(
  tx: Tx,
  booksId: BooksId,
  lines: readonly OpenRow[],
  propose: Propose,
): Promise<number> {
  const made: (SureProposal & { readonly line: OpenRow; readonly number: number })[] = [];
  // Many lines are proposed for alike: each proposal goes to the database once.
  const distinct = new Map<string, { readonly number: number; readonly proposal: Proposal }>();
  const without: LineId[] = [];
  for (const [at, proposed] of propose(lines).entries()) {
    const line = lines[at];
    if (!line) continue;
    if (proposed === null) {
      without.push(line.id);
      continue;
    }
    const { proposal } = proposed;
    const text = JSON.stringify(proposal);
    const said = distinct.get(text) ?? { number: distinct.size + 1, proposal };
    distinct.set(text, said);
    made.push({ ...proposed, line, number: said.number });
  }
  const said = [...distinct].map(([text, { proposal }]) => ({
    text,
    lane: laneOf(proposal),
    accountId: proposedCoding(proposal)?.parts[0]?.accountId ?? null,
    ruleId: ruleOf(proposal),
  }));
  const [row] = await rowsOf(
    tx,
    ChangedRow,
    sql`with wanted as (
          select line_id, w.is_first, w.odds, w.sureness, said.* from unnest(
            ${sql.param(made.map(({ line }) => line.id))}::uuid[],
            ${sql.param(made.map(({ line }) => !line.wasProposed))}::boolean[],
            ${sql.param(made.map(({ number }) => number))}::int[],
            ${sql.param(made.map(({ odds }) => odds))}::real[],
            ${sql.param(made.map(({ sureness }) => sureness))}::real[])
            as w (line_id, is_first, no, odds, sureness)
          join unnest(
            ${sql.param(said.map(({ lane }) => lane))}::text[],
            ${sql.param(said.map(({ text }) => text))}::text[],
            ${sql.param(said.map(({ accountId }) => accountId))}::uuid[],
            ${sql.param(said.map(({ ruleId }) => ruleId))}::uuid[])
            with ordinality as said (lane, proposal, account_id, rule_id, number) on said.number = w.no),
        gone as (
          delete from proposals p
          where p.books_id = ${booksId} and p.line_id = any(${sql.param(without)}::uuid[])
          returning line_id),
        first as (
          select line_id, lane, sureness, proposal, rule_id, hashtextextended(proposal, 0) as digest
          from wanted where is_first),
        worded as (
          insert into proposal_texts (books_id, digest, proposal)
          select distinct on (digest) ${booksId}::uuid, digest, proposal::jsonb from first
          on conflict do nothing),
        kept as (
          insert into first_proposals (books_id, line_id, digest, lane, sureness, at, step)
          select ${booksId}::uuid, line_id, digest, lane, sureness, zubrell_now(),
            greatest(b.last_step, r.last_step)
          from first join books b on b.id = ${booksId}
          left join rules r on r.books_id = b.id and r.id = first.rule_id
          on conflict do nothing),
        put as (
          insert into proposals (
            books_id, line_id, lane, proposal, digest, account_id, rule_id, odds, sureness)
          select ${booksId}::uuid, line_id, lane, proposal::jsonb, hashtextextended(proposal, 0),
            account_id, rule_id, odds, sureness
          from wanted
          on conflict (books_id, line_id) do update set lane = excluded.lane,
            proposal = excluded.proposal, digest = excluded.digest, account_id = excluded.account_id,
            rule_id = excluded.rule_id, odds = excluded.odds, sureness = excluded.sureness
          where proposals.digest <> excluded.digest
            or abs(coalesce(proposals.sureness, 0) - coalesce(excluded.sureness, 0)) > 0.005
          returning line_id)
        select ((select count(*) from put) + (select count(*) from gone))::int as changed`,
  );
  return row?.changed ?? 0;
}

/** What the queue holds of proposals to be computed anew. */
export const RenewProposalsJob = z.object({
  booksId: idRow<BooksId>(),
  stems: z.array(z.string()),
  /** Whether the lines with these stems are done, and only those alike are left. */
  isOwnDone: z.boolean(),
  /** In whose name rules may post at once what is proposed; null where nothing is to be posted. */
  postFor: z.string().nullable(),
});
export type RenewProposalsJob = z.infer<typeof RenewProposalsJob>;

/** So many open lines are proposed for anew at once; more as a job. */
const AT_ONCE = 2_000;

/**
 * Computes the proposals of open lines with these stems anew: now where they are few, else in a job. Lines
 * that are only like them are seen to in a job, a moment later.
 *
 * @param postFor in whose name that job may have rules post at once
 */
export async function renewSoon(
  tx: Tx,
  booksId: BooksId,
  stems: readonly string[],
  postFor: string | null = null,
): Promise<void> {
  const wanted = [...new Set(stems)];
  if (wanted.length === 0) return;
  const reached = await countRows(
    tx,
    sql`select from open_lines
        where books_id = ${booksId} and stem = any(${sql.param(wanted)}::text[]) limit ${AT_ONCE + 1}`,
  );
  const isSoon = reached <= AT_ONCE;
  if (isSoon) await renewProposals(tx, booksId, wanted);
  if (isSoon && wordsOf(wanted).length > MOST_WORDS) return;
  await queueRenewal(tx, booksId, wanted, { isOwnDone: isSoon, postFor });
}

/** Has the proposals of open lines with these stems computed anew in a job, and of lines that are only like them. */
export async function queueRenewal(
  tx: Tx,
  booksId: BooksId,
  stems: readonly string[],
  how: Pick<RenewProposalsJob, 'isOwnDone' | 'postFor'> = { isOwnDone: false, postFor: null },
): Promise<void> {
  const job: RenewProposalsJob = { booksId, stems: [...stems], ...how };
  await queueJob(tx, 'renewProposals', job);
}

/** So many words are looked for in other stems; more are of a whole batch, whose lines are all done anyway. */
const MOST_WORDS = 40;

const wordsOf = (stems: readonly string[]) => [
  ...new Set(stems.flatMap((stem) => stem.split(' '))),
];

/** The other stems of open lines that share a word with these which few payees have. */
export async function stemsAlike(
  tx: Tx,
  booksId: BooksId,
  stems: readonly string[],
): Promise<readonly string[]> {
  const words = wordsOf(stems);
  if (words.length > MOST_WORDS) return [];
  const { ask } = await habitsOf(tx, booksId);
  const telling = ask((memory) => memory.rareWords(words));
  if (telling.length === 0) return [];
  const others = await rowsOf(
    tx,
    StemRow,
    sql`select distinct stem from open_lines
        where books_id = ${booksId}
          and string_to_array(stem, ' ') && ${sql.param(telling)}::text[]
          and stem <> all(${sql.param(stems)}::text[])`,
  );
  return others.map(({ stem }) => stem);
}

/** Computes the proposals of all open lines anew: something changed that all of them depend on. */
export async function renewAll(tx: Tx, booksId: BooksId): Promise<void> {
  await renewSoon(tx, booksId, await openStems(tx, booksId));
}

/** The stems of all open lines. */
export async function openStems(tx: Tx, booksId: BooksId): Promise<readonly string[]> {
  const rows = await rowsOf(
    tx,
    StemRow,
    sql`select distinct stem from open_lines where books_id = ${booksId}`,
  );
  return rows.map(({ stem }) => stem);
}
