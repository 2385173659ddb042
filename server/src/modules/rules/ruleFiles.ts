import { randomUUID } from 'node:crypto';
import {
  type ImportRules,
  RuleFile,
  type RuleFileRead,
  type RulesImported,
} from '@zubrell/contract/rules';
import { fail, ZubrellError } from '@zubrell/core/errors';
import type { BooksId, RuleId } from '@zubrell/core/ids';
import { checkRule } from '@zubrell/core/propose/rule/checkRule';
import {
  type FileRule,
  fromFileRule,
  type IdOf,
  type NamedKind,
  namedKinds,
  namesIn,
  RULE_FILE_FORMAT,
  RULE_FILE_VERSION,
  ruleKey,
  toFileRule,
} from '@zubrell/core/propose/rule/ruleFile';
import { nameKey } from '@zubrell/core/text/nameKey';
import { countSaid, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { booksCurrency } from '../books/queries.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { put } from './changeRules.ts';
import { ruleBooks } from './ruleBooks.ts';
import { type RuleRow, ruleRows } from './ruleRows.ts';
import type { RuleChange } from './setRules.ts';

/** The rules of books, all or some, as a file. */
export async function writeRuleFile(
  tx: Tx,
  booksId: BooksId,
  ruleIds: readonly RuleId[] | undefined,
): Promise<RuleFile> {
  const rows = await ruleRows(tx, booksId);
  const chosen = ruleIds ? rows.filter(({ id }) => ruleIds.includes(id)) : rows;
  const names = new Map(
    (await namedThings(tx, booksId)).map(({ kind, id, name }) => [`${kind} ${id}`, name]),
  );
  const nameOf = (kind: NamedKind, id: string): string => names.get(`${kind} ${id}`) ?? id;
  return {
    format: RULE_FILE_FORMAT,
    version: RULE_FILE_VERSION,
    currency: await booksCurrency(tx, booksId),
    rules: chosen.map(({ name, body }) =>
      toFileRule({ name, ...body }, nameOf),
    ) as RuleFile['rules'],
  };
}

const NamedThing = z.object({
  kind: z.enum(namedKinds),
  id: z.string(),
  /** As it is written to files. */
  name: z.string(),
  /** Other names by which it is found. */
  others: z.array(z.string()),
  /** Whether rules can name it now; those that do may have been written before it was put away. */
  isUsable: z.boolean(),
});
type NamedThing = z.infer<typeof NamedThing>;

function namedThings(tx: Tx, booksId: BooksId): Promise<NamedThing[]> {
  return rowsOf(
    tx,
    NamedThing,
    sql`select 'account' as kind, id, code || ' ' || name as name, array[code, name] as others,
          is_here and is_on as "isUsable"
        from accounts where books_id = ${booksId}
        union all
        select 'bankAccount', id, name, array_remove(array[number], null), is_here
        from bank_accounts where books_id = ${booksId}
        union all
        select 'payee', id, name, '{}', is_here and merged_into is null
        from payees where books_id = ${booksId}
        union all
        select 'taxCode', id, name, '{}', is_here from tax_codes where books_id = ${booksId}
        union all
        select kind, id, name, '{}', is_here from cost_objects where books_id = ${booksId}`,
  );
}

/** Finds things of the books by the names that a file uses, whatever the case. */
async function idsByName(tx: Tx, booksId: BooksId): Promise<IdOf> {
  const ids = new Map<string, string>();
  const keyOf = (kind: NamedKind, name: string) => `${kind} ${nameKey(name)}`;
  const things = (await namedThings(tx, booksId)).filter(({ isUsable }) => isUsable);
  for (const { kind, id, others } of things)
    for (const name of others) ids.set(keyOf(kind, name), id);
  for (const { kind, id, name } of things) ids.set(keyOf(kind, name), id);
  return (kind, name) => {
    const whole = ids.get(keyOf(kind, name));
    if (whole !== undefined || kind !== 'account') return whole ?? null;
    // Another chart may have given the same code another name, or the same name another code.
    const [code = '', ...words] = name.trim().split(' ');
    return ids.get(keyOf(kind, words.join(' '))) ?? ids.get(keyOf(kind, code)) ?? null;
  };
}

/**
 * Reads the text of a rule file.
 *
 * @throws {ZubrellError} RULE_FILE_UNREADABLE, RULE_FILE_VERSION, RULE_FILE_CURRENCY
 */
async function parsed(tx: Tx, booksId: BooksId, text: string): Promise<readonly FileRule[]> {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    fail('RULE_FILE_UNREADABLE', { detail: error instanceof Error ? error.message : 'no JSON' });
  }
  const { format, version } = (value ?? {}) as { format?: unknown; version?: unknown };
  if (format !== RULE_FILE_FORMAT) {
    fail('RULE_FILE_UNREADABLE', { detail: `its format is not “${RULE_FILE_FORMAT}”` });
  }
  if (version !== RULE_FILE_VERSION) {
    fail('RULE_FILE_VERSION', { version: String(version), known: RULE_FILE_VERSION });
  }
  const file = RuleFile.safeParse(value);
  if (!file.success) {
    const [first] = file.error.issues;
    fail('RULE_FILE_UNREADABLE', {
      detail: `${first?.path.join('.') ?? ''}: ${first?.message ?? ''}`,
    });
  }
  const currency = await booksCurrency(tx, booksId);
  if (file.data.currency !== currency) {
    fail('RULE_FILE_CURRENCY', { file: file.data.currency, currency });
  }
  return file.data.rules;
}

