import type { Explanation, Statement } from '@zubrell/contract/statements';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { statementsApi } from '../../api/statements.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { CauseAction } from './CauseAction.tsx';
import { causeReasons, causeTitle } from './statementWords.ts';

type Cause = Explanation['causes'][number];

/** One explanation of a difference: what it is, why it is thought, and what settles it. */
export function CauseCard({
  statement,
  explanation,
  isCurrent,
  isTried,
  onTry,
}: {
  readonly statement: Statement;
  readonly explanation: Explanation;
  readonly isCurrent: boolean;
  readonly isTried: boolean;
  readonly onTry: (key: string | null) => void;
}) {
  const { booksId, amount } = useBooks();
  const { told } = useUndo();
  const [send, { isLoading }] = statementsApi.useChangeStatementMutation();
  const { key, causes, likelihood } = explanation;
  const { bankAccountId, to } = statement;
  const isPair = causes.length > 1;

  async function dismiss(): Promise<void> {
    onTry(null);
    told(await send({ booksId, bankAccountId, to, dismiss: key }));
  }

  return (
    <article className={`cause ${isCurrent ? 'current' : ''}`}>
      <header>
        <b>{isPair ? t`Two causes together` : causeTitle(causes[0] as Cause, amount)}</b>
        <span className="quiet">{likelihood}</span>
      </header>
      {causes.map((cause) => (
        <div
          key={`${cause.kind} ${cause.lineIds.join()} ${cause.amount}`}
          className={isPair ? 'part' : ''}
        >
          {isPair && <b>{causeTitle(cause, amount)}</b>}
          <p>
            <CauseFacts statement={statement} cause={cause} /> {causeReasons(cause)}
          </p>
          {isPair && <CauseAction statement={statement} cause={cause} isMain={isCurrent} />}
        </div>
      ))}
      <div className="ways">
        {!isPair && causes[0] && (
          <CauseAction statement={statement} cause={causes[0]} isMain={isCurrent} />
        )}
        <Button
          variant="plain"
          size="sm"
          aria-pressed={isTried}
          onClick={() => onTry(isTried ? null : key)}
        >
          {isTried ? t`Stop trying` : t`Try`}
        </Button>
        <Button variant="plain" size="sm" disabled={isLoading} onClick={() => void dismiss()}>
          {causes[0]?.kind === 'sameTwice' && !isPair ? t`Both are real` : t`Set aside`}
        </Button>
      </div>
    </article>
  );
}

/** The lines that a cause is about, with their days and amounts; or the days on which something is missing. */
function CauseFacts({
  statement,
  cause,
}: {
  readonly statement: Statement;
  readonly cause: Cause;
}) {
  const { amount } = useBooks();
  const showDate = useShowDate();
  const rows = cause.lineIds.flatMap((id) => statement.named.filter((line) => line.id === id));
  if (rows.length > 0) {
    return (
      <>
        {rows.map(({ id, date, text, amount: minor }, at) => (
          <span key={id}>
            {at > 0 && '; '}
            {showDate(date)} <span className="mono">{text}</span> {amount(minor, { plus: true })}
          </span>
        ))}
        .
      </>
    );
  }
  const { from, to, amount: minor } = cause;
  if (cause.kind === 'lineMissing' || cause.kind === 'announcedBooked') {
    return (
      <>
        {t`${amount(minor, { plus: true })} between ${showDate(from ?? '')} and ${showDate(to ?? '')}.`}
      </>
    );
  }
  if (cause.kind === 'opening') {
    return (
      <>
        {t`The bank states ${amount(cause.instead ?? 0)}, and the statement before closed at ${amount(statement.opening)}.`}
      </>
    );
  }
  if (cause.kind === 'closingMistyped') {
    return <>{t`Opening balance and lines add up to ${amount(cause.instead ?? 0)}.`}</>;
  }
  return null;
}
