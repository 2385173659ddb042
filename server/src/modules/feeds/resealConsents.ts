import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { inBooks, rowsOf } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import type { Services } from '../../services.ts';

const ResealConsentsRow = z.object({
  booksId: idRow<BooksId>(),
  id: z.string(),
  token: z.string(),
});

/**
 * Seals the tokens of all consents with the present key that are not: those sealed with an older one, and those of
 * before there were keys. What can't be opened stays as it is.
 *
 * @returns how many were sealed anew
 */
export async function resealConsents({
  background,
  secrets,
}: Pick<Services, 'background' | 'secrets'>): Promise<number> {
  const all = await rowsOf(
    background,
    ResealConsentsRow,
    sql`select books_id as "booksId", id, token from consent_tokens()`,
  );
  let count = 0;
  for (const { booksId, id, token } of all) {
    // Before there were keys, tokens were kept as they are.
    const sealed = token.startsWith('v1.') ? secrets.renewed(token, id) : secrets.seal(token, id);
    if (sealed === null) continue;
    await inBooks(background, booksId, (tx) =>
      tx.execute(
        sql`update consents set token = ${sealed}
            where books_id = ${booksId} and id = ${id} and token = ${token}`,
      ),
    );
    count += 1;
  }
  return count;
}
