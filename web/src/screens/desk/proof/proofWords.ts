import type { Proof, ProofCause } from '@zubrell/contract/desk';
import type { BreakReason } from '@zubrell/core/proof/explainBreak';
import { type CauseKind, isProved } from '@zubrell/core/proof/prove';
import { t } from '@zubrell/core/words/t';

/** What a cause is, in a few words. */
export const causeTitles: Readonly<Record<CauseKind, string>> = {
  bankDiffers: t`The bank’s balance isn’t reached`,
  sidesDiffer: t`A line and its entries differ`,
  lineGone: t`An entry without its line`,
  notAwaited: t`A journal the bank won’t report`,
  beforeOpening: t`A line before the opening balance`,
  unknown: t`Not traced`,
};

const LIKELY: Readonly<Record<BreakReason, (line: string) => string>> = {
  inTwice: (line) => t`${line} is probably there twice.`,
  keptOut: (line) => t`${line} was excluded, but looks real.`,
  turned: (line) => t`${line} probably has its sign the wrong way round.`,
  transposed: (line) => t`${line} probably has two digits swapped.`,
};

/** Ways to show what causes name. */
interface Shown {
  readonly showDate: (date: string) => string;
  readonly amount: (minor: number) => string;
}

/** Why an amount is unexplained, and what to do about it, in sentences. */
export function causeWords(cause: ProofCause, { showDate, amount }: Shown): string {
  const { kind, date, since, likely, text } = cause;
  const named = text ? ` “${text}”` : '';
  switch (kind) {
    case 'bankDiffers': {
      const where =
        since === null
          ? t`The bank’s balances stop adding up on or before ${showDate(date)}`
          : t`The bank’s balances stop adding up between ${showDate(since)} and ${showDate(date)}`;
      if (likely) {
        const line = t`The line “${likely.description}” of ${showDate(likely.date)}`;
        return `${where}. ${LIKELY[likely.reason](line)}`;
      }
      const off = amount(Math.abs(cause.amount));
      return cause.amount > 0
        ? t`${where}: the bank has ${off} more than the lines add up to. Fetch these days again; a line may be missing.`
        : t`${where}: the bank has ${off} less than the lines add up to. Fetch these days again; a line may be missing.`;
    }
    case 'sidesDiffer':
      return t`The line${named} of ${showDate(date)} doesn’t equal the entries it is linked to. Reopen the line and post or pair it again.`;
    case 'lineGone':
      return t`The entry${named} of ${showDate(date)} was posted from a line that is no longer here. Void the entry, or restore the line in History.`;
    case 'notAwaited':
      return t`The journal${named} of ${showDate(date)} changes the bank account, and no bank line is expected for it. Change the journal: say that the bank will report it, or use another account.`;
    case 'beforeOpening':
      return t`The line${named} of ${showDate(date)} is in the books, but the opening balance already includes its day. Reopen it and exclude it as before the opening balance.`;
    case 'unknown':
      return t`Nothing on this account explains it by ${showDate(date)}. Compare the register with the bank’s statement.`;
  }
}

/** How a proof ends: proved, calculated only, or with something unexplained. */
export type Verdict = 'proved' | 'calculated' | 'unexplained';

/** @example verdictOf(proof) // 'calculated' where no bank stated the balance, whatever adds up */
export function verdictOf(proof: Pick<Proof, 'isStated' | 'causes'>): Verdict {
  if (proof.causes.length > 0) return 'unexplained';
  return isProved(proof) ? 'proved' : 'calculated';
}

/** What stands over the bank's balance. @example 'Bank says, 31 Mar' */
export function bankLabel(
  { isStated, date, statedDate, accountCount, statedCount }: Proof,
  showDate: (date: string) => string,
): string {
  if (isStated) return t`Bank says, ${showDate(statedDate ?? date)}`;
  if (accountCount > 1 && statedCount > 0) {
    return t`Stated for ${statedCount} of ${accountCount} accounts, ${showDate(date)}`;
  }
  return t`Calculated, not stated, ${showDate(date)}`;
}
