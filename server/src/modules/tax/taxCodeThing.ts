import { GivenTaxCode } from '@zubrell/contract/books';
import { sql } from 'drizzle-orm';
import { bulkInsert } from '../../db/bulkInsert.ts';
import { entriesWhere, madeThing, rulesNaming } from '../books/bookThings.ts';
import { EVER, ratesOf } from '../books/taxRates.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';

/** Tax codes. */
export const taxCodeThing = madeThing({
  thing: 'taxCode',
  table: 'tax_codes',
  state: sql`jsonb_build_object('name', t.name, 'kind', t.kind, 'use', t.use, 'rates', ${ratesOf},
    'inputAccountId', t.input_account_id, 'outputAccountId', t.output_account_id,
    'recoverable', t.recoverable, 'boxes', t.boxes, 'isOn', t.is_on)`,
  isSame: sql`lower(t.name) = lower(o.name)`,
  uses: (booksId) => sql`
    ${entriesWhere(booksId, sql`g.tax_code_id = t.id`)}
    union all ${rulesNaming(booksId)}`,
  change: (command, id, before, after) =>
    setTaxCode(command, id, GivenTaxCode.parse(before), GivenTaxCode.parse(after)),
});

/** Writes what a tax code changed to. What was posted with it stays; where it can be proposed elsewhere, that is made anew. */
export async function setTaxCode(
  command: BooksCommand,
  id: string,
  before: GivenTaxCode,
  after: GivenTaxCode,
): Promise<void> {
  const { tx, booksId, follow } = command;
  const { name, kind, use, rates, recoverable, boxes, isOn, ...accounts } = after;
  await tx.execute(
    sql`update tax_codes set name = ${name}, kind = ${kind}, use = ${use}, recoverable = ${recoverable},
          input_account_id = ${accounts.inputAccountId}, output_account_id = ${accounts.outputAccountId},
          boxes = ${JSON.stringify(boxes)}::jsonb, is_on = ${isOn}
        where books_id = ${booksId} and id = ${id}`,
  );
  await tx.execute(sql`delete from tax_rates where books_id = ${booksId} and tax_code_id = ${id}`);
  await insertRates(command, id, rates);
  if (before.use !== use || before.isOn !== isOn) await follow.allChanged(command);
}

/** Writes the rates of a tax code that has none yet. */
export async function insertRates(
  { tx, booksId }: BooksCommand,
  id: string,
  rates: GivenTaxCode['rates'],
): Promise<void> {
  await bulkInsert(
    tx,
    'tax_rates',
    { books_id: 'uuid', tax_code_id: 'uuid', from_date: 'date', rate: 'integer' },
    rates.map(({ fromDate, rate }) => ({
      books_id: booksId,
      tax_code_id: id,
      from_date: fromDate ?? EVER,
      rate,
    })),
  );
}
