import { Balances, Entry, type Outstanding } from '@zubrell/contract/ledger';
import { daysBetween } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import type { BooksId, EntryId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { accountDays } from '../../db/accountDays.ts';
import { rowsOf, type Tx } from '../../db/database.ts';
import { unreported } from './candidates.ts';

const BalancesRow = Balances.shape.balances.element;

/** The balance of every account that has entries, debit positive. */
export async function balances(tx: Tx, booksId: BooksId): Promise<Balances> {
  const rows = await rowsOf(
    tx,
    BalancesRow,
    sql`select account_id as "accountId", sum(amount)::bigint as amount
        from ${accountDays(booksId)} m group by 1`,
  );
  return { balances: rows };
}

const EntryRow = Entry.omit({ legs: true });

const LegRow = Entry.shape.legs.element;

/** An entry with its legs, the lines that it was made from or is paired with, and what it pays. */
export async function entryOf(tx: Tx, booksId: BooksId, entryId: EntryId): Promise<Entry> {
  const [entry] = await rowsOf(
    tx,
    EntryRow,
    sql`select (select last_step from books where id = e.books_id) as "seenStep",
          e.id, e.date, e.kind, e.payee_id as "payeeId", e.note, e.number, e.reference, e.method, e.content, e.exchange,
          e.bank_date as "bankDate", e.is_void as "isVoid", e.step, u.name as who, to_json(s.at) #>> '{}' as at, e.replaces,
          (select n.id from entries n where n.books_id = e.books_id and n.replaces = e.id
            and not n.is_void limit 1) as "replacedBy",
          (select json_build_object('id', r.id, 'date', r.date) from entries r
            where r.books_id = e.books_id and r.id = e.reverses) as reverses,
          (select json_build_object('id', r.id, 'date', r.date) from entries r
            where r.books_id = e.books_id and r.reverses = e.id and not r.is_void) as "reversedBy",
          (select json_build_object('id', p.id, 'name', p.name, 'date', e.plan_date)
            from journal_plans p where p.books_id = e.books_id and p.id = e.plan_id) as plan,
          (select coalesce(json_agg(distinct jsonb_build_object('id', l.id, 'date', l.date,
              'amount', l.amount, 'description', l.description)), '[]')
            from legs g
            join decision_legs x on x.books_id = g.books_id and x.leg_id = g.id and x.is_live
            join decision_lines dl
              on dl.books_id = x.books_id and dl.decision_id = x.decision_id and dl.is_live
            join lines l on l.books_id = dl.books_id and l.id = dl.line_id
            where g.books_id = e.books_id and g.entry_id = e.id) as lines,
          (select json_build_object('id', d.id, 'kind', d.kind, 'number', d.number)
            from documents d
            where d.books_id = e.books_id and d.entry_id = e.id and d.kind <> 'credit') as document,
          (select coalesce(json_agg(distinct jsonb_build_object('id', d.id, 'kind', d.kind,
              'number', d.number)), '[]')
            from legs g
            join decision_legs x on x.books_id = g.books_id and x.leg_id = g.id
            join allocations a on a.books_id = x.books_id and a.decision_id = x.decision_id
            join documents d on d.books_id = a.books_id and d.id = a.document_id
            where g.books_id = e.books_id and g.entry_id = e.id) as pays,
          array(select json_build_object('id', t.id, 'fileName', t.file_name)
            from attachments t where t.books_id = e.books_id and t.entry_id = e.id
            order by t.at, t.id) as attachments
        from entries e
        join steps s on s.books_id = e.books_id and s.no = e.step
        join users u on u.id = s.user_id
        where e.books_id = ${booksId} and e.id = ${entryId}`,
  );
  if (!entry) fail('ENTRY_UNKNOWN');
  const legs = await rowsOf(
    tx,
    LegRow,
    sql`select id, account_id as "accountId", amount, original, tax_code_id as "taxCodeId", role,
          cost_centre_id as "costCentreId", job_id as "jobId", is_recharged as "isRecharged",
          array(select json_build_object('clientId', s.client_id, 'amount', s.amount)
            from client_shares s where s.books_id = legs.books_id and s.leg_id = legs.id
            order by s.amount) as clients
        from legs where books_id = ${booksId} and entry_id = ${entryId} order by position`,
  );
  return { ...entry, legs };
}

/** A cheque that nobody has presented for so many days may never be. */
const STALE = 182;

/** Entries that the bank has not reported, the oldest first. */
export async function outstanding(tx: Tx, booksId: BooksId, today: string): Promise<Outstanding> {
  const entries = (await unreported(tx, booksId, {})).map(
    ({ id, entryId, kind, bankAccountId, date, amount, number, payee }) => {
      const age = daysBetween(date, today);
      const isStale = kind === 'cheque' && age > STALE;
      const where = { bankAccountId: bankAccountId ?? '', legId: id, entryId };
      return { ...where, kind, date, amount, number, payee, age, isStale };
    },
  );
  return { entries: entries.sort((a, b) => b.age - a.age) };
}
