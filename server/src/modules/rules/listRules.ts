import {
  type ListedRule,
  type RuleHealth,
  type RuleList,
  RuleVersions,
} from '@zubrell/contract/rules';
import { ZubrellError } from '@zubrell/core/errors';
import type { BooksId, RuleId } from '@zubrell/core/ids';
import { checkRule } from '@zubrell/core/propose/rule/checkRule';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { NamedRow } from '../../db/rows.ts';
import { lastStepOf } from '../books/queries.ts';
import { isOpenLine } from '../lines/lineState.ts';
import { ruleBooks } from './ruleBooks.ts';
import { type RuleUse, ruleUses } from './ruleRecords.ts';
import { type RuleRow, ruleRows } from './ruleRows.ts';

/** So few looked at prove nothing. */
const TOO_FEW = 4;

/** The rules of books in their order, with their records and what is wrong with them by themselves. */
export async function listRules(tx: Tx, booksId: BooksId): Promise<RuleList> {
  const seenStep = await lastStepOf(tx, booksId);
  const rows = await ruleRows(tx, booksId);
  const uses = new Map((await ruleUses(tx, booksId)).map((use) => [use.ruleId, use]));
  const open = await openByRule(tx, booksId);
  const books = await ruleBooks(tx, booksId);
  const off = await accountsOff(tx, booksId);
  return {
    seenStep,
    rules: rows.map((row, at): ListedRule => {
      const use = uses.get(row.id);
      return {
        id: row.id,
        number: at + 1,
        name: row.name,
        isOn: row.isOn,
        body: row.body,
        lastStep: row.lastStep,
        used: use?.used ?? 0,
        open: open.get(row.id) ?? 0,
        kept: use?.kept ?? 0,
        looked: use?.looked ?? 0,
        postedAtOnce: use?.postedAtOnce ?? 0,
        keptInRow: use?.keptInRow ?? 0,
        lastUsed: use?.lastUsed ?? null,
        health: [...goneOf(row, books, off), ...recordHealth(row, use)],
      };
    }),
  };
}

const OpenByRuleRow = z.object({ id: z.string(), count: z.number() });

async function openByRule(tx: Tx, booksId: BooksId): Promise<ReadonlyMap<string, number>> {
  const rows = await rowsOf(
    tx,
    OpenByRuleRow,
    sql`select p.rule_id as id, count(*)::int as count from proposals p
        join lines l on l.books_id = p.books_id and l.id = p.line_id
        where p.books_id = ${booksId} and p.rule_id is not null and ${isOpenLine} group by 1`,
  );
  return new Map(rows.map(({ id, count }) => [id, count]));
}

async function accountsOff(tx: Tx, booksId: BooksId): Promise<ReadonlyMap<string, string>> {
  const rows = await rowsOf(
    tx,
    NamedRow,
    sql`select id, code || ' ' || name as name from accounts
        where books_id = ${booksId} and not is_on`,
  );
  return new Map(rows.map(({ id, name }) => [id, name]));
}

function goneOf(
  { body }: RuleRow,
  books: Awaited<ReturnType<typeof ruleBooks>>,
  off: ReadonlyMap<string, string>,
): RuleHealth[] {
  const parts = body.result.kind === 'code' ? body.result.parts : [];
  const name = parts.flatMap(({ accountId }) => off.get(accountId) ?? [])[0];
  if (name !== undefined) return [{ kind: 'gone', what: name }];
  try {
    checkRule(body, books);
    return [];
  } catch (error) {
    if (!(error instanceof ZubrellError)) throw error;
    return [{ kind: 'gone', what: String(error.params.what ?? error.message) }];
  }
}

function recordHealth({ stoppedStep }: RuleRow, use: RuleUse | undefined): RuleHealth[] {
  const found: RuleHealth[] = [];
  if (use && use.newestLooked >= TOO_FEW && 2 * use.newestKept < use.newestLooked) {
    found.push({ kind: 'overruled', kept: use.newestKept, of: use.newestLooked });
  }
  if (stoppedStep !== null) found.push({ kind: 'stopped' });
  return found;
}

const VersionRow = RuleVersions.shape.versions.element;

/** What a rule said over time, the newest first. */
export async function ruleVersions(
  tx: Tx,
  booksId: BooksId,
  ruleId: RuleId,
): Promise<RuleVersions> {
  const versions = await rowsOf(
    tx,
    VersionRow,
    sql`select s.no as step, to_json(s.at) #>> '{}' as at, u.name as who, s.words,
          case when jsonb_typeof(i.after) = 'object' then jsonb_build_object('name', i.after -> 'name',
            'isOn', i.after -> 'isOn', 'body', i.after -> 'body') end as rule
        from step_items i
        join steps s on s.books_id = i.books_id and s.no = i.step_no
        join users u on u.id = s.user_id
        where i.books_id = ${booksId} and i.thing = 'rule' and i.thing_id = ${ruleId}
        order by s.no desc limit 100`,
  );
  return { versions };
}
