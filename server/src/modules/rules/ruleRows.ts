import { RuleBody } from '@zubrell/contract/rules';
import { fail } from '@zubrell/core/errors';
import type { BooksId } from '@zubrell/core/ids';
import type { Rule } from '@zubrell/core/propose/rule/rule';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';

/** What can change of a rule. */
export const RuleState = z.object({
  name: z.string(),
  /** Earlier rules have a lower one. */
  rank: z.number(),
  isOn: z.boolean(),
  body: RuleBody,
  /** The step since which it takes and does what it does now. */
  sinceStep: z.number(),
  /** See {@link Rule}; steps before it was known have none. */
  against: z.number().default(0),
});
export type RuleState = z.infer<typeof RuleState>;

/** A rule as it is kept. */
export const RuleRow = RuleState.extend({
  id: z.string(),
  /** The step that corrected a line which it had posted at once: it no longer does. */
  stoppedStep: z.number().nullable(),
  lastStep: z.number(),
});
export type RuleRow = z.infer<typeof RuleRow>;

/** The rules of books in their order, those that are off too. */
export function ruleRows(tx: Tx, booksId: BooksId): Promise<RuleRow[]> {
  return rowsOf(
    tx,
    RuleRow,
    sql`select id, name, rank, is_on as "isOn", body, since_step as "sinceStep", against,
          stopped_step as "stoppedStep", last_step as "lastStep"
        from rules where books_id = ${booksId} and is_here order by rank, id`,
  );
}

/** A rule of some. @throws {ZubrellError} RULE_UNKNOWN */
export function ruleAmong(rows: readonly RuleRow[], id: string): RuleRow {
  return rows.find((row) => row.id === id) ?? fail('RULE_UNKNOWN');
}

/** What can change of a rule, alone. */
export function stateOf({ name, rank, isOn, body, sinceStep, against }: RuleState): RuleState {
  return { name, rank, isOn, body, sinceStep, against };
}

/** Those that are on, as they are applied. */
export function activeOf(rows: readonly (RuleState & { readonly id: string })[]): readonly Rule[] {
  return rows
    .filter(({ isOn }) => isOn)
    .map(({ id, name, body, against }) => ({ id, name, ...body, against }));
}

/** Whether a rule posts what it takes at once. */
export function postsAtOnce({ isOn, body, stoppedStep }: RuleRow): boolean {
  return isOn && body.after.kind === 'post' && stoppedStep === null;
}
