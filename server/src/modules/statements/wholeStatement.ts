import type { Statement, StatementRow } from '@zubrell/contract/statements';
import type { BankAccountId, BooksId } from '@zubrell/core/ids';
import { sumOf } from '@zubrell/core/money/minor';
import type { Tx } from '../../db/database.ts';
import type { AccountFacts } from './accountFacts.ts';
import type { AccountLine } from './accountRows.ts';
import { hindrancesOf } from './hindrances.ts';
import { frameOf, type StatementWanted } from './statementFrame.ts';
import { shownOf } from './statementOf.ts';
import { isCountedIn, within } from './statementRows.ts';

/** A statement with all that it is made of. */
export interface WholeStatement {
  readonly account: AccountFacts;
  readonly shown: Statement;
  readonly rows: readonly StatementRow[];
  /** What it counts: lines, and entries that are ticked. */
  readonly counted: readonly { readonly id: string; readonly amount: number }[];
  /** The lines among these. */
  readonly lines: readonly AccountLine[];
}

/**
 * A statement with all that it is made of, added up from its lines: sums that are kept by day are not taken for
 * granted where it is agreed.
 *
 * @throws {ZubrellError} BANK_ACCOUNT_UNKNOWN, STATEMENT_UNKNOWN
 */
export async function wholeStatement(
  tx: Tx,
  booksId: BooksId,
  bankAccountId: BankAccountId,
  wanted: StatementWanted,
): Promise<WholeStatement> {
  const frame = await frameOf(tx, booksId, bankAccountId, wanted);
  const { account, agreed } = frame;
  const all = await within(tx, booksId, frame, { after: null, last: null });
  const { hindrances: _, ...shown } = await shownOf(tx, booksId, frame);
  const lines = all.lines.filter((line) => isCountedIn(frame, line));
  const counted = [...lines, ...all.ticked];
  const isIn = (state: AccountLine['state']) => lines.filter((line) => line.state === state).length;
  const addsUp = shown.opening + sumOf(counted);
  const { closing } = shown;
  const added = agreed
    ? shown
    : {
        ...shown,
        lineCount: counted.length,
        openCount: isIn('open'),
        askedCount: isIn('asked'),
        addsUp,
        off: closing === null ? null : closing - addsUp,
      };
  return {
    account,
    shown: { ...added, hindrances: hindrancesOf(added, account) },
    rows: all.rows,
    counted,
    lines,
  };
}
