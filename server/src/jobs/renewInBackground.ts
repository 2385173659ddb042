import { beginCommand } from '../commands/beginCommand.ts';
import { inBooks } from '../db/database.ts';
import { lastStepOf } from '../modules/books/queries.ts';
import {
  type RenewProposalsJob,
  renewProposals,
  stemsAlike,
} from '../modules/proposals/renewProposals.ts';
import { postAtOnce } from '../modules/rules/postAtOnce.ts';
import { announce } from '../modules/steps/announce.ts';
import type { Services } from '../services.ts';

/**
 * Computes proposals anew that changes reached; where any is another, every browser reads its open lines again.
 *
 * @param jobs what was asked for since this was last done, all of the same books
 */
export async function renewInBackground(
  services: Pick<Services, 'database' | 'clock'>,
  jobs: readonly RenewProposalsJob[],
): Promise<void> {
  const [first] = jobs;
  if (first === undefined) return;
  const { booksId } = first;
  const postFor = jobs.findLast((job) => job.postFor !== null)?.postFor ?? null;
  await inBooks(services.database, booksId, async (tx) => {
    const actor = { userId: postFor ?? '', name: '', session: null };
    const command = await beginCommand(tx, services, booksId, actor);
    const wanted = new Set<string>();
    // The same was often asked for several times.
    const distinct = new Map(jobs.map((job) => [JSON.stringify([job.stems, job.isOwnDone]), job]));
    for (const { stems, isOwnDone } of distinct.values()) {
      for (const stem of await stemsAlike(tx, booksId, stems)) wanted.add(stem);
      for (const stem of isOwnDone ? [] : stems) wanted.add(stem);
    }
    if (wanted.size === 0) return;
    const changed = await renewProposals(tx, booksId, [...wanted]);
    if (postFor !== null) await postAtOnce(command);
    if (changed === 0) return;
    const step = await lastStepOf(tx, booksId);
    await announce(tx, { booksId, step, touched: ['proposals'], by: null });
  });
}
