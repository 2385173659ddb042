import type { AccountId, BooksId, PayeeId, RuleId, TaxCodeId } from '@zubrell/core/ids';
import { type DecisionKind, decisionKinds } from '@zubrell/core/ledger/decisions';
import { type ProposalSource, proposalSources } from '@zubrell/core/propose/proposal';
import { type RuleLine, readRuleLine } from '@zubrell/core/propose/rule/ruleLine';
import { searchWordings, type WordingSearch } from '@zubrell/core/propose/rule/wordingSearch';
import { headCounts } from '@zubrell/core/text/headCounts';
import { sql } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { ruleFactColumns } from '../lines/lineColumns.ts';
import { joinLiveDecision } from '../lines/lineState.ts';
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

/** All lines of some books, the newest first. */
export interface BooksLines {
  readonly lines: readonly KnownLine[];
  /** Finds lines by what a rule looks for. */
  readonly search: WordingSearch;
  /** With how many different first words a word stands: towns and the like stand with many. */
  readonly headsWith: (word: string) => number;
}

interface Known {
  readonly byId: Map<string, KnownLine>;
  /** The newest step whose changes are in it. */
  step: number;
  sorted: readonly KnownLine[] | null;
  words: ReadonlyMap<string, number> | null;
  search: WordingSearch | null;
}

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
 * All lines of books, read once by this process and then only as steps change them.
 * What the transaction itself changed is not kept in mind.
 */
export async function booksLines(tx: Tx, booksId: BooksId): Promise<BooksLines> {
  const committed = await committedStep(tx, booksId);
  const found = known.get(booksId);
  const mine: Known =
    found !== undefined && found.step <= committed
      ? found
      : { byId: new Map(), step: -1, sorted: null, words: null, search: null };
  if (mine.step < committed) {
    const rows = await changedSince(tx, booksId, mine.step, committed);
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
  mine.sorted ??= [...mine.byId.values()].sort((a, b) =>
    a.facts.date < b.facts.date ? 1 : a.facts.date > b.facts.date ? -1 : 0,
  );
  const { sorted } = mine;
  mine.words ??= headCounts(sorted.map(({ plain, stem }) => [stem, plain.wording] as const));
  mine.search ??= searchWordings(sorted);
  return {
    lines: sorted,
    search: mine.search,
    headsWith: (word) => mine.words?.get(word) ?? 0,
  };
}

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

function changedSince(tx: Tx, booksId: BooksId, step: number, to: number): Promise<LineRow[]> {
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
        where l.books_id = ${booksId} and greatest(l.last_step, l.relearn_step) between ${step + 1} and ${to}`,
  );
}
