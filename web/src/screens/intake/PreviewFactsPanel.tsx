import type { BankAccount } from '@zubrell/contract/books';
import type { DateOrder } from '@zubrell/core/dates/calendarDate';
import type { Problem } from '@zubrell/core/formats/bankFile';
import { t } from '@zubrell/core/words/t';
import type { ReactNode } from 'react';
import { formatCount } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { tx } from '../../ui/tx.tsx';
import type { Comparison, FileSummary, StatementSummary } from '../../workers/fileReading.ts';
import { BalanceNote } from './BalanceNote.tsx';
import { DateQuestion } from './DateQuestion.tsx';
import { PreparedNote } from './PreparedNote.tsx';
import { ProblemList } from './ProblemList.tsx';
import type { Consents } from './StatementPreview.tsx';

/** What a statement brings, whether its balances add up, and what must be said yes to. */
export function PreviewFactsPanel({
  summary,
  statement,
  comparison,
  bankAccount,
  refused,
  isOtherCurrency,
  isOtherNumber,
  hasGap,
  isAhead,
  onDates,
  consents,
  onConsent,
}: {
  readonly summary: FileSummary;
  readonly statement: StatementSummary;
  readonly comparison: Comparison | null;
  readonly bankAccount: BankAccount | null;
  readonly refused: readonly Problem[];
  readonly isOtherCurrency: boolean;
  readonly isOtherNumber: boolean;
  /** Its own balances don't fit its lines, although all could be read. */
  readonly hasGap: boolean;
  /** Lines are dated after today. */
  readonly isAhead: boolean;
  /** Whether day or month comes first was said. */
  readonly onDates: (order: DateOrder) => void;
  readonly consents: Consents;
  readonly onConsent: (changed: Partial<Consents>) => void;
}) {
  const { amount } = useBooks();
  const showDate = useShowDate();
  const { first, last, count } = statement.lines;
  const opening = openingOf(statement, bankAccount);
  const isCardTheOtherWay =
    bankAccount?.kind === 'card' &&
    summary.layout !== null &&
    !summary.layout.isProved &&
    statement.inCount > statement.outCount;
  const { mismatch = null } = comparison ?? {};
  return (
    <>
      {summary.openDate !== null && <DateQuestion written={summary.openDate} onChoose={onDates} />}
      {isAhead && last && (
        <Consent isGiven={consents.dates} onChange={(dates) => onConsent({ dates })}>
          {t`Lines are dated after today, up to ${showDate(last)}. Import them if that is right.`}
        </Consent>
      )}
      <BalanceNote statement={statement} layout={summary.layout} refused={refused} />
      {isCardTheOtherWay && (
        <p className="note off">
          {t`On a card most lines are paid out, but in this file most are paid in. If that is the wrong way round, say above that minus means paid in.`}
        </p>
      )}
      {opening && (
        <p className="note">
          {t`The opening balance of ${amount(opening.amount)} on ${showDate(opening.date)} is posted with it.`}
        </p>
      )}
      {isOtherCurrency && (
        <p className="error-note">
          {tx`The file is in ${statement.currency}, and ${bankAccount?.name} is in ${bankAccount?.currency}. Choose another bank account, or make a new one in ${statement.currency}.`}
        </p>
      )}
      {isOtherNumber && (
        <Consent isGiven={consents.number} onChange={(number) => onConsent({ number })}>
          {tx`The file is of account ${statement.account}, the chosen one is ${bankAccount?.number}. Import it there anyway.`}
        </Consent>
      )}
      {hasGap && !mismatch && bankAccount && (
        <Consent isGiven={consents.balance} onChange={(balance) => onConsent({ balance })}>
          {t`Import it although its own balances leave ${amount(statement.gap ?? 0)} unexplained.`}
        </Consent>
      )}
      {mismatch && bankAccount && (
        <Consent isGiven={consents.balance} onChange={(balance) => onConsent({ balance })}>
          {t`With this file ${bankAccount.name} would stand at ${amount(mismatch.wouldBe)} on ${showDate(mismatch.stated.date)}.`}{' '}
          {(statement.gap ?? 0) !== 0
            ? t`From the file’s opening balance, the lines that were read lead to ${amount(mismatch.stated.amount)}.`
            : t`The file states ${amount(mismatch.stated.amount)}.`}{' '}
          {t`${amount(mismatch.stated.amount - mismatch.wouldBe, { plus: true })} stays unexplained: lines may be missing before this file, or it is of another account. Import it anyway.`}
        </Consent>
      )}
      <section>
        <h2 className="small-heading">{t`Summary`}</h2>
        <div className="tally">
          {first && last && (
            <>
              <span>{t`Dates`}</span>
              <b>{t`${showDate(first)} to ${showDate(last)}`}</b>
            </>
          )}
          <span>{t`New`}</span>
          <b>{comparison?.counts.new ?? count}</b>
          <span>{t`Already imported`}</span>
          <b>{comparison?.counts.already ?? '…'}</b>
          <span>{t`May be the same payment twice`}</span>
          <b>{comparison?.counts.doubtful ?? '…'}</b>
          <span>{t`Unreadable`}</span>
          <b>{formatCount(refused.length)}</b>
          {comparison && comparison.beforeOpeningCount > 0 && (
            <>
              <span>{t`Before the opening balance`}</span>
              <b>{formatCount(comparison.beforeOpeningCount)}</b>
            </>
          )}
          {comparison && comparison.closedCount > 0 && (
            <>
              <span>{t`In a closed period`}</span>
              <b>{formatCount(comparison.closedCount)}</b>
            </>
          )}
          <span>{t`Paid out`}</span>
          <b>{amount(statement.paidOut)}</b>
          <span>{t`Paid in`}</span>
          <b>{amount(statement.paidIn, { plus: true })}</b>
        </div>
      </section>
      <PreparedNote names={statement.names} />
      {summary.problems.length > 0 && (
        <section>
          <h2 className="small-heading">{t`To check`}</h2>
          <ProblemList problems={summary.problems} />
          {refused.length > 0 && (
            <Consent isGiven={consents.refused} onChange={(given) => onConsent({ refused: given })}>
              {refused.length === 1
                ? t`Import the rest without it.`
                : t`Import the rest without them.`}
            </Consent>
          )}
        </section>
      )}
    </>
  );
}

/** The opening balance that keeping the statement would post, or null. */
function openingOf(
  { before, lines }: StatementSummary,
  bankAccount: BankAccount | null,
): StatementSummary['before'] {
  const isOpen = bankAccount === null || bankAccount.opening !== null;
  const isEarliest = (bankAccount?.firstDate ?? lines.first ?? '') >= (lines.first ?? '');
  return isOpen || !isEarliest ? null : before;
}

function Consent({
  isGiven,
  onChange,
  children,
}: {
  readonly isGiven: boolean;
  readonly onChange: (isGiven: boolean) => void;
  readonly children: ReactNode;
}) {
  return (
    <label className="consent">
      <input
        type="checkbox"
        className="form-check-input"
        checked={isGiven}
        onChange={({ target }) => onChange(target.checked)}
      />
      <span className="doubt">{children}</span>
    </label>
  );
}
