import type { BooksSetup } from '@zubrell/contract/books';
import type { DifferenceAnswer, PairRow } from '@zubrell/contract/pairing';
import { sumOf } from '@zubrell/core/money/minor';
import { candidateName } from '@zubrell/core/pair/candidateNames';
import { explainDifference } from '@zubrell/core/pair/explainDifference';
import { amountReasonWords } from '@zubrell/core/pair/pairWords';
import { lowerFirst } from '@zubrell/core/text/lowerFirst';
import { t } from '@zubrell/core/words/t';
import { type ReactNode, useState } from 'react';
import { useBooks } from '../../app/useBooks.ts';
import { tx } from '../../ui/tx.tsx';
import { AccountAndTaxFields } from '../ledger/PartFields.tsx';
import { differenceChoices } from './pairingShown.ts';

/** What a difference may come from, and what can be done with it: our own mistake first, a plug last. */
export function DifferencePanel({
  rows,
  by,
  answer,
  onAnswer,
}: {
  readonly rows: readonly PairRow[];
  /** How much more the bank moved. */
  readonly by: number;
  readonly answer: DifferenceAnswer | null;
  readonly onAnswer: (answer: DifferenceAnswer | null) => void;
}) {
  const { amount, setup } = useBooks();
  const { correctable, canBePartPaid, canBeCredit } = differenceChoices(rows, by);
  const total = sumOf(rows);
  const rates = setup.taxCodes.flatMap((code) => code.rates.map(({ rate }) => rate));
  const { because } = explainDifference(total + by, total, rates, []);
  const [isCoding, setIsCoding] = useState(answer?.kind === 'code');
  const choose = (next: DifferenceAnswer) => {
    setIsCoding(false);
    onAnswer(next);
  };
  return (
    <section className="difference">
      <h2 className="small-heading">{t`Off by ${amount(Math.abs(by))}`}</h2>
      <p>
        {by * Math.sign(total || by) > 0
          ? t`The bank moved more than this total.`
          : t`The bank moved less than this total.`}
        {because !== null && ` ${amountReasonWords[because]}`}
      </p>
      {correctable.map((row) => (
        <Choice
          key={row.id}
          isOn={answer?.kind === 'correct' && answer.targetId === row.id}
          onChoose={() => choose({ kind: 'correct', targetId: row.id })}
        >
          {t`Our record is wrong: correct ${lowerFirst(candidateName(row))} to ${amount(Math.abs(row.amount + by))}`}
        </Choice>
      ))}
      {canBePartPaid && (
        <Choice isOn={answer?.kind === 'partPaid'} onChoose={() => choose({ kind: 'partPaid' })}>
          {t`Leave ${amount(Math.abs(by))} of it open, as paid in part`}
        </Choice>
      )}
      {canBeCredit && (
        <Choice isOn={answer?.kind === 'onAccount'} onChoose={() => choose({ kind: 'onAccount' })}>
          {tx`Keep ${amount(Math.abs(by))} as credit with ${rows[0]?.payee}`}
        </Choice>
      )}
      <Choice
        isOn={isCoding}
        onChoose={() => {
          setIsCoding(true);
          onAnswer(because === 'fee' ? feeOf(setup) : null);
        }}
      >
        {t`Code ${amount(Math.abs(by))} to an account, with a reason`}
      </Choice>
      {isCoding && (
        <CodeRest
          isFee={because === 'fee'}
          start={answer?.kind === 'code' ? answer : null}
          onAnswer={onAnswer}
        />
      )}
    </section>
  );
}

type CodedRest = Extract<DifferenceAnswer, { kind: 'code' }>;

/** A fee goes where bank charges go, if the chart has such an account. */
function feeOf({ accounts }: BooksSetup): CodedRest | null {
  const charges = accounts.find(({ purpose, isOn }) => isOn && purpose.split(' ').includes('fee'));
  return charges
    ? { kind: 'code', accountId: charges.id, taxCodeId: null, reason: t`fee kept back` }
    : null;
}

function Choice({
  isOn,
  onChoose,
  children,
}: {
  readonly isOn: boolean;
  readonly onChoose: () => void;
  readonly children: ReactNode;
}) {
  return (
    <label className="difference-choice">
      <input type="radio" className="form-check-input" checked={isOn} onChange={onChoose} />
      <span>{children}</span>
    </label>
  );
}

/** The account, the tax code and the reason for what is coded. */
function CodeRest({
  isFee,
  start,
  onAnswer,
}: {
  readonly isFee: boolean;
  readonly start: CodedRest | null;
  readonly onAnswer: (answer: DifferenceAnswer | null) => void;
}) {
  const [coded, setCoded] = useState({
    accountId: start?.accountId ?? null,
    taxCodeId: start?.taxCodeId ?? null,
    reason: start?.reason ?? '',
  });
  function set(part: Partial<typeof coded>): void {
    const next = { ...coded, ...part };
    setCoded(next);
    const { accountId, taxCodeId } = next;
    const reason = next.reason.trim();
    onAnswer(
      accountId === null || reason === '' ? null : { kind: 'code', accountId, taxCodeId, reason },
    );
  }
  return (
    <div className="code-rest">
      <AccountAndTaxFields
        label={t`of the rest`}
        areBanksIn={false}
        accountId={coded.accountId}
        taxCodeId={coded.taxCodeId}
        onChange={(accountId, taxCodeId) => set({ accountId, taxCodeId })}
      />
      <input
        className="form-control form-control-sm"
        aria-label={t`Reason`}
        placeholder={t`Reason, such as fee kept back`}
        value={coded.reason}
        maxLength={200}
        onChange={({ target }) => set({ reason: target.value })}
      />
      <p className="quiet mb-0">
        {isFee
          ? t`This posts a cost without a document. Use it as a last resort.`
          : t`This posts an amount without a document. Use it as a last resort.`}
      </p>
    </div>
  );
}
