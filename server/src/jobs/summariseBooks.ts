import { BooksId } from '@zubrell/contract/common';
import { z } from 'zod';
import type { Clock } from '../clock.ts';
import { type Database, inBooks } from '../db/database.ts';
import { summarise } from '../modules/overview/summarise.ts';

export const SummariseBooksJob = z.object({ booksId: BooksId });

/** Works out anew what the list of all books shows of some. @param jobs all of the same books */
export async function summariseBooks(
  { database, clock }: { readonly database: Database; readonly clock: Clock },
  jobs: readonly z.infer<typeof SummariseBooksJob>[],
): Promise<void> {
  const [first] = jobs;
  if (first) {
    await inBooks(database, first.booksId, (tx) => summarise(tx, first.booksId, clock.today()));
  }
}
