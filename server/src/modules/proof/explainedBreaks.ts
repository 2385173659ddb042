import type { BooksId } from '@zubrell/core/ids';
import { explainBreak } from '@zubrell/core/proof/explainBreak';
import type { ProofCause } from '@zubrell/core/proof/prove';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { isWeighed } from '../decisions/isWeighed.ts';
import { isTwice, joinLiveDecision } from '../lines/lineState.ts';
import { balanceChains } from './chain.ts';

/** So many lines around a break are looked at. */
const MOST_LINES = 5_000;

const LineRow = z.object({
  id: z.string(),
  date: z.string(),
  amount: z.int(),
  description: z.string(),
  /** Whether it counts; one that was excluded as a copy, or as before the opening balance, doesn't. */
  isWeighed: z.boolean(),
  /** Whether it is doubted already: it may be a second copy. */
  isDoubted: z.boolean(),
});

/** For each bank account whose stated balances break, where they do and which line most likely made them. */
export async function explainedBreaks(
  tx: Tx,
  booksId: BooksId,
): Promise<ReadonlyMap<string, Pick<ProofCause, 'date' | 'since' | 'likely'>>> {
  const found = new Map<string, Pick<ProofCause, 'date' | 'since' | 'likely'>>();
  for (const [bankAccountId, { firstBreak }] of await balanceChains(tx, booksId)) {
    if (firstBreak === null) continue;
    const { date, since, difference } = firstBreak;
    const lines = await rowsOf(
      tx,
      LineRow,
      sql`select l.id, l.date, l.amount, l.description, ${isWeighed} as "isWeighed",
            ${isTwice} as "isDoubted"
          from lines l ${joinLiveDecision}
          left join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
          where l.books_id = ${booksId} and l.bank_account_id = ${bankAccountId} and l.is_here
            and l.date <= ${date} and ${since === null ? sql`true` : sql`l.date > ${since}`}
          order by l.date desc limit ${MOST_LINES}`,
    );
    found.set(bankAccountId, { date, since, likely: explainBreak(difference, lines) });
  }
  return found;
}
