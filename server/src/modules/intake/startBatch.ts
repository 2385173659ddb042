import { randomUUID } from 'node:crypto';
import { type BatchStarted, KeepBatch } from '@zubrell/contract/intake';
import { fail } from '@zubrell/core/errors';
import type { BatchId, BooksId, FeedId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { countRows, rowsOf } from '../../db/database.ts';
import { queueJob } from '../../db/queueJob.ts';
import { idRow } from '../../db/rows.ts';
import { batches } from '../../db/schema/lines.ts';
import { giveMandate } from '../session/giveMandate.ts';
import type { Acting } from '../steps/booksCommand.ts';

/** What the queue holds of a batch to be kept. */
export const KeepBatchJob = KeepBatch.omit({
  uploadId: true,
  statementIndex: true,
  bankAccountId: true,
}).extend({ booksId: idRow<BooksId>(), batchId: idRow<BatchId>() });
export type KeepBatchJob = z.infer<typeof KeepBatchJob>;

const FileNameRow = z.object({ fileName: z.string() });

/**
 * Writes a batch that is to be read: what a job, or the demo's seed, then keeps.
 *
 * @throws {ZubrellError} UPLOAD_MISSING, BANK_ACCOUNT_UNKNOWN
 */
export async function insertBatch(
  { tx, clock, booksId, actor }: Acting,
  wanted: Pick<KeepBatch, 'uploadId' | 'statementIndex' | 'bankAccountId'> & {
    readonly feedId?: FeedId;
  },
): Promise<BatchStarted> {
  const [upload] = await rowsOf(
    tx,
    FileNameRow,
    sql`select file_name as "fileName" from uploads
        where books_id = ${booksId} and id = ${wanted.uploadId}`,
  );
  if (!upload) fail('UPLOAD_MISSING');
  const account = await countRows(
    tx,
    sql`select from bank_accounts where books_id = ${booksId} and id = ${wanted.bankAccountId} and is_here`,
  );
  if (account === 0) fail('BANK_ACCOUNT_UNKNOWN');
  await giveMandate(tx, booksId, actor);
  const batchId = randomUUID();
  await tx.insert(batches).values({
    booksId,
    id: batchId,
    bankAccountId: wanted.bankAccountId,
    fileName: upload.fileName,
    uploadId: wanted.uploadId,
    statementIndex: wanted.statementIndex,
    feedId: wanted.feedId ?? null,
    status: 'reading',
    createdBy: actor.userId,
    createdAt: clock.now(),
  });
  return { batchId };
}

/**
 * Starts keeping a statement of an uploaded file: the batch and its job are written together, so
 * that one is never without the other.
 *
 * @throws {ZubrellError} UPLOAD_MISSING, BANK_ACCOUNT_UNKNOWN
 */
export async function startBatch(command: Acting, wanted: KeepBatch): Promise<BatchStarted> {
  const { tx, booksId } = command;
  const started = await insertBatch(command, wanted);
  const { uploadId: _upload, statementIndex: _index, bankAccountId: _account, ...options } = wanted;
  const job: KeepBatchJob = { booksId, batchId: started.batchId, ...options };
  await queueJob(tx, 'keepBatch', job);
  return started;
}
