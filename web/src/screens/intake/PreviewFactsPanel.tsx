import type { BankAccount } from '@zubrell/contract/books';
import type { BankStatement, Problem } from '@zubrell/core/formats/bankFile';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { ProblemList } from './ProblemList.tsx';
import type { PreviewFacts } from './usePreviewFacts.ts';

/** What a statement brings, whether its balances add up, and what must be said yes to. */
export function PreviewFactsPanel({
  statement,
  facts,
  problems,
  bankAccount,
  isAccepted,
  onAccept,
  isConfirmed,
  onConfirm,
}: {
  readonly statement: BankStatement;
  readonly facts: PreviewFacts;
  readonly problems: readonly Problem[];
  readonly bankAccount: BankAccount | null;
  readonly isAccepted: boolean;
  readonly onAccept: (isAccepted: boolean) => void;
  readonly isConfirmed: boolean;
  readonly onConfirm: (isConfirmed: boolean) => void;
}) {
  const { amount, setup } = useBooks();
  const showDate = useShowDate();
  const dates = statement.lines.map((line) => line.date).sort();
  const count = statement.lines.length;
  return (
    <>
      <BalanceNote statement={statement} facts={facts} />
      {facts.opening && (
        <p className="note">
          The opening balance of {amount(facts.opening.amount)} on {showDate(facts.opening.date)} is
          posted with it.
        </p>
      )}
      {facts.isOtherCurrency && (
        <p className="error-note">
          The file is in {statement.currency}, these books are in {setup.books.currency}. It can’t
          be kept here.
        </p>
      )}
      {facts.isOtherNumber && (
        <label className="consent">
          <input
            type="checkbox"
            className="form-check-input"
            checked={isConfirmed}
            onChange={(event) => onConfirm(event.target.checked)}
          />
          <span className="doubt">
            The file is of account {statement.account}, the chosen one is {bankAccount?.number}.
            Keep it there all the same.
          </span>
        </label>
      )}
      <section>
        <h2 className="small-heading">What it brings</h2>
        <div className="tally">
          <span>Dates</span>
          <b>
            {showDate(dates[0] ?? '')} to {showDate(dates.at(-1) ?? '')}
          </b>
          <span>New</span>
          <b>{count - facts.hereCount - facts.doubtfulCount}</b>
          <span>Here already</span>
          <b>{facts.hereCount}</b>
          <span>May be the same payment twice</span>
          <b>{facts.doubtfulCount}</b>
          <span>Can’t be read</span>
          <b>{facts.refused.length}</b>
          <span>Paid out</span>
          <b>{amount(facts.paidOut)}</b>
          <span>Paid in</span>
          <b>{amount(facts.paidIn, { plus: true })}</b>
        </div>
      </section>
      {problems.length > 0 && (
        <section>
          <h2 className="small-heading">Something wrong</h2>
          <ProblemList problems={problems} />
          {facts.refused.length > 0 && (
            <label className="consent">
              <input
                type="checkbox"
                className="form-check-input"
                checked={isAccepted}
                onChange={(event) => onAccept(event.target.checked)}
              />
              <span>Keep the rest without {facts.refused.length === 1 ? 'it' : 'them'}.</span>
            </label>
          )}
        </section>
      )}
    </>
  );
}

/** Whether opening, lines and closing add up, and what stays unexplained. */
function BalanceNote({
  statement,
  facts,
}: {
  readonly statement: BankStatement;
  readonly facts: PreviewFacts;
}) {
  const { amount } = useBooks();
  const { opening, closing } = statement;
  if (closing === null) {
    return (
      <p className="note quiet">The file states no balance, so it proves nothing by itself.</p>
    );
  }
  if (facts.gap === null || opening === null) {
    return (
      <p className="note sure">
        Closing balance {amount(closing)}
        {statement.closingDate && `, ${statement.closingDate}`}.
      </p>
    );
  }
  const sum = `${amount(opening)} + ${statement.lines.length} lines`;
  return facts.gap === 0 ? (
    <p className="note sure">
      {sum} = {amount(closing)}. The balances add up.
    </p>
  ) : (
    <p className="note off">
      {sum} is not {amount(closing)}: {amount(facts.gap)} stays unexplained
      {facts.refused.length > 0 && ' without the records that can’t be read'}.
    </p>
  );
}
