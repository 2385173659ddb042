import { addDays, type CalendarDate } from '@zubrell/core/dates/calendarDate';
import { type ErrorCode, type ErrorParams, fail, ZubrellError } from '@zubrell/core/errors';
import { refusedOf, type StatementFacts } from '@zubrell/core/formats/bankFile';
import type { BankAccountId } from '@zubrell/core/ids';
import { isSameAccountNumber } from '@zubrell/core/intake/isSameAccountNumber';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { beginCommand } from '../commands/beginCommand.ts';
import { inBooks, inBooksCopying, rowsOf, type Tx } from '../db/database.ts';
import { isDatabaseAway, knownError } from '../db/databaseErrors.ts';
import { idRow } from '../db/rows.ts';
import { copyIncoming, createIncoming } from '../modules/intake/incoming.ts';
import { keepIncoming } from '../modules/intake/keepIncoming.ts';
import type { ReadFile } from '../modules/intake/readInThread.ts';
import type { ReadFacts } from '../modules/intake/readWorker.ts';
import type { KeepBatchJob } from '../modules/intake/startBatch.ts';
import { uploadBytes } from '../modules/intake/uploads.ts';
import type { Services } from '../services.ts';

const BatchRow = z.object({
  bankAccountId: idRow<BankAccountId>(),
  fileName: z.string(),
  uploadId: z.string(),
  statementIndex: z.number(),
  createdBy: z.string(),
  accountName: z.string(),
  accountNumber: z.string().nullable(),
  currency: z.string(),
});
type BatchRow = z.infer<typeof BatchRow>;

/**
 * Keeps one statement of an uploaded file as a batch, whole or not at all. What can't be kept is
 * marked as refused with the reason. A job that was killed leaves nothing and runs again.
 *
 * @param isLastTry whether the queue gives up after this, so that the batch must be marked
 */
export async function keepBatch(
  services: Pick<Services, 'database' | 'clock'>,
  readFile: ReadFile,
  job: KeepBatchJob,
  isLastTry = false,
): Promise<void> {
  const { database } = services;
  const { booksId } = job;
  try {
    const batch = await inBooks(database, booksId, (tx) => readingBatch(tx, job));
    if (batch === null) return;
    await inBooksCopying(database, booksId, async (tx, openCopy) => {
      await createIncoming(tx);
      const pieces = uploadBytes(database, booksId, batch.uploadId);
      const { currency, statementIndex } = batch;
      const wanted = { currency, statementIndex, choices: job.choices ?? {} };
      const facts = await copyIncoming(openCopy, readFile, pieces, wanted);
      const statement = checkedStatement(facts, batch, job, services.clock.today());
      const actor = { userId: batch.createdBy, name: '', session: null };
      const command = await beginCommand(tx, services, booksId, actor);
      // Another worker may have done it meanwhile.
      if ((await readingBatch(tx, job)) === null) return;
      await keepIncoming(command, { ...batch, ...job, facts, statement });
    });
  } catch (error) {
    if (isDatabaseAway(error)) throw error;
    // What is no error of the table the queue tries again.
    const known = knownError(error) ?? (isLastTry ? new ZubrellError('JOB_GIVEN_UP') : null);
    if (known === null) throw error;
    await refuseBatch(services, job, known);
  }
}

/** Marks a batch that is being read as refused. */
export async function refuseBatch(
  { database }: Pick<Services, 'database'>,
  { booksId, batchId }: Pick<KeepBatchJob, 'booksId' | 'batchId'>,
  { code, params }: ZubrellError,
): Promise<void> {
  const refusal: { code: ErrorCode; params: ErrorParams } = { code, params };
  await inBooks(database, booksId, async (tx) => {
    await tx.execute(
      sql`update batches set status = 'refused', refusal = ${JSON.stringify(refusal)}::jsonb
          where books_id = ${booksId} and id = ${batchId} and status = 'reading'`,
    );
  });
}

async function readingBatch(tx: Tx, { booksId, batchId }: KeepBatchJob): Promise<BatchRow | null> {
  const [row] = await rowsOf(
    tx,
    BatchRow,
    sql`select t.bank_account_id as "bankAccountId", t.file_name as "fileName",
          t.upload_id as "uploadId", t.statement_index as "statementIndex",
          t.created_by as "createdBy", b.name as "accountName", b.number as "accountNumber",
          coalesce(b.currency, k.currency) as currency
        from batches t
        join bank_accounts b on b.books_id = t.books_id and b.id = t.bank_account_id
        join books k on k.id = t.books_id
        where t.books_id = ${booksId} and t.id = ${batchId} and t.status = 'reading'
        for update of t`,
  );
  return row ?? null;
}

/** The statement to keep, if the file may be kept at all. */
function checkedStatement(
  { file, summary }: ReadFacts,
  batch: BatchRow,
  job: KeepBatchJob,
  today: CalendarDate,
): StatementFacts {
  const refused = refusedOf(file);
  if (refused.length > 0 && !job.acceptRefused) {
    fail('FILE_HAS_REFUSED', { count: refused.length });
  }
  const statement = file.statements[batch.statementIndex];
  if (!statement || summary.count === 0) fail('FILE_NO_LINES');
  if (file.openDate !== null) fail('FILE_DATES_OPEN', { date: file.openDate });
  // East of the server it may be tomorrow already.
  if (summary.last !== null && summary.last > addDays(today, 1) && !job.confirmDates) {
    fail('FILE_DATES_AHEAD', { date: summary.last });
  }
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
