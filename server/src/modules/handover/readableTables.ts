import type { BooksId } from '@zubrell/core/ids';
import { minorDigits } from '@zubrell/core/money/minor';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { joinOpenDocument, openOfDocument } from '../../db/openOfDocument.ts';
import type { ArchivePeriod } from './gatherArchive.ts';

/** A file of an archive that is for people: the table that it is gathered in, its name, and what it holds. */
export interface ReadableFile {
  readonly table: string;
  readonly name: string;
  readonly what: string;
}

const FILES: readonly ReadableFile[] = [
  { table: 'read_journal', name: 'journal.csv', what: 'Every entry, leg by leg' },
  { table: 'read_balances', name: 'trial-balance.csv', what: 'Balances on the last day' },
  { table: 'read_accounts', name: 'accounts.csv', what: 'The chart of accounts' },
  { table: 'read_lines', name: 'lines.csv', what: 'The bank’s lines, with what was decided' },
  { table: 'read_statements', name: 'statements.csv', what: 'Statements that were agreed' },
  { table: 'read_documents', name: 'documents.csv', what: 'Bills, invoices and credit notes' },
  { table: 'read_clients', name: 'clients-money.csv', what: 'Clients’ money on the last day' },
  { table: 'read_history', name: 'history.csv', what: 'Who did what, and when' },
  { table: 'read_attachments', name: 'attachments.csv', what: 'What each attachment is kept with' },
];

const CurrencyRow = z.object({ currency: z.string() });

