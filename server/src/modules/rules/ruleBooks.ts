import type { RuleBooks } from '@zubrell/core/propose/rule/checkRule';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';

/** What of these books rules may name. */
export async function ruleBooks(tx: Tx, booksId: string): Promise<RuleBooks> {
  const rows = await rowsOf<{ kind: string; id: string; name: string }>(
    tx,
    sql`select 'account' as kind, id, '' as name from accounts where books_id = ${booksId} and is_here
        union all select 'payee', id, '' from payees where books_id = ${booksId} and is_here
        union all select 'taxCode', id, '' from tax_codes where books_id = ${booksId}
        union all select 'costObject', id, '' from cost_objects where books_id = ${booksId} and is_here
        union all select 'bankAccount', id, name from bank_accounts where books_id = ${booksId} and is_here`,
  );
  const there = new Set(rows.map(({ kind, id }) => `${kind} ${id}`));
  const names = new Map(
    rows.flatMap(({ kind, id, name }) => (kind === 'bankAccount' ? [[id, name] as const] : [])),
  );
  return {
    hasAccount: (id) => there.has(`account ${id}`),
    hasPayee: (id) => there.has(`payee ${id}`),
    hasTaxCode: (id) => there.has(`taxCode ${id}`),
    hasCostObject: (id) => there.has(`costObject ${id}`),
    bankAccountName: (id) => names.get(id) ?? null,
  };
}
