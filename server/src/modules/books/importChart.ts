import { randomUUID } from 'node:crypto';
import type { Imported } from '@zubrell/contract/ledger';
import { ZubrellError } from '@zubrell/core/errors';
import { type PlacedChartRow, readChart } from '@zubrell/core/ledger/chartFile';
import type { RecordProblem } from '@zubrell/core/ledger/readRecords';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import { accounts } from '../../db/schema/books.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { recordDone, type StepItem } from '../steps/recordStep.ts';
import { AccountState, checkPlace, setAccount } from './changeThings.ts';
import { checkMayMakeAccounts } from './makeThings.ts';

const KnownRow = AccountState.extend({ id: z.string(), type: z.string() });
type KnownRow = z.infer<typeof KnownRow>;

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
    sql`select id, code, parent_id as "parentId", name, type, purpose, role, tax, is_on as "isOn"
        from accounts where books_id = ${booksId} and is_here`,
  );
  const byCode = new Map(known.map((account) => [account.code, account]));
  const ids = new Map(rows.map(({ code }) => [code, byCode.get(code)?.id ?? randomUUID()]));
  const idOf = (code: string) => ids.get(code) ?? byCode.get(code)?.id ?? null;
  const found: RecordProblem[] = [...problems];
  for (const { row, code, type, below } of rows) {
    const before = byCode.get(code);
    if (before && before.type !== type) {
      const message = `Account ${code} is of the type ${before.type}, which can’t change to ${type}.`;
      found.push({ row, message });
    }
    if (below !== null && idOf(below) === null) {
      found.push({ row, message: `There is no account ${below} to stand below.` });
    }
  }
  if (found.length > 0 || rows.length === 0) return nothing(found);
  const items = await write(command, rows, { byCode, idOf });
  for (const { row, code, name, type, below } of rows) {
    try {
      const parentId = below === null ? null : idOf(below);
      await checkPlace(tx, booksId, { id: idOf(code) ?? '', code, name, type, parentId });
    } catch (error) {
      if (!(error instanceof ZubrellError)) throw error;
      throw new ZubrellError('CHART_ROW', { row, message: error.message });
    }
  }
  if (items.length === 0) return nothing([]);
  const words = `Imported ${items.length === 1 ? '1 account' : `${items.length} accounts`}`;
  const done = await recordDone(command, { kind: 'importAccounts', words, items });
  return { ...done, count: items.length, problems: [], newPayees: [] };
}

function nothing(problems: readonly RecordProblem[]): Imported {
  const sorted = [...problems].sort((a, b) => a.row - b.row);
  return { step: null, words: 'Nothing changed', count: 0, problems: sorted, newPayees: [] };
}

/** Writes accounts first without their places, so that they can stand below each other in any order. */
async function write(
  command: BooksCommand,
  rows: readonly PlacedChartRow[],
  {
    byCode,
    idOf,
  }: {
    readonly byCode: ReadonlyMap<string, KnownRow>;
    readonly idOf: (code: string) => string | null;
  },
): Promise<StepItem[]> {
  const { tx, booksId } = command;
  const items: StepItem[] = [];
  const made = rows.filter(({ code }) => !byCode.has(code));
  if (made.length > 0) {
    await tx.insert(accounts).values(
      made.map(({ code, name, type, tax, purpose }) => ({
        booksId,
        id: idOf(code) ?? randomUUID(),
        code,
        name,
        type,
        tax,
        purpose,
      })),
    );
  }
  for (const { code, name, type, below, tax, purpose } of rows) {
    const id = idOf(code) ?? '';
    const parentId = below === null ? null : idOf(below);
    const there = byCode.get(code);
    if (there) {
      const { id: _, type: __, ...before } = there;
      const after = { ...before, name, parentId, tax, purpose };
      if (JSON.stringify(before) === JSON.stringify(after)) continue;
      await setAccount(command, id, before, after);
      items.push({ thing: 'account', thingId: id, before, after });
      continue;
    }
    const fresh = { code, name, purpose, role: null, tax, isOn: true };
    await setAccount(command, id, { ...fresh, parentId: null }, { ...fresh, parentId });
    items.push({
      thing: 'account',
      thingId: id,
      before: null,
      after: { ...fresh, type, parentId },
    });
  }
  return items;
}
