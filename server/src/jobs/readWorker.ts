import { type ErrorCode, type ErrorParams, ZubrellError } from '@zubrell/core/errors';
import type { BankFile } from '@zubrell/core/formats/bankFile';
import { readBankFile } from '@zubrell/core/formats/readBankFile';

/** What a reading thread gives back. */
export type ReadAnswer =
  | { readonly file: BankFile }
  | { readonly error: { readonly code: ErrorCode; readonly params: ErrorParams } };

/**
 * Reads a file; runs in a thread of the pool, which finds it under this name.
 *
 * @public
 */
export async function readInWorker(task: {
  bytes: Uint8Array;
  currency: string;
}): Promise<ReadAnswer> {
  try {
    return { file: await readBankFile(task.bytes, { currency: task.currency }) };
  } catch (error) {
    if (!(error instanceof ZubrellError)) throw error;
    return { error: { code: error.code, params: error.params } };
  }
}
