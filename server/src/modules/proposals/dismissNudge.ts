import { randomUUID } from 'node:crypto';
import type { StepDone } from '@zubrell/contract/common';
import type { DismissNudge } from '@zubrell/contract/desk';
import type { BooksId, PayeeId } from '@zubrell/core/ids';
import { doubtLabel } from '@zubrell/core/propose/words';
import { say } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow, StemRow } from '../../db/rows.ts';
import { dismissals } from '../../db/schema/lines.ts';
import { payeeState } from '../books/changeThings.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { liveThing } from '../steps/liveThing.ts';
import { plainWords, recordStep } from '../steps/recordStep.ts';
import { renewSoon } from './renewProposals.ts';

/**
 * Says that lines of this kind are what they look: the nudge is not given any more, for the payee, or
 * where none is known for the look-alikes.
 *
 * @throws {ZubrellError} PAYEE_UNKNOWN
 */
export async function dismissNudge(
  command: BooksCommand,
  { nudge, payeeId, stem }: DismissNudge,
): Promise<StepDone> {
  const { tx, booksId, step } = command;
  const payee = payeeId === null ? null : await payeeState(tx, booksId, payeeId);
  const id = randomUUID();
  const key = payeeId === null ? { stem } : { payeeId };
  await tx.insert(dismissals).values({ booksId, id, nudge, ...key, step });
  await renewNudged(tx, booksId, key);
  const label = doubtLabel({ kind: 'nudge', nudge, accountId: null });
  const words = say`No longer says “${label}” of ${payee?.name ?? stem}`;
  await recordStep(command, {
    kind: 'dismissNudge',
    words,
    items: [
      { thing: 'dismissal', thingId: id, before: { isLive: false }, after: { isLive: true } },
    ],
    needs: payeeId === null ? [] : [{ thing: 'payee', thingId: payeeId }],
  });
  return { step, words: plainWords(words) };
}

const AboutRow = z.object({ payeeId: idRow<PayeeId>().nullable(), stem: z.string().nullable() });

/** How a dismissal is taken back. */
export const dismissalThing = liveThing('dismissal', 'dismissals', async ({ tx, booksId }, ids) => {
  const rows = await rowsOf(
    tx,
    AboutRow,
    sql`select payee_id as "payeeId", stem from dismissals
          where books_id = ${booksId} and id = any(${sql.param(ids)}::uuid[])`,
  );
  for (const row of rows) await renewNudged(tx, booksId, row);
});

/** Proposes anew for the open lines that a dismissal is about. */
async function renewNudged(
  tx: Tx,
  booksId: BooksId,
  { payeeId, stem }: { readonly payeeId?: PayeeId | null; readonly stem?: string | null },
): Promise<void> {
  if (!payeeId) {
    await renewSoon(tx, booksId, stem ? [stem] : []);
    return;
  }
  const rows = await rowsOf(
    tx,
    StemRow,
    sql`select distinct l.stem from proposals p
        join lines l on l.books_id = p.books_id and l.id = p.line_id
        where p.books_id = ${booksId} and p.proposal #>> '{coding,payeeId}' = ${payeeId}`,
  );
  await renewSoon(
    tx,
    booksId,
    rows.map((row) => row.stem),
  );
}
