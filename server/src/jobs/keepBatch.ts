import { randomUUID } from 'node:crypto';
import { type ErrorCode, type ErrorParams, fail, ZubrellError } from '@zubrell/core/errors';
import { type BankFile, type BankStatement, refusedOf } from '@zubrell/core/formats/bankFile';
import { isSameAccountNumber } from '@zubrell/core/intake/isSameAccountNumber';
import { sightStatement } from '@zubrell/core/intake/sightStatement';
import { bookedOnly, closingBalance, openingBalance } from '@zubrell/core/intake/statementBalances';
import { stemOf } from '@zubrell/core/text/stemOf';
import { sql } from 'drizzle-orm';
import { bulkInsert } from '../db/bulkInsert.ts';
import { inBooks, rowsOf, type Tx } from '../db/database.ts';
import { refreshStatistics } from '../db/refreshStatistics.ts';
import { knownError } from '../http/problems.ts';
import { insertOpening } from '../modules/books/openingBalance.ts';
import { knownLines, standingBalance } from '../modules/intake/queries.ts';
import { uploadBytes } from '../modules/intake/uploads.ts';
import { countLines } from '../modules/lines/postLines.ts';
import { renewProposals } from '../modules/lines/proposals.ts';
import { recordStep, type StepItem, takeStepNumber } from '../modules/steps/recordStep.ts';
import type { Services } from '../services.ts';

/** What the queue holds of a batch to be kept. */
export interface KeepBatchJob {
  readonly booksId: string;
  readonly batchId: string;
  readonly acceptRefused: boolean;
  readonly confirmNumber: boolean;
  readonly withOpening: boolean;
}

/** Reads a bank file off the main thread. */
export type ReadFile = (bytes: Uint8Array, currency: string) => Promise<BankFile>;

interface BatchRow {
  readonly bankAccountId: string;
  readonly fileName: string;
  readonly uploadId: string;
  readonly statementIndex: number;
  readonly createdBy: string;
  readonly accountName: string;
  readonly accountNumber: string | null;
  readonly hasOpening: boolean;
  readonly firstDate: string | null;
  readonly currency: string;
}

/**
 * Keeps one statement of an uploaded file as a batch, whole or not at all. What can't be kept is
 * marked as refused with the reason. A job that was killed leaves nothing and runs again.
 *
 * @param isLastTry whether the queue gives up after this, so that the batch must be marked
 */
export async function keepBatch(
  services: Services,
  readFile: ReadFile,
  job: KeepBatchJob,
  isLastTry = false,
): Promise<void> {
  const { database } = services;
  const found = await inBooks(database, job.booksId, async (tx) => {
    const batch = await readingBatch(tx, job);
    return batch && { batch, bytes: await uploadBytes(tx, job.booksId, batch.uploadId) };
  }).catch((error: unknown) => refuse(services, job, error, isLastTry));
  if (!found) return;
  try {
    const file = await readFile(found.bytes, found.batch.currency);
    const statement = statementOf(file, found.batch, job);
    await inBooks(database, job.booksId, async (tx) => {
      // Another worker may have done it meanwhile.
      const batch = await readingBatch(tx, job);
      if (batch) await keepStatement(tx, services, job, batch, file, statement);
    });
  } catch (error) {
    await refuse(services, job, error, isLastTry);
  }
}

/** Marks the batch as refused for an error of the table; other errors let the queue try again. */
async function refuse(
  services: Services,
  job: KeepBatchJob,
  error: unknown,
  isLastTry: boolean,
): Promise<null> {
  const known = knownError(error) ?? (isLastTry ? new ZubrellError('INTERNAL') : null);
  if (known === null) throw error;
  const refusal: { code: ErrorCode; params: ErrorParams } = {
    code: known.code,
    params: known.params,
  };
  await inBooks(services.database, job.booksId, async (tx) => {
    await tx.execute(
      sql`update batches set status = 'refused', refusal = ${JSON.stringify(refusal)}::jsonb
          where books_id = ${job.booksId} and id = ${job.batchId} and status = 'reading'`,
    );
  });
  return null;
}

async function readingBatch(tx: Tx, { booksId, batchId }: KeepBatchJob): Promise<BatchRow | null> {
  const [row] = await rowsOf<BatchRow>(
    tx,
    sql`select t.bank_account_id as "bankAccountId", t.file_name as "fileName",
          t.upload_id as "uploadId", t.statement_index as "statementIndex",
          t.created_by as "createdBy", b.name as "accountName", b.number as "accountNumber",
          k.currency,
          (select min(l.date) from lines l where l.books_id = b.books_id
             and l.bank_account_id = b.id and l.is_here) as "firstDate",
          exists (select from entries e where e.books_id = b.books_id and e.opening_of = b.id
            and not e.is_void) as "hasOpening"
        from batches t
        join bank_accounts b on b.books_id = t.books_id and b.id = t.bank_account_id
        join books k on k.id = t.books_id
        where t.books_id = ${booksId} and t.id = ${batchId} and t.status = 'reading'
        for update of t`,
  );
  return row ?? null;
}

