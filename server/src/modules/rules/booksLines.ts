import type { AccountId, BooksId, PayeeId, RuleId, TaxCodeId } from '@zubrell/core/ids';
import { type DecisionKind, decisionKinds } from '@zubrell/core/ledger/decisions';
import { type ProposalSource, proposalSources } from '@zubrell/core/propose/proposal';
import { type RuleLine, readRuleLine } from '@zubrell/core/propose/rule/ruleLine';
import { searchWordings, type WordingSearch } from '@zubrell/core/propose/rule/wordingSearch';
import { headCounts } from '@zubrell/core/text/headCounts';
import { type SQL, sql } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { ruleFactColumns } from '../lines/lineColumns.ts';
import {
  changedStepOfLine,
  isChangedSince,
  isOpenLine,
  joinLiveDecision,
} from '../lines/lineState.ts';
import { committedStep } from '../steps/booksCommand.ts';

/** A line of the books with what was made of it, as rules are tried on it. */
export interface KnownLine extends RuleLine {
  readonly id: string;
  readonly stem: string;
  readonly state: DecisionKind | 'open';
  /** Where it was posted: the accounts of its parts. */
  readonly accountIds: readonly AccountId[];
  readonly payeeId: PayeeId | null;
  readonly taxCodeId: TaxCodeId | null;
  readonly source: ProposalSource | null;
  readonly isKept: boolean;
  readonly ruleId: RuleId | null;
}

/** The lines of some books that rules are tried on, the newest first. */
export interface BooksLines {
  readonly lines: readonly KnownLine[];
  /** Whether they are all; of very many lines they are the newest, and those that are open. */
  readonly isAll: boolean;
  /** Finds lines by what a rule looks for. */
  readonly search: WordingSearch;
  /** With how many different first words a word stands: towns and the like stand with many. */
  readonly headsWith: (word: string) => number;
}

interface Known {
  readonly byId: Map<string, KnownLine>;
  isAll: boolean;
  /** The newest step whose changes are in it. */
  step: number;
  sorted: readonly KnownLine[] | null;
  words: ReadonlyMap<string, number> | null;
  search: WordingSearch | null;
}

/**
 * So many of the newest lines rules are tried on, beside all that are open; so many are read at once, so that others are
 * served in between.
 */
const LIMITS = { newest: 50_000, page: 5_000 } as const;

/** How many lines are read, see {@link LIMITS}. */
type Limits = Readonly<Record<keyof typeof LIMITS, number>>;

/** So many lines, of all books together, are kept in mind; the others are read anew. */
const MOST_LINES = 60_000;

const known = new LRUCache<string, Known>({
  maxSize: MOST_LINES,
  sizeCalculation: ({ byId }) => Math.min(MOST_LINES, byId.size + 100),
});

const LineRow = z.object({
  ...ruleFactColumns,
  id: z.string(),
  stem: z.string(),
  isHere: z.boolean(),
  kind: z.enum(decisionKinds).nullable(),
  accountIds: z.string().nullable(),
  payeeId: idRow<PayeeId>().nullable(),
  taxCodeId: idRow<TaxCodeId>().nullable(),
  source: z.enum(proposalSources).nullable(),
  isKept: z.boolean().nullable(),
  ruleId: idRow<RuleId>().nullable(),
});
type LineRow = z.infer<typeof LineRow>;

/**
 * The lines of books that rules are tried on, read once by this process and then only as steps change them.
 * What the transaction itself changed is not kept in mind.
 */
export async function booksLines(
  tx: Tx,
  booksId: BooksId,
  limits: Limits = LIMITS,
): Promise<BooksLines> {
  const committed = await committedStep(tx, booksId);
  const found = known.get(booksId);
  const mine: Known =
    found !== undefined && found.step <= committed
      ? found
      : { byId: new Map(), isAll: true, step: -1, sorted: null, words: null, search: null };
  if (mine.step < committed) {
    const rows =
      mine.step < 0
        ? await readNewest(tx, { booksId, to: committed, mine, limits })
        : await changedSince(tx, booksId, mine.step, committed);
    if (rows.length > 0) {
      for (const row of rows) {
        if (row.isHere) mine.byId.set(row.id, lineOf(row));
        else mine.byId.delete(row.id);
      }
      mine.sorted = null;
      mine.words = null;
      mine.search = null;
    }
    mine.step = committed;
  }
  // As large as they are by now.
  known.delete(booksId);
  known.set(booksId, mine);
  mine.sorted ??= newestFirst([...mine.byId.values()]);
  const { sorted } = mine;
  mine.search ??= searchWordings(sorted);
  let { words } = mine;
  return {
    lines: sorted,
    isAll: mine.isAll,
    search: mine.search,
    headsWith(word) {
      if (words === null) {
        words = headCounts(sorted.map(({ plain, stem }) => [stem, plain.wording] as const));
        // Others may have brought in later steps meanwhile.
        if (mine.sorted === sorted) mine.words = words;
      }
      return words.get(word) ?? 0;
    },
  };
}

