import type { BankAccountId, BooksId, DocumentId, EntryId, PayeeId } from '@zubrell/core/ids';
import { documentSides } from '@zubrell/core/ledger/documents';
import { ownKinds } from '@zubrell/core/ledger/entries';
import { type Candidate, candidateKinds } from '@zubrell/core/pair/pairing';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { joinOpenDocument, openOfDocument, openWorth } from '../../db/openOfDocument.ts';
import { hasOtherCurrency } from '../../db/otherCurrency.ts';
import { idRow } from '../../db/rows.ts';

/** A candidate with what leads on from it. */
export const BooksCandidate = z.object({
  id: z.string(),
  kind: z.enum(candidateKinds),
  bankAccountId: idRow<BankAccountId>().nullable(),
  date: z.string(),
  dueDate: z.string().nullable(),
  amount: z.int(),
  /** In which it is: that of its bank account or document. */
  currency: z.string(),
  /** It is the half of a move from an account of another currency: what came in only its own line says. */
  isEstimate: z.boolean(),
  /** Of a document: all of it, and what of it was settled before, each with what stands in the books for it. */
  standing: z
    .object({ amount: z.int(), worth: z.int(), settled: z.int(), settledWorth: z.int() })
    .nullable(),
  payeeId: idRow<PayeeId>().nullable(),
  payee: z.string().nullable(),
  number: z.string().nullable(),
  pays: z.array(z.string()),
  entryId: idRow<EntryId>(),
  /** Of a document: with whom. */
  side: z.enum(documentSides).nullable(),
  note: z.string().nullable(),
  /** Of a document: itself, or the one of which the payment may have come back. */
  documentId: idRow<DocumentId>().nullable(),
  /** Of a payment that may have come back: the decision that paid. */
  paymentId: z.string().nullable(),
}) satisfies z.ZodType<Candidate>;
export type BooksCandidate = z.infer<typeof BooksCandidate>;

/** Which candidates are wanted; what is left out wants all. */
export interface CandidatesWanted {
  readonly amounts?: readonly number[];
  /** Documents and receipts of these payees too, whatever their amount. */
  readonly payeeIds?: readonly PayeeId[];
  /** Documents of these numbers too. */
  readonly numbers?: readonly string[];
  readonly ids?: readonly string[];
  /** Whatever else is wanted, payments that may come back only of these amounts. */
  readonly returnedAmounts?: readonly number[];
}

/** The currency of document `d`. */
const documentCurrency: SQL = sql`coalesce(d.exchange ->> 'currency',
  (select k.currency from books k where k.id = d.books_id))`;

/** What stands in the books for document `d`. */
const standingOfDocument: SQL = sql`json_build_object(
  'amount', d.amount, 'worth', coalesce(d.worth, d.amount),
  'settled', d.amount - ${openOfDocument},
  'settledWorth', coalesce(d.worth, d.amount) - ${openWorth})`;

/** The numbers of the documents that entry `e`, made by hand, settles. */
const paidNumbers: SQL = sql`(
  select coalesce(json_agg(distinct d.number), '[]') from legs owed
  join decision_legs x on x.books_id = owed.books_id and x.leg_id = owed.id and x.is_live
  join allocations a on a.books_id = x.books_id and a.decision_id = x.decision_id and a.is_live
  join documents d on d.books_id = a.books_id and d.id = a.document_id and d.number is not null
  where owed.books_id = e.books_id and owed.entry_id = e.id and owed.role = 'control')`;

const some = (values: readonly unknown[], type: string) =>
  sql`any(${sql.param(values)}::${sql.raw(type)}[])`;

/** Entries that the bank has not reported, open documents, and payments that may come back, by date. */
export async function booksCandidates(
  tx: Tx,
  booksId: BooksId,
  wanted: CandidatesWanted,
): Promise<readonly BooksCandidate[]> {
  const found = [
    ...(await unreported(tx, booksId, wanted)),
    ...(await unpaid(tx, booksId, wanted)),
    ...(await paidDocuments(tx, booksId, wanted)),
  ];
  return found.sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0));
}

/** Entries that the bank has not reported. */
export async function unreported(
  tx: Tx,
  booksId: BooksId,
  { amounts, payeeIds = [], ids }: CandidatesWanted,
): Promise<readonly BooksCandidate[]> {
  const isEstimate =
    amounts !== undefined && (await hasOtherCurrency(tx, booksId))
      ? sql`coalesce(there.is_other, false)`
      : sql`false`;
  return rowsOf(
    tx,
    BooksCandidate,
    sql`select g.id, case when e.kind = any(${sql.param(ownKinds)}::text[]) then 'transfer' else e.kind end
            as kind,
          b.id as "bankAccountId", e.date, null as "dueDate", g.own as amount, coalesce(b.currency, k.currency) as currency, null as standing,
          coalesce(there.is_other, false) as "isEstimate",
          coalesce(there.id, p.merged_into, e.payee_id) as "payeeId",
          coalesce(there.name, y.name) as payee, e.number, e.id as "entryId", null as side, e.note, null as "documentId",
          null as "paymentId", ${paidNumbers} as pays
        from untied_legs u
        join legs g on g.books_id = u.books_id and g.id = u.leg_id and g.role = 'bank' and g.own <> 0
        join entries e on e.books_id = g.books_id and e.id = g.entry_id
        join books k on k.id = g.books_id
        join bank_accounts b on b.books_id = g.books_id and b.account_id = g.account_id
        left join payees p on p.books_id = e.books_id and p.id = e.payee_id
        left join payees y on y.books_id = p.books_id and y.id = coalesce(p.merged_into, p.id)
        left join lateral (
          select o.id, o.name, o.currency is distinct from b.currency as is_other from legs x
          join bank_accounts o on o.books_id = x.books_id and o.account_id = x.account_id
          where x.books_id = g.books_id and x.entry_id = g.entry_id and x.id <> g.id
            and x.role = 'bank' limit 1) there on true
        where u.books_id = ${booksId}
          and ${
            amounts === undefined
              ? sql`true`
              : sql`(g.own = ${some(amounts, 'bigint')}
                  or ${isEstimate}
                  or e.kind = 'receipt' and e.payee_id = ${some(payeeIds, 'uuid')})`
          }
          and ${ids === undefined ? sql`true` : sql`g.id = ${some(ids, 'uuid')}`}`,
  );
}

