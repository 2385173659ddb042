import { randomUUID } from 'node:crypto';
import { AccountType } from '@zubrell/contract/books';
import type { Imported } from '@zubrell/contract/ledger';
import type { AccountId } from '@zubrell/core/ids';
import { type PlacedChartRow, readChart } from '@zubrell/core/ledger/chartFile';
import { type ChartPlace, misplaced } from '@zubrell/core/ledger/chartPlace';
import type { RecordProblem } from '@zubrell/core/ledger/readRecords';
import { countSaid, say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { bulkInsert } from '../../db/bulkInsert.ts';
import { rowsOf } from '../../db/database.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordDone, type StepItem } from '../steps/recordStep.ts';
import { AccountState } from './changeThings.ts';
import { checkMayMakeAccounts } from './makeThings.ts';

const KnownRow = AccountState.extend({ id: z.string(), type: AccountType });
type KnownRow = z.infer<typeof KnownRow>;

/** An account of a file, as it is to be, and as it was where it is there. */
interface ChartChange {
  readonly row: number;
  readonly id: AccountId;
  readonly type: AccountType;
  readonly before: AccountState | null;
  readonly after: AccountState;
}

/**
 * Takes a chart of accounts in as one step: accounts that are there get name, place, tax and words of the file, the
 * others are made. Where anything is wrong, nothing is kept, and everything that is wrong is said.
 *
 * @throws {ZubrellError} ACCOUNTS_WITHHELD
 */
export async function importChart(command: BooksCommand, text: string): Promise<Imported> {
  const { tx, booksId } = command;
  await checkMayMakeAccounts(command);
  const { rows, problems } = readChart(text);
  const known = await rowsOf(
    tx,
    KnownRow,
    sql`select id, code, parent_id as "parentId", name, type, purpose, role, tax, is_on as "isOn",
          merged_into as "mergedInto"
        from accounts where books_id = ${booksId} and is_here`,
  );
  const { changes, problems: others } = changesOf(rows, known);
  const found = [...problems, ...others];
  const real = changes.filter(
    ({ before, after }) => JSON.stringify(before) !== JSON.stringify(after),
  );
  if (found.length > 0 || real.length === 0) return nothing(found);
  await write(command, real);
  const words = say`Imported ${countSaid(real.length, 'account', 'accounts')}`;
  const items = real.map(
    ({ id, type, before, after }): StepItem => ({
      thing: 'account',
      thingId: id,
      before,
      after: before ? after : { ...after, type },
    }),
  );
  const done = await recordDone(command, { kind: 'importAccounts', words, items });
  return { ...done, count: real.length, problems: [], newPayees: [] };
}

function nothing(problems: readonly RecordProblem[]): Imported {
  const sorted = [...problems].sort((a, b) => a.row - b.row);
  return { step: null, words: 'Nothing changed', count: 0, problems: sorted, newPayees: [] };
}

/** What a file makes of the accounts that are there, and what in it can't be. */
function changesOf(
  rows: readonly PlacedChartRow[],
  known: readonly KnownRow[],
): { readonly changes: readonly ChartChange[]; readonly problems: readonly RecordProblem[] } {
  const problems: RecordProblem[] = [];
  const byCode = new Map(known.map((account) => [account.code, account]));
  const ids = new Map(known.map(({ code, id }) => [code, id]));
  for (const { code } of rows) if (!ids.has(code)) ids.set(code, randomUUID());
  const changes = rows.map(({ row, code, name, type, below, tax, purpose }): ChartChange => {
    const there = byCode.get(code);
    if (there && there.type !== type) {
      const message = `Account ${code} is of the type ${there.type}, which can’t change to ${type}.`;
      problems.push({ row, message });
    }
    const above = below === null ? null : byCode.get(below);
    if (below !== null && (!ids.has(below) || above?.mergedInto)) {
      problems.push({ row, message: `There is no account ${below} to be below.` });
    }
    const parentId = (below === null ? null : ids.get(below)) ?? null;
    const given = { code, parentId, name, purpose, tax };
    const id = ids.get(code) ?? '';
    if (!there) {
      const after = { ...given, role: null, isOn: true, mergedInto: null };
      return { row, id, type, before: null, after };
    }
    if (there.mergedInto !== null) {
      problems.push({ row, message: `Account ${code} was merged into another. Use that one.` });
    }
    const { id: _, type: __, ...before } = there;
    return { row, id, type: there.type, before, after: { ...before, ...given } };
  });
  const chart = new Map<AccountId, ChartPlace>(
    [...known, ...changes.map(({ id, type, after }) => ({ id, type, ...after }))].map((account) => [
      account.id,
      account,
    ]),
  );
  for (const { row, id, before, after } of changes) {
    const why = misplaced(chart, id, before?.parentId ?? null);
    if (why === null) continue;
    const what = why === 'belowItself' ? 'itself' : 'an account of another type';
    problems.push({ row, message: `Account ${after.code} can’t be below ${what}.` });
  }
  return { changes, problems };
}

/** Writes accounts; where one takes another tax now, what is proposed is made anew. */
async function write(command: BooksCommand, changes: readonly ChartChange[]): Promise<void> {
  const { tx, booksId, follow } = command;
  const columns = {
    books_id: 'uuid',
    id: 'uuid',
    code: 'text',
    name: 'text',
    type: 'text',
    tax: 'text',
    purpose: 'text',
  } as const;
  const made = changes.filter(({ before }) => before === null);
  await bulkInsert(
    tx,
    'accounts',
    columns,
    made.map(({ id, type, after: { code, name, tax, purpose } }) => ({
      books_id: booksId,
      id,
      code,
      name,
      type,
      tax,
      purpose,
    })),
  );
  // Places come last, so that accounts can stand below each other in any order.
  const of = (key: 'name' | 'tax' | 'purpose' | 'parentId') =>
    sql.param(changes.map(({ after }) => after[key]));
  await tx.execute(
    sql`update accounts a set name = c.name, tax = c.tax, purpose = c.purpose, parent_id = c.parent_id
        from unnest(${sql.param(changes.map(({ id }) => id))}::uuid[], ${of('name')}::text[], ${of('tax')}::text[],
          ${of('purpose')}::text[], ${of('parentId')}::uuid[]) as c (id, name, tax, purpose, parent_id)
        where a.books_id = ${booksId} and a.id = c.id`,
  );
  const isTaxed = changes.some(({ before, after }) => before !== null && before.tax !== after.tax);
  if (isTaxed) await follow.allChanged(command);
}
