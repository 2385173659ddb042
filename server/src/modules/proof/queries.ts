import { OutstandingItem, type Scope } from '@zubrell/contract/desk';
import type { BankAccountId, BooksId } from '@zubrell/core/ids';
import { ownKinds } from '@zubrell/core/ledger/entries';
import { type Proof, prove, sumProofs } from '@zubrell/core/proof/prove';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx, together } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import { booksCurrency } from '../books/queries.ts';
import { isWeighed } from '../decisions/isWeighed.ts';
import { bankDays } from './bankDays.ts';
import { explainedBreaks } from './explainedBreaks.ts';
import { accountTable, type ProofAccount, proofAccounts } from './proofAccounts.ts';
import { proofItems } from './proofItems.ts';

const SumsRow = z.object({
  bankAccountId: idRow<BankAccountId>(),
  currency: z.string(),
  date: z.string(),
  calculated: z.int(),
  open: z.int(),
  openCount: z.int(),
  keptOut: z.int(),
  keptOutCount: z.int(),
  books: z.int(),
  statedDate: z.string().nullable(),
  statedAmount: z.int().nullable(),
  since: z.int(),
  sinceCount: z.int(),
});
type SumsRow = z.infer<typeof SumsRow>;

/**
 * The proof of the bank accounts in a scope on its last day, or on each account's last day with a
 * line, an entry or a stated balance; null where there is none.
 */
export async function scopeProof(tx: Tx, booksId: BooksId, scope: Scope): Promise<Proof | null> {
  const accounts = await proofAccounts(tx, booksId, scope);
  if (accounts.length === 0) return null;
  const [sums, items] = await together(
    accountSums(tx, booksId, accounts),
    proofItems(tx, booksId, accounts),
  );
  const isBroken = sums.some(({ statedAmount, since, calculated }) =>
    statedAmount === null ? false : statedAmount + since !== calculated,
  );
  const breaks = isBroken ? await explainedBreaks(tx, booksId) : null;
  const places = accounts.map(({ id }) => id);
  sums.sort((a, b) => places.indexOf(a.bankAccountId) - places.indexOf(b.bankAccountId));
  const proofs = sums.map(({ statedDate, statedAmount, since, sinceCount, ...terms }) => {
    const own = items.filter(({ bankAccountId }) => bankAccountId === terms.bankAccountId);
    const waiting = own.filter(({ kind }) => kind === 'outstanding');
    const proof = prove({
      ...terms,
      outstanding: waiting.reduce((sum, { amount }) => sum + amount, 0),
      outstandingCount: waiting.length,
      causes: own.flatMap(({ kind, ...item }) =>
        kind === 'outstanding' ? [] : [{ ...item, kind, since: null, likely: null }],
      ),
      stated:
        statedDate === null || statedAmount === null
          ? null
          : { date: statedDate, amount: statedAmount, since, sinceCount },
    });
    const broken = breaks?.get(terms.bankAccountId);
    if (!broken) return proof;
    const causes = proof.causes.map((cause) =>
      cause.kind === 'bankDiffers' ? { ...cause, ...broken } : cause,
    );
    return { ...proof, causes };
  });
  const [first] = proofs;
  if (!first) return null;
  const days = proofs.map(({ date }) => date).sort();
  return proofs.length === 1
    ? first
    : sumProofs(proofs, days.at(-1) ?? first.date, await booksCurrency(tx, booksId));
}

const EntryRow = OutstandingItem.pick({ kind: true, number: true, payee: true }).extend({
  id: z.string(),
});

/** What may rightly wait for the bank: just what the proof sums as outstanding, the oldest first. */
export async function outstandingItems(
  tx: Tx,
  booksId: BooksId,
  scope: Scope,
): Promise<OutstandingItem[]> {
  const accounts = await proofAccounts(tx, booksId, scope);
  const items = (await proofItems(tx, booksId, accounts)).filter(
    ({ kind }) => kind === 'outstanding',
  );
  const ids = items.flatMap(({ entryId }) => entryId ?? []);
  const entries = await rowsOf(
    tx,
    EntryRow,
    sql`select e.id, case when e.kind = any(${sql.param(ownKinds)}::text[]) then 'transfer' else e.kind end
            as kind, e.number, y.name as payee
        from entries e
        left join payees p on p.books_id = e.books_id and p.id = e.payee_id
        left join payees y on y.books_id = p.books_id and y.id = coalesce(p.merged_into, p.id)
        where e.books_id = ${booksId} and e.id = any(${sql.param(ids)}::uuid[])`,
  );
  const byId = new Map(entries.map(({ id, ...facts }) => [id, facts]));
  const nothing = { kind: null, number: null, payee: null };
  return items
    .map(({ kind: _kind, ...item }) => ({ ...item, ...(byId.get(item.entryId ?? '') ?? nothing) }))
    .sort((a, b) => (a.date < b.date ? -1 : 1));
}

/** What the bank and the ledger come to, each from its own rows. */
function accountSums(
  tx: Tx,
  booksId: BooksId,
  accounts: readonly ProofAccount[],
): Promise<SumsRow[]> {
  return rowsOf(
    tx,
    SumsRow,
    sql`with account as materialized (
          select a.*, s.date as stated_date, s.amount as stated from ${accountTable(accounts)}
        left join lateral (
          select * from (
            select b.closing_date as date, b.closing as amount, b.created_at, 0 as rank
            from batches b
            where b.books_id = ${booksId} and b.bank_account_id = a.id and b.status = 'kept'
              and b.closing is not null and b.closing_date <= a.day
            union all
            select y.date, y.amount, b.created_at, 1
            from batches b
            join day_balances y on y.books_id = b.books_id and y.batch_id = b.id
            where b.books_id = ${booksId} and b.bank_account_id = a.id and b.status = 'kept'
              and y.date <= a.day) told
          order by date desc, created_at desc, rank limit 1) s on true
          where a.day is not null
        ), line as (
          select d.* from account a
          join ${bankDays(booksId)} d on d.bank_account_id = a.id
          where d.date <= a.day and (a.opening_date is null or d.date > a.opening_date) and ${isWeighed}
        )
        select a.id as "bankAccountId", a.currency, a.day as date, a.stated_date as "statedDate",
          a.stated as "statedAmount",
          coalesce(sum(t.amount) filter (where t.date > a.stated_date), 0)::bigint as since,
          coalesce(sum(t.count) filter (where t.date > a.stated_date), 0)::int as "sinceCount",
          (a.opening + coalesce(sum(t.amount), 0))::bigint as calculated,
          coalesce(sum(t.amount) filter (where t.kind is null), 0)::bigint as open,
          coalesce(sum(t.count) filter (where t.kind is null), 0)::int as "openCount",
          coalesce(sum(t.amount) filter (where t.kind in ('excluded', 'deleted')), 0)::bigint
            as "keptOut",
          coalesce(sum(t.count) filter (where t.kind in ('excluded', 'deleted')), 0)::int as "keptOutCount",
          (select coalesce(sum(m.own), 0) from moved_days m
            where m.books_id = ${booksId} and m.account_id = a.account_id
              and m.date <= a.day)::bigint as books
        from account a
        left join line t on t.bank_account_id = a.id
        group by a.id, a.account_id, a.currency, a.day, a.opening, a.stated_date, a.stated`,
  );
}