/** Gathers what people read in an archive in tables of this transaction, after its rows were gathered. */
export async function gatherReadable(
  tx: Tx,
  booksId: BooksId,
  { from, to }: ArchivePeriod,
): Promise<readonly ReadableFile[]> {
  const currencies = await rowsOf(
    tx,
    CurrencyRow,
    sql`select currency from books where id = ${booksId}
        union select currency from bank_accounts where books_id = ${booksId} and currency is not null
        union select exchange ->> 'currency' from documents
          where books_id = ${booksId} and exchange is not null`,
  );
  const digits = (currency: SQL) =>
    sql`(case ${currency} ${sql.join(
      currencies.map(
        (each) => sql`when ${each.currency} then ${sql.raw(String(minorDigits(each.currency)))}`,
      ),
      sql` `,
    )} else 2 end)`;
  const own = sql`(select currency from books where id = ${booksId})`;
  /** An amount as a decimal. */
  const decimal = (amount: SQL, currency: SQL = own) =>
    sql`round(${amount} / power(10::numeric, ${digits(currency)}), ${digits(currency)})`;
  const make = (table: string, query: SQL) =>
    tx.execute(sql`create temporary table ${sql.identifier(table)} on commit drop as ${query}`);

  await make(
    'read_journal',
    sql`select e.date as "Date", e.kind as "Kind", ${text(sql`e.number`)} as "Number",
          ${text(sql`p.name`)} as "Payee", ${text(sql`coalesce(e.note, e.reference)`)} as "Note",
          a.code as "Account", ${text(sql`a.name`)} as "Account name",
          case when g.amount > 0 then ${decimal(sql`g.amount`)} end as "Debit",
          case when g.amount < 0 then ${decimal(sql`-g.amount`)} end as "Credit",
          t.name as "Tax code", cc.name as "Cost centre", job.name as "Job", e.id as "Entry"
        from out_legs g
        join out_entries e on e.id = g.entry_id
        join out_accounts a on a.id = g.account_id
        left join out_payees p on p.id = e.payee_id
        left join out_tax_codes t on t.id = g.tax_code_id
        left join out_cost_objects cc on cc.id = g.cost_centre_id
        left join out_cost_objects job on job.id = g.job_id
        order by e.date, e.id, g.position`,
  );
  await make(
    'read_balances',
    sql`select a.code as "Account", ${text(sql`a.name`)} as "Account name", a.type as "Type",
          case when b.amount > 0 then ${decimal(sql`b.amount`)} end as "Debit",
          case when b.amount < 0 then ${decimal(sql`-b.amount`)} end as "Credit"
        from ${balancesOn(booksId, to)} b join out_accounts a on a.id = b.account_id order by a.code`,
  );
  await make(
    'read_accounts',
    sql`select a.code as "Account", ${text(sql`a.name`)} as "Account name", a.type as "Type",
          o.code as "Below", ${text(sql`a.purpose`)} as "What goes there", a.role as "Used for",
          a.is_on as "In use"
        from out_accounts a left join out_accounts o on o.id = a.parent_id order by a.code`,
  );
  const bankCurrency = sql`coalesce(b.currency, ${own})`;
  await make(
    'read_lines',
    sql`select ${text(sql`b.name`)} as "Bank account", l.date as "Date",
          ${decimal(sql`l.amount`, bankCurrency)} as "Amount", ${bankCurrency} as "Currency",
          ${text(sql`l.description`)} as "Wording", ${text(sql`l.reference`)} as "Reference",
          coalesce(d.kind, 'open') as "Decided", ${text(sql`p.name`)} as "Payee",
          (select string_agg(a.code || ' ' || a.name, ', ' order by part.at)
            from jsonb_array_elements(d.coding -> 'parts') with ordinality as part (coded, at)
            join out_accounts a on a.id = (part.coded ->> 'accountId')::uuid) as "Accounts",
          d.reason as "Why kept out", u.name as "Decided by",
          to_char(s.at, 'YYYY-MM-DD') as "Decided on"
        from out_lines l
        join out_bank_accounts b on b.id = l.bank_account_id
        left join out_decision_lines dl on dl.line_id = l.id
        left join out_decisions kept on kept.id = dl.decision_id
        left join decisions d on d.books_id = ${booksId} and d.id = kept.id
        left join steps s on s.books_id = ${booksId} and s.no = d.step
        left join users u on u.id = s.user_id
        left join out_payees p on p.id = (d.coding ->> 'payeeId')::uuid
        order by b.name, l.date, l.position, l.id`,
  );
  await make(
    'read_statements',
    sql`select ${text(sql`b.name`)} as "Bank account", s.from_date as "From", s.to_date as "To",
          ${decimal(sql`s.agreed_opening`, bankCurrency)} as "Opening balance",
          ${decimal(sql`s.agreed_closing`, bankCurrency)} as "Closing balance",
          ${bankCurrency} as "Currency", u.name as "Agreed by",
          to_char(s.agreed_at, 'YYYY-MM-DD') as "Agreed on"
        from statements s
        join bank_accounts b on b.books_id = s.books_id and b.id = s.bank_account_id
        left join users u on u.id = s.agreed_by
        where s.books_id = ${booksId} and s.is_here and s.agreed_step is not null
          and s.to_date between ${from} and ${to}
        order by b.name, s.to_date`,
  );
  const documentCurrency = sql`coalesce(d.exchange ->> 'currency', ${own})`;
  await make(
    'read_documents',
    sql`select o.kind as "Kind", ${text(sql`o.number`)} as "Number", ${text(sql`p.name`)} as "Payee",
          o.date as "Date", o.due_date as "Due", ${decimal(sql`d.amount`, documentCurrency)} as "Amount",
          ${decimal(openOfDocument, documentCurrency)} as "Open today",
          ${documentCurrency} as "Currency", ${text(sql`o.note`)} as "Note"
        from out_documents o
        join documents d on d.books_id = ${booksId} and d.id = o.id
        ${joinOpenDocument}
        left join out_payees p on p.id = o.payee_id
        order by o.date, o.number, o.id`,
  );
  await make(
    'read_clients',
    sql`select ${text(sql`b.name`)} as "Bank account", ${text(sql`p.name`)} as "Client",
          ${decimal(sql`sum(m.amount)`, bankCurrency)} as "Held", ${bankCurrency} as "Currency"
        from client_movements m
        join bank_accounts b on b.books_id = m.books_id and b.account_id = m.account_id
        join payees p on p.books_id = m.books_id and p.id = m.client_id
        where m.books_id = ${booksId} and m.date <= ${to}
        group by b.name, b.currency, p.name, p.id having sum(m.amount) <> 0 order by b.name, p.name`,
  );
  await make(
    'read_history',
    sql`select s.no as "Step", to_char(s.at, 'YYYY-MM-DD HH24:MI') as "When", u.name as "Who",
          s.kind as "Kind", ${text(sql`s.words`)} as "What", s.undoes as "Undoes", s.redoes as "Redoes"
        from steps s join users u on u.id = s.user_id
        where s.books_id = ${booksId} order by s.no`,
  );
  await make(
    'read_attachments',
    sql`select 'attachments/' || t.id || '/' || t.file_name as "File",
          ${text(sql`coalesce(l.description, d.kind || ' ' || coalesce(d.number, ''), 'entry')`)}
            as "Kept with",
          coalesce(l.date, d.date, e.date) as "Of", u.name as "Added by",
          to_char(t.at, 'YYYY-MM-DD') as "Added on"
        from out_attachments t
        join attachments w on w.books_id = ${booksId} and w.id = t.id
        join users u on u.id = w.added_by
        left join out_lines l on l.id = t.line_id
        left join out_documents d on d.id = t.document_id
        left join out_entries e on e.id = t.entry_id
        order by 3, 1`,
  );
  return FILES;
}

/** The balances of all accounts at the end of a day, debit positive, without those that are nil. */
export const balancesOn = (booksId: BooksId, day: string): SQL => sql`(
  select account_id, sum(amount)::bigint as amount from movements
  where books_id = ${booksId} and date <= ${day} group by 1 having sum(amount) <> 0)`;

/** A text that no spreadsheet takes for a formula. */
const text = (value: SQL): SQL => sql`regexp_replace(${value}, '^([=+@\\t\\r-])', '''\\1')`;
