import type { StepEvent } from '@zubrell/contract/events';
import { sql } from 'drizzle-orm';
import type { Tx } from '../../db/database.ts';

/** The channel on which servers tell each other what was done. */
export const stepChannel = 'zubrell_steps';

/** What servers tell each other: an event, and in which books. */
export type Announced = StepEvent & { readonly booksId: string };

/** Tells all servers when the transaction commits, and they tell their browsers. */
export async function announce(tx: Tx, announced: Announced): Promise<void> {
  await tx.execute(sql`select pg_notify(${stepChannel}, ${JSON.stringify(announced)})`);
}
