import type { BankStatement } from '../formats/bankFile.ts';
import type { Minor } from '../money/minor.ts';
import { matchSources, type Sighting, type SourceLine } from './matchSources.ts';
import { settleByBalance } from './settleByBalance.ts';
import { expectedClosing, summaryOf } from './statementBalances.ts';

/**
 * What each line of a statement is to the lines of a bank account: here already, doubtful or new. The
 * statement's closing balance, where it states one, decides about doubtful lines as far as it can.
 *
 * @param here the bank account's lines around the statement's dates
 * @param standing the balance by what is here at the end of the statement's closing day; null where
 *   there is no opening balance
 */
export function sightStatement(
  here: readonly SourceLine[],
  statement: BankStatement,
  standing: Minor | null,
): Sighting[] {
  const compared = matchSources(here, statement.lines);
  const closing = expectedClosing(statement, summaryOf(statement.lines));
  if (closing === null || standing === null) return compared;
  const { amount, date } = closing;
  return settleByBalance(compared, statement.lines, { standing, closing: amount, date });
}
