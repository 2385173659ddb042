import { type BreakLine, explainBreak } from '@zubrell/core/proof/explainBreak';
import type { ProofCause } from '@zubrell/core/proof/prove';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import { isTwice, joinLiveDecision } from '../lines/lineState.ts';
import { balanceChains } from './chain.ts';
import { isWeighed } from './isWeighed.ts';

/** So many lines around a break are looked at. */
const MOST_LINES = 5_000;

/** For each bank account whose stated balances break, where they do and which line most likely made them. */
export async function explainedBreaks(
  tx: Tx,
  booksId: string,
): Promise<ReadonlyMap<string, Pick<ProofCause, 'date' | 'since' | 'likely'>>> {
  const found = new Map<string, Pick<ProofCause, 'date' | 'since' | 'likely'>>();
  for (const [bankAccountId, { firstBreak }] of await balanceChains(tx, booksId)) {
    if (firstBreak === null) continue;
    const { date, since, difference } = firstBreak;
    const lines = await rowsOf<BreakLine>(
      tx,
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
