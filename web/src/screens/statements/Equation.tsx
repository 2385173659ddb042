import type { Explanation, Statement, StatementSummary } from '@zubrell/contract/statements';
import { sumOf } from '@zubrell/core/money/minor';
import { t } from '@zubrell/core/words/t';
import { type ReactNode, useState } from 'react';
import { Button } from 'react-bootstrap';
import { counted, countLines } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { ClosingDialog } from './ClosingDialog.tsx';
import { PeriodDialog } from './PeriodDialog.tsx';
import { periodWords } from './statementWords.ts';

/** What the equation says of a statement: all of it is known before its lines are. */
export type StatementHead = StatementSummary &
  Pick<Statement, 'isTicked' | 'statedOpening' | 'before'>;

/** Opened at + lines = adds up to; what the statement says, and how much it is off. */
export function Equation({
  statement,
  tried,
}: {
  readonly statement: StatementHead;
  readonly tried: Explanation | null;
}) {
  const { amount, bankAccountName } = useBooks();
  const showDate = useShowDate();
  const [changing, setChanging] = useState<'closing' | 'period' | null>(null);
  const { bankAccountId, from, to, opening, closing, addsUp, off, lineCount, before } = statement;
  const isAgreed = statement.state === 'agreed';
  const would = tried === null || closing === null ? null : whatItWould(tried, { addsUp, closing });
  return (
    <header className="equation">
      <div className="of">
        <h1>{bankAccountName(bankAccountId)}</h1>
        <Button
          variant="link"
          disabled={isAgreed}
          onClick={() => setChanging('period')}
          title={isAgreed ? undefined : t`Change the last day`}
        >
          {periodWords(from, to)}
        </Button>
      </div>
      <Term
        label={before ? t`Opened at, closed ${showDate(before.to)}` : t`Opened at, opening balance`}
      >
        {amount(opening)}
      </Term>
      <span className="operator">+</span>
      <Term
        label={statement.isTicked ? ticked(lineCount) : t`${countLines(lineCount)} in the period`}
      >
        {amount(addsUp - opening)}
      </Term>
      <span className="operator">=</span>
      <Term label={would && would.addsUp !== addsUp ? t`Would add up to` : t`Adds up to`}>
        <span className={would && would.addsUp !== addsUp ? 'would' : ''}>
          {amount(would?.addsUp ?? addsUp)}
        </span>
      </Term>
      <span className="operator">·</span>
      <Term label={t`Statement says`}>
        {closing === null ? (
          <Button variant="plain" size="sm" onClick={() => setChanging('closing')}>
            {t`Enter closing balance`}
          </Button>
        ) : (
          <Button
            variant="link"
            disabled={isAgreed}
            title={isAgreed ? undefined : t`Change the closing balance`}
            onClick={() => setChanging('closing')}
          >
            <span className={would && would.closing !== closing ? 'would' : ''}>
              {amount(would?.closing ?? closing)}
            </span>
          </Button>
        )}
      </Term>
      <Verdict
        off={would ? would.closing - would.addsUp : off}
        isTried={would !== null}
        isAgreed={isAgreed}
      />
      {changing === 'closing' && (
        <ClosingDialog statement={statement} onClose={() => setChanging(null)} />
      )}
      {changing === 'period' && (
        <PeriodDialog statement={statement} onClose={() => setChanging(null)} />
      )}
      {statement.statedOpening !== null && !isAgreed && (
        <p className="stated-opening">
          {t`The bank states an opening balance of ${amount(statement.statedOpening)}, and the statement before closed at ${amount(opening)}: ${amount(Math.abs(statement.statedOpening - opening))} apart.`}
        </p>
      )}
    </header>
  );
}

const ticked = (count: number) => counted(count, 'entry ticked', 'entries ticked');

/** What the equation would say with an explanation settled. */
function whatItWould(
  { causes }: Explanation,
  { addsUp, closing }: { readonly addsUp: number; readonly closing: number },
) {
  const isClosing = ({ kind }: (typeof causes)[number]) => kind === 'closingMistyped';
  return {
    addsUp: addsUp + sumOf(causes.filter((cause) => !isClosing(cause))),
    closing: closing - sumOf(causes.filter(isClosing)),
  };
}

function Term({ label, children }: { readonly label: string; readonly children: ReactNode }) {
  return (
    <div className="term">
      <small>{label}</small>
      <b>{children}</b>
    </div>
  );
}

function Verdict({
  off,
  isTried,
  isAgreed,
}: {
  readonly off: number | null;
  readonly isTried: boolean;
  readonly isAgreed: boolean;
}) {
  const { amount } = useBooks();
  if (isAgreed) return <output className="verdict even">{t`Agreed`}</output>;
  if (off === null) return <output className="verdict">{t`No closing balance yet`}</output>;
  return (
    <output className={`verdict ${off === 0 ? 'even' : 'off'}`}>
      {isTried
        ? triedWords(off, amount)
        : off === 0
          ? t`Adds up`
          : t`Off by ${amount(Math.abs(off))}`}
    </output>
  );
}

function triedWords(off: number, amount: (minor: number) => string): string {
  return off === 0 ? t`Would add up` : t`Would be off by ${amount(Math.abs(off))}`;
}