/** The statement to keep, if the file may be kept at all. */
function statementOf(file: BankFile, batch: BatchRow, job: KeepBatchJob): BankStatement {
  const refused = refusedOf(file);
  if (refused.length > 0 && !job.acceptRefused) {
    fail('FILE_HAS_REFUSED', { count: refused.length });
  }
  const stated = file.statements[batch.statementIndex];
  const statement = stated && bookedOnly(stated);
  if (!statement || statement.lines.length === 0) fail('FILE_NO_LINES');
  const { currency, accountName: account } = batch;
  if (statement.currency !== null && statement.currency !== currency) {
    fail('FILE_OTHER_CURRENCY', { file: statement.currency, account, currency });
  }
  const isOther = !isSameAccountNumber(statement.account, batch.accountNumber);
  if (isOther && !job.confirmNumber) {
    fail('FILE_OTHER_NUMBER', {
      file: statement.account ?? '',
      account: batch.accountNumber ?? '',
    });
  }
  return statement;
}

async function keepStatement(
  tx: Tx,
  services: Services,
  job: KeepBatchJob,
  batch: BatchRow,
  file: BankFile,
  statement: BankStatement,
): Promise<void> {
  const { booksId, batchId } = job;
  const step = await takeStepNumber(tx, booksId);
  const dates = statement.lines.map((line) => line.date).sort();
  const [from = '', to = from] = [dates[0], dates.at(-1)];
  const known = await knownLines(tx, booksId, batch.bankAccountId, from, to);
  const closing = closingBalance(statement);
  const standing =
    closing && (await standingBalance(tx, booksId, batch.bankAccountId, closing.date));
  const sightings = sightStatement(known, statement, standing);
  const placed = statement.lines.map((line, position) => {
    const sighting = sightings[position];
    const other = sighting && sighting.kind !== 'new' ? known[sighting.index] : undefined;
    const seen = sighting?.kind === 'already' ? other : undefined;
    const twiceOf = sighting?.kind === 'doubtful' ? (other?.id ?? null) : null;
    return { line, position, seen, twiceOf, id: seen?.id ?? randomUUID(), stem: stemOf(line) };
  });
  const items: StepItem[] = [
    { thing: 'batch', thingId: batchId, before: null, after: { isKept: true } },
  ];
  let openingWords = '';
  const opening = openingBalance(statement);
  const isFirst = batch.firstDate === null || from <= batch.firstDate;
  if (job.withOpening && opening !== null && !batch.hasOpening && isFirst) {
    const posted = await insertOpening(tx, booksId, batch.bankAccountId, opening, step);
    items.push(posted.item);
    openingWords = `, with the ${posted.words}`;
  }
  const fresh = placed.filter(({ seen }) => seen === undefined);
  await insertLines(tx, booksId, batch.bankAccountId, step, fresh);
  const revived = placed.flatMap(({ seen }) => (seen && !seen.isHere ? seen.id : []));
  await tx.execute(
    sql`update lines set is_here = true, last_step = ${step}
        where books_id = ${booksId} and id = any(${sql.param(revived)}::uuid[])`,
  );
  await bulkInsert(
    tx,
    'sightings',
    { books_id: 'uuid', batch_id: 'uuid', line_id: 'uuid', place: 'integer' },
    placed.map(({ id, line }) => ({
      books_id: booksId,
      batch_id: batchId,
      line_id: id,
      place: line.place,
    })),
  );
  await refreshStatistics(tx, placed.length);
  const newCount = fresh.length + revived.length;
  await tx.execute(
    sql`update batches set status = 'kept', format = ${file.format},
          problems = ${JSON.stringify(file.problems)}::jsonb, from_date = ${statement.from ?? from},
          to_date = ${statement.to ?? to}, closing = ${closing?.amount ?? null},
          closing_date = ${closing?.date ?? null}, line_count = ${placed.length},
          new_count = ${newCount}
        where books_id = ${booksId} and id = ${batchId}`,
  );
  await renewProposals(
    tx,
    booksId,
    placed.map(({ stem }) => stem),
  );
  const came =
    newCount === placed.length
      ? countLines(newCount)
      : `${newCount} new of ${countLines(placed.length)}`;
  await recordStep(tx, services, booksId, { userId: batch.createdBy }, step, {
    kind: 'keepBatch',
    words: `Kept ${came} of ${batch.fileName} in ${batch.accountName}${openingWords}`,
    items,
  });
}

interface FreshLine {
  readonly id: string;
  readonly line: BankStatement['lines'][number];
  readonly position: number;
  readonly stem: string;
  readonly twiceOf: string | null;
}

async function insertLines(
  tx: Tx,
  booksId: string,
  bankAccountId: string,
  step: number,
  fresh: readonly FreshLine[],
): Promise<void> {
  await bulkInsert(
    tx,
    'lines',
    {
      books_id: 'uuid',
      id: 'uuid',
      bank_account_id: 'uuid',
      date: 'date',
      value_date: 'date',
      amount: 'bigint',
      description: 'text',
      reference: 'text',
      payee: 'text',
      bank_id: 'text',
      type: 'text',
      cheque_number: 'text',
      balance: 'bigint',
      position: 'integer',
      stem: 'text',
      twice_of: 'uuid',
      last_step: 'bigint',
    },
    fresh.map(({ id, line, position, stem, twiceOf }) => ({
      books_id: booksId,
      id,
      bank_account_id: bankAccountId,
      date: line.date,
      value_date: line.valueDate,
      amount: line.amount,
      description: line.description,
      reference: line.reference,
      payee: line.payee,
      bank_id: line.bankId,
      type: line.type,
      cheque_number: line.chequeNumber,
      balance: line.balance,
      position,
      stem,
      twice_of: twiceOf,
      last_step: step,
    })),
  );
}
