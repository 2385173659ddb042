import { inBooks } from '../db/database.ts';
import { beginCommand } from '../modules/beginCommand.ts';
import { lastStepOf } from '../modules/books/queries.ts';
import { type RenewProposalsJob, renewProposals, stemsAlike } from '../modules/lines/proposals.ts';
import { postAtOnce } from '../modules/rules/postAtOnce.ts';
import { announce } from '../modules/steps/announce.ts';
import type { Services } from '../services.ts';

/** Computes proposals anew that a change reached; where any is another, every browser reads its open lines again. */
export async function renewInBackground(
  services: Pick<Services, 'database' | 'clock'>,
  { booksId, stems, isOwnDone, postFor }: RenewProposalsJob,
): Promise<void> {
  await inBooks(services.database, booksId, async (tx) => {
    const actor = { userId: postFor ?? '', name: '', session: null };
    const command = await beginCommand(tx, services, booksId, actor);
    const alike = await stemsAlike(tx, booksId, stems);
    const wanted = isOwnDone ? alike : [...stems, ...alike];
    if (wanted.length === 0) return;
    const changed = await renewProposals(tx, booksId, wanted);
    if (postFor) await postAtOnce(command);
    if (changed === 0) return;
    const step = await lastStepOf(tx, booksId);
    await announce(tx, { booksId, step, touched: ['proposals'], by: null });
  });
}
