import { type ErrorCode, type ErrorParams, ZubrellError } from '@zubrell/core/errors';
import type { BankFile } from '@zubrell/core/formats/bankFile';
import { readBankFile } from '@zubrell/core/formats/readBankFile';

/** What the page asks of the worker. */
export interface ReadRequest {
  readonly bytes: ArrayBuffer;
  readonly currency: string;
}

/** What the worker answers. */
export type ReadAnswer =
  | { readonly file: BankFile; readonly milliseconds: number }
  | { readonly error: { readonly code: ErrorCode; readonly params: ErrorParams } };

self.onmessage = async ({ data }: MessageEvent<ReadRequest>) => {
  const began = performance.now();
  try {
    const file = await readBankFile(new Uint8Array(data.bytes), { currency: data.currency });
    answer({ file, milliseconds: performance.now() - began });
  } catch (error) {
    if (!(error instanceof ZubrellError)) throw error;
    answer({ error: { code: error.code, params: error.params } });
  }
};

function answer(message: ReadAnswer): void {
  self.postMessage(message);
}