/** What a rule file holds: what it names, and what these books have already. Nothing is changed. */
export async function readRuleFile(tx: Tx, booksId: BooksId, text: string): Promise<RuleFileRead> {
  const rules = await parsed(tx, booksId, text);
  const idOf = await idsByName(tx, booksId);
  const names = namesIn(rules).map(({ kind, name }) => ({ kind, name, id: idOf(kind, name) }));
  const isThere = duplicateOf(await ruleRows(tx, booksId));
  const duplicates = rules.flatMap((rule) => {
    const complete = completed(rule, idOf);
    return complete && isThere(complete) ? [rule.name] : [];
  });
  return { count: rules.length, names, duplicates };
}

function completed(rule: FileRule, idOf: IdOf): ReturnType<typeof fromFileRule> | null {
  try {
    return fromFileRule(rule, idOf);
  } catch (error) {
    if (error instanceof ZubrellError) return null;
    throw error;
  }
}

function duplicateOf(rows: readonly RuleRow[]): (rule: ReturnType<typeof fromFileRule>) => boolean {
  const keys = new Set(rows.map(({ body }) => ruleKey(body)));
  return (rule) => keys.has(ruleKey(rule));
}

/**
 * Imports the rules of a file, in its order, behind those that are there, and off. Those that name something
 * nothing was chosen for are left out and named, and so are duplicates unless they are wanted.
 *
 * @throws {ZubrellError} RULE_FILE_UNREADABLE, RULE_FILE_VERSION, RULE_FILE_CURRENCY
 */
export async function importRules(
  command: BooksCommand,
  { text, choices, withDuplicates }: ImportRules,
): Promise<RulesImported> {
  const { tx, booksId, step } = command;
  const rules = await parsed(tx, booksId, text);
  const named = await idsByName(tx, booksId);
  const chosen = new Map(choices.map(({ kind, name, id }) => [`${kind} ${name}`, id]));
  const idOf: IdOf = (kind, name) => {
    const key = `${kind} ${name}`;
    return chosen.has(key) ? (chosen.get(key) ?? null) : named(kind, name);
  };
  const rows = await ruleRows(tx, booksId);
  const isThere = duplicateOf(rows);
  const books = await ruleBooks(tx, booksId);
  const leftOut: { name: string; message: string }[] = [];
  let rank = rows.at(-1)?.rank ?? 0;
  const changes = rules.flatMap((rule): RuleChange[] => {
    try {
      const { name, ...meaning } = fromFileRule(rule, idOf);
      // Its record stays behind: it has to prove itself here first.
      const body = { ...meaning, after: { kind: 'hold' } as const };
      checkRule(body, books);
      if (!withDuplicates && isThere({ name, ...body })) {
        leftOut.push({ name, message: `“${name}”, which these books have already.` });
        return [];
      }
      rank += 1;
      const after = { name, rank, isOn: false, body, sinceStep: step, against: 0 };
      return [{ thing: 'rule', thingId: randomUUID(), before: null, after }];
    } catch (error) {
      if (!(error instanceof ZubrellError)) throw error;
      leftOut.push({ name: rule.name, message: `“${rule.name}”. ${error.message}` });
      return [];
    }
  });
  const said = say`Imported ${countSaid(changes.length, 'rule', 'rules')}, switched off`;
  const done = await put(command, changes, 'makeRule', said);
  return { step: done.step, words: done.words, imported: changes.length, leftOut };
}
