import { Evidence } from '@zubrell/contract/habits';
import { fail } from '@zubrell/core/errors';
import type { BooksId, LineId } from '@zubrell/core/ids';
import { textOf, wordingFeatures } from '@zubrell/core/propose/habit/features';
import { weightsOf } from '@zubrell/core/propose/habit/predict';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { habitLineColumns } from '../lines/lineColumns.ts';
import { habitsOf } from './booksMemory.ts';

/** So many decided lines are shown as evidence. */
const SHOWN = 12;

const LineRow = z.object(habitLineColumns);

const EvidenceRow = Evidence.shape.lines.element.omit({ share: true, accountId: true });

/** The decided lines that speak most for what is proposed for a line. @throws {ZubrellError} LINE_UNKNOWN */
export async function evidenceOf(tx: Tx, booksId: BooksId, lineId: LineId): Promise<Evidence> {
  const [line] = await rowsOf(
    tx,
    LineRow,
    sql`select date, amount, description, reference, payee, bank_account_id as "bankAccountId"
        from lines where books_id = ${booksId} and id = ${lineId}`,
  );
  if (!line) fail('LINE_UNKNOWN');
  const { ask } = await habitsOf(tx, booksId);
  const weights = ask((memory) => weightsOf(memory, line, wordingFeatures(textOf(line))));
  const witnesses = weights.filter(({ example }) => example.id !== lineId);
  const total = witnesses.reduce((sum, { weight }) => sum + weight, 0) || 1;
  const best = [...witnesses].sort((a, b) => b.weight - a.weight).slice(0, SHOWN);
  const shares = new Map(best.map(({ example, weight }) => [example.id, weight / total]));
  const accounts = new Map(best.map(({ example }) => [example.id, example.accountId]));
  const rows = await rowsOf(
    tx,
    EvidenceRow,
    sql`select id, date, amount, description from lines
        where books_id = ${booksId} and id = any(${sql.param([...shares.keys()])}::uuid[])`,
  );
  const lines = rows.map((row) => ({
    ...row,
    share: shares.get(row.id) ?? 0,
    accountId: accounts.get(row.id) ?? '',
  }));
  return { lines: lines.sort((a, b) => b.share - a.share) };
}