export const newestFirst = (lines: readonly KnownLine[]): KnownLine[] =>
  [...lines].sort((a, b) =>
    a.facts.date < b.facts.date ? 1 : a.facts.date > b.facts.date ? -1 : 0,
  );

function lineOf({ id, stem, kind, accountIds, payeeId, taxCodeId, ...row }: LineRow): KnownLine {
  const { isHere: _isHere, source, isKept, ruleId, ...facts } = row;
  return {
    ...readRuleLine(facts),
    id,
    stem,
    state: kind ?? 'open',
    accountIds: accountIds === null ? NOWHERE : accountsOf(accountIds),
    payeeId,
    taxCodeId,
    source,
    isKept: isKept ?? false,
    ruleId,
  };
}

const NOWHERE: readonly string[] = [];
/** Most lines go to the same few accounts: each list of them is kept once. */
const lists = new Map<string, readonly string[]>();

function accountsOf(joined: string): readonly string[] {
  const same = lists.get(joined);
  if (same) return same;
  const made = joined.split(',');
  lists.set(joined, made);
  return made;
}

const KeyRow = z.object({ date: z.string(), id: z.string() });

/**
 * Reads the newest lines page by page into what is kept in mind.
 *
 * @returns what is left to be put there: open lines that are older
 */
async function readNewest(
  tx: Tx,
  {
    booksId,
    to,
    mine,
    limits,
  }: {
    readonly booksId: BooksId;
    readonly to: number;
    readonly mine: Known;
    readonly limits: Limits;
  },
): Promise<readonly LineRow[]> {
  let before = sql`true`;
  for (;;) {
    const page = sql`select l.date, l.id from lines l
      where l.books_id = ${booksId} and l.is_here and ${before} order by l.date desc, l.id desc limit ${limits.page}`;
    const keys = await rowsOf(tx, KeyRow, page);
    const ids = sql.param(keys.map(({ id }) => id));
    const rows = await linesWhere(tx, booksId, to, sql`l.id = any(${ids}::uuid[])`);
    for (const row of rows) mine.byId.set(row.id, lineOf(row));
    const last = keys.at(-1);
    if (last === undefined || keys.length < limits.page) return [];
    before = sql`(l.date, l.id) < (${last.date}::date, ${last.id}::uuid)`;
    if (mine.byId.size >= limits.newest) break;
  }
  mine.isAll = false;
  return linesWhere(tx, booksId, to, sql`${isOpenLine} and ${before}`);
}

/** All decided lines that a rule proposed for, the newest first; however old they are. */
export async function linesByRule(
  tx: Tx,
  booksId: BooksId,
  ruleId: RuleId,
): Promise<readonly KnownLine[]> {
  const committed = await committedStep(tx, booksId);
  const rows = await linesWhere(tx, booksId, committed, sql`l.is_here and d.rule_id = ${ruleId}`);
  return newestFirst(rows.map(lineOf));
}

/** The lines that steps changed after one, up to another. */
function changedSince(tx: Tx, booksId: BooksId, step: number, to: number): Promise<LineRow[]> {
  return linesWhere(tx, booksId, to, isChangedSince(booksId, step));
}

function linesWhere(tx: Tx, booksId: BooksId, to: number, condition: SQL): Promise<LineRow[]> {
  return rowsOf(
    tx,
    LineRow,
    sql`select l.id, l.stem, l.is_here as "isHere", l.date, l.amount, l.description, l.reference,
          l.payee, l.counterparty, l.type, l.cheque_number as "chequeNumber", l.category,
          l.bank_account_id as "bankAccountId", d.kind,
          case when d.coding is not null then (
            select string_agg(part ->> 'accountId', ',')
            from jsonb_array_elements(d.coding -> 'parts') part) end as "accountIds",
          d.coding ->> 'payeeId' as "payeeId",
          d.coding #>> '{parts,0,taxCodeId}' as "taxCodeId",
          d.proposed_by as source, d.is_kept as "isKept", d.rule_id as "ruleId"
        from lines l ${joinLiveDecision}
        left join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
        where l.books_id = ${booksId} and ${changedStepOfLine} <= ${to} and ${condition}`,
  );
}
