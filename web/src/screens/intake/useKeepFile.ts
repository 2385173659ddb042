import type { BatchSheet, KeepBatch } from '@zubrell/contract/intake';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { intakeApi } from '../../api/intake.ts';
import { shownProblem } from '../../app/problem.ts';
import { useBooks } from '../../app/useBooks.ts';

/** How keeping a file stands. */
export type KeepState =
  | { readonly kind: 'idle' }
  | { readonly kind: 'busy'; readonly words: string }
  | { readonly kind: 'failed'; readonly message: string };

const LOOK_EVERY = 300;

/** Sends a file and has the server keep a statement of it; the server reads the raw file itself. */
export function useKeepFile(source: File): {
  readonly state: KeepState;
  /** @returns the batch when it is kept, null where it was not */
  readonly keep: (wanted: Omit<KeepBatch, 'uploadId'>) => Promise<BatchSheet | null>;
} {
  const { booksId } = useBooks();
  const [state, setState] = useState<KeepState>({ kind: 'idle' });
  const [upload] = intakeApi.useUploadMutation();
  const [keepBatch] = intakeApi.useKeepBatchMutation();
  const [look] = intakeApi.useLazyBatchQuery();

  function failed(error: unknown): null {
    setState({ kind: 'failed', message: shownProblem(error).message });
    return null;
  }

  return {
    state,
    keep: async (wanted) => {
      setState({ kind: 'busy', words: t`Sending the file …` });
      const sent = await upload({ booksId, file: source });
      if (!sent.data) return failed(sent.error);
      setState({ kind: 'busy', words: t`Importing the lines …` });
      const started = await keepBatch({ booksId, uploadId: sent.data.uploadId, ...wanted });
      if (!started.data) return failed(started.error);
      for (;;) {
        const { data, error } = await look({ booksId, batchId: started.data.batchId });
        if (error) return failed(error);
        if (data?.status === 'kept') return data;
        if (data?.status === 'refused') {
          setState({ kind: 'failed', message: data.refusal?.message ?? '' });
          return null;
        }
        await new Promise((done) => setTimeout(done, LOOK_EVERY));
      }
    },
  };
}
