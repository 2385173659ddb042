import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import type { Tx } from '../../db/database.ts';
import type { Actor } from '../../services.ts';

/** Lets jobs do in an actor's name what they have just asked for. A job that asks for more has that already. */
export async function giveMandate(tx: Tx, booksId: BooksId, { session }: Actor): Promise<void> {
  if (session !== null) await tx.execute(sql`select give_mandate(${session}, ${booksId})`);
}
