import { StepEvent } from '@zubrell/contract/events';
import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import type { z } from 'zod';
import type { Tx } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';

/** The channel on which servers tell each other what was done. */
export const stepChannel = 'zubrell_steps';

/** What servers tell each other: an event, and in which books. */
const Announced = StepEvent.extend({ booksId: idRow<BooksId>() });
type Announced = z.infer<typeof Announced>;

/** What was told on the channel; null where it was nothing of ours, as anybody in the database can speak there. */
export function announcedIn(payload: string | undefined): Announced | null {
  try {
    return Announced.parse(JSON.parse(payload ?? ''));
  } catch {
    return null;
  }
}

/** Tells all servers when the transaction commits, and they tell their browsers. */
export async function announce(tx: Tx, announced: Announced): Promise<void> {
  await tx.execute(sql`select pg_notify(${stepChannel}, ${JSON.stringify(announced)})`);
}