/** Open documents. */
function unpaid(
  tx: Tx,
  booksId: BooksId,
  { amounts, payeeIds = [], numbers = [], ids }: CandidatesWanted,
): Promise<readonly BooksCandidate[]> {
  return rowsOf(
    tx,
    BooksCandidate,
    sql`select * from (
          select d.id, d.kind, null as "bankAccountId", d.date, d.due_date as "dueDate",
            ${openOfDocument}::bigint as amount, ${documentCurrency} as currency, ${standingOfDocument} as standing,
            false as "isEstimate", coalesce(p.merged_into, p.id) as "payeeId",
            y.name as payee, d.number, d.entry_id as "entryId", d.side, d.note, d.id as "documentId",
            null as "paymentId", '[]'::json as pays
          from open_documents od
          join documents d on d.books_id = od.books_id and d.id = od.document_id
          join entries e on e.books_id = d.books_id and e.id = d.entry_id and not e.is_void
          join payees p on p.books_id = d.books_id and p.id = d.payee_id
          join payees y on y.books_id = p.books_id and y.id = coalesce(p.merged_into, p.id)
          where od.books_id = ${booksId} and od.amount <> 0
            and ${ids === undefined ? sql`true` : sql`d.id = ${some(ids, 'uuid')}`}) open
        where ${
          amounts === undefined
            ? sql`true`
            : sql`(amount = ${some(amounts, 'bigint')} or "payeeId" = ${some(payeeIds, 'uuid')}
                  or upper(regexp_replace(number, '^0+|[^0-9A-Za-z]', '', 'g')) = ${some(numbers, 'text')}
                  or ltrim(regexp_replace(number, '[^0-9]', '', 'g'), '0') = ${some(numbers, 'text')})`
        }`,
  );
}

/** Payments of documents that are still in force: each may come back, and then its document is open again. */
async function paidDocuments(
  tx: Tx,
  booksId: BooksId,
  { returnedAmounts, amounts = returnedAmounts, payeeIds = [], ids }: CandidatesWanted,
): Promise<readonly BooksCandidate[]> {
  return rowsOf(
    tx,
    BooksCandidate,
    sql`with fitting as materialized (
          select a.*, coalesce(p.merged_into, p.id) as whose from allocations a
          join documents d on d.books_id = a.books_id and d.id = a.document_id
          join payees p on p.books_id = d.books_id and p.id = d.payee_id
          ${joinOpenDocument}
          where a.books_id = ${booksId} and a.is_live and sign(a.amount) = sign(d.amount)
            and abs(d.amount - ${openOfDocument}) >= abs(a.amount)
            and ${
              amounts === undefined
                ? sql`true`
                : sql`(a.decision_id, a.document_id) in (
                    select decision_id, document_id from allocations
                    where books_id = ${booksId} and is_live and amount = ${some(
                      amounts.map((amount) => -amount),
                      'bigint',
                    )}
                    union
                    select o.decision_id, o.document_id from payees whose
                    join documents n on n.books_id = whose.books_id and n.payee_id = whose.id
                    join allocations o on o.books_id = n.books_id and o.document_id = n.id
                    where whose.books_id = ${booksId}
                      and coalesce(whose.merged_into, whose.id) = ${some(payeeIds, 'uuid')})`
            }
            and ${ids === undefined ? sql`true` : sql`a.id = ${some(ids, 'uuid')}`})
        select a.id, 'returned' as kind, null as "bankAccountId", paid.date,
          null as "dueDate", -a.amount as amount, ${documentCurrency} as currency,
          ${standingOfDocument} as standing, false as "isEstimate", y.id as "payeeId",
          y.name as payee, d.number, d.entry_id as "entryId", d.side, d.note, d.id as "documentId",
          a.decision_id as "paymentId", '[]'::json as pays
        from fitting a
        join documents d on d.books_id = a.books_id and d.id = a.document_id
        join payees y on y.books_id = a.books_id and y.id = a.whose
        ${joinOpenDocument}
        join lateral (
          select max(t.date) as date from (
            select l.date from decision_lines x
            join lines l on l.books_id = x.books_id and l.id = x.line_id
            where x.books_id = a.books_id and x.decision_id = a.decision_id
            union all
            select e.date from decision_legs x
            join legs g on g.books_id = x.books_id and g.id = x.leg_id
            join entries e on e.books_id = g.books_id and e.id = g.entry_id and e.content is not null
            where x.books_id = a.books_id and x.decision_id = a.decision_id) t) paid
          on paid.date is not null`,
  );
}
