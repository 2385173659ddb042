import type { BooksId } from '@zubrell/core/ids';
import type { Proposal } from '@zubrell/core/propose/proposal';
import {
  proposeFromRule,
  type RuleProposalBooks,
} from '@zubrell/core/propose/rule/proposeFromRule';
import type { Rule, RuleFacts } from '@zubrell/core/propose/rule/rule';
import { indexRules } from '@zubrell/core/propose/rule/ruleIndex';
import { readRuleLine } from '@zubrell/core/propose/rule/ruleLine';
import { plainWording } from '@zubrell/core/text/plainWording';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { NamedRow } from '../../db/rows.ts';
import { bankLedgers } from '../books/queries.ts';
import { openingDates } from '../ledger/openingBalance.ts';
import { ruleFactColumns } from '../lines/lineColumns.ts';
import { ruleUses } from './ruleRecords.ts';
import { activeOf, ruleRows } from './ruleRows.ts';

/** What of an open line rules need, also to see whether a reason to exclude it holds. */
export const RuledLine = z.object({
  ...ruleFactColumns,
  twiceOf: z.string().nullable(),
  ledgerAccountId: z.string(),
});
export type RuledLine = z.infer<typeof RuledLine>;

/** Proposes by the first active rule that takes a line; null where none does. */
export type ProposeByRule = (line: RuledLine) => Proposal | null;

/** What the active rules of books propose. */
export async function proposingByRule(
  tx: Tx,
  booksId: BooksId,
  books: Pick<RuleProposalBooks, 'isAccountOn' | 'bankLedger'>,
): Promise<ProposeByRule> {
  const rules = activeOf(await ruleRows(tx, booksId));
  if (rules.length === 0) return () => null;
  const index = indexRules(rules);
  const openings = await openingDates(tx, booksId);
  const proposalBooks = await proposalBooksOf(tx, booksId, books);
  return (line) => {
    const rule = rules[index.first(readRuleLine(line))];
    if (!rule) return null;
    const { result } = rule;
    if (result.kind === 'exclude') {
      const opening = openings.get(line.ledgerAccountId) ?? '';
      const holds = result.reason === 'secondCopy' ? line.twiceOf !== null : line.date <= opening;
      if (!holds) return null;
    }
    return proposeFromRule(rule, line, proposalBooks);
  };
}

/** What one rule proposes for lines that it takes, whether it is on or not. */
export async function proposingByOneRule(
  tx: Tx,
  booksId: BooksId,
  rule: Rule,
): Promise<(line: RuleFacts) => Proposal | null> {
  const books = await proposalBooksOf(tx, booksId, {
    isAccountOn: () => true,
    bankLedger: await bankLedgers(tx, booksId),
  });
  return (line) => proposeFromRule(rule, line, books);
}

/** What of books a rule's proposals depend on. */
async function proposalBooksOf(
  tx: Tx,
  booksId: BooksId,
  books: Pick<RuleProposalBooks, 'isAccountOn' | 'bankLedger'>,
): Promise<RuleProposalBooks> {
  const uses = new Map((await ruleUses(tx, booksId)).map((use) => [use.ruleId, use]));
  const payees = await rowsOf(
    tx,
    NamedRow,
    sql`select id, name from payees where books_id = ${booksId} and is_here and is_on order by id`,
  );
  const byName = new Map(payees.map(({ id, name }) => [plainWording(name), id]));
  return {
    ...books,
    payeeNamed: (name) => byName.get(name) ?? null,
    recordOf: (ruleId) => {
      const use = uses.get(ruleId);
      return {
        kept: use?.newestKept ?? 0,
        of: use?.newestLooked ?? 0,
        keptInRow: use?.keptInRow ?? 0,
      };
    },
  };
}
