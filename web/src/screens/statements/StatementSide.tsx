import type { Statement } from '@zubrell/contract/statements';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { statementsApi } from '../../api/statements.ts';
import { counted, countLines } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowMoment } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { tx } from '../../ui/tx.tsx';
import { CardPayment } from './CardPayment.tsx';
import { CauseCard } from './CauseCard.tsx';
import { alsoLookedFor } from './statementWords.ts';

/** What would explain a difference, what else is in the way, or who agreed the statement. */
export function StatementSide({
  statement,
  currentKey,
  isTrying,
  onTry,
}: {
  readonly statement: Statement;
  readonly currentKey: string | null;
  readonly isTrying: boolean;
  readonly onTry: (key: string | null) => void;
}) {
  const { amount } = useBooks();
  const { off, explanations, state } = statement;
  if (state === 'agreed') return <AgreedSide statement={statement} />;
  if (off === null || off === 0) return <Hindrances statement={statement} />;
  const others = alsoLookedFor(explanations);
  return (
    <aside className="statement-side" aria-label={t`What would explain the difference`}>
      <CardPayment statement={statement} />
      <h2>{t`What would explain ${amount(Math.abs(off))}`}</h2>
      {explanations.map((explanation) => (
        <CauseCard
          key={explanation.key}
          statement={statement}
          explanation={explanation}
          isCurrent={explanation.key === currentKey}
          isTried={isTrying && explanation.key === currentKey}
          onTry={onTry}
        />
      ))}
      {explanations.length === 0 && <NothingFound statement={statement} />}
      {others !== null && <p className="quiet">{others}</p>}
      <Dismissed statement={statement} />
    </aside>
  );
}

function NothingFound({ statement }: { readonly statement: Statement }) {
  const { off } = statement;
  return (
    <p>
      {t`Nothing recorded here explains it. ${(off ?? 0) < 0 ? t`Compare the money paid out` : t`Compare the money paid in`} with the bank’s statement line by line; “Runs to” shows the balance after each line, and the first day on which it differs is where to look.`}
    </p>
  );
}

function Dismissed({ statement }: { readonly statement: Statement }) {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const [send, { isLoading }] = statementsApi.useChangeStatementMutation();
  const { dismissedCount, bankAccountId, to } = statement;
  if (dismissedCount === 0) return null;
  return (
    <p className="quiet">
      {tx`${counted(dismissedCount, 'explanation', 'explanations')} set aside. ${(
        <Button
          variant="link"
          disabled={isLoading}
          onClick={() =>
            void send({ booksId, bankAccountId, to, restoreDismissed: true }).then(told)
          }
        >
          {t`Show all again`}
        </Button>
      )}`}
    </p>
  );
}

/** What keeps a statement that adds up from being agreed. */
function Hindrances({ statement }: { readonly statement: Statement }) {
  const { hindrances, askedCount } = statement;
  return (
    <aside className="statement-side" aria-label={t`Before it can be agreed`}>
      <CardPayment statement={statement} />
      <h2>{hindrances.length === 0 ? t`Ready to agree` : t`Before it can be agreed`}</h2>
      {hindrances.map(({ code, message }: Statement['hindrances'][number]) => (
        <p key={code} className="hindrance">
          {message}
        </p>
      ))}
      {hindrances.length === 0 && <p>{t`The statement adds up and nothing is open.`}</p>}
      {askedCount > 0 && (
        <p className="asked">
          {t`${counted(askedCount, 'line waits', 'lines wait')} for an answer. You can still agree the statement.`}
        </p>
      )}
    </aside>
  );
}

function AgreedSide({ statement }: { readonly statement: Statement }) {
  const showMoment = useShowMoment();
  const { agreedBy, agreedAt, outstanding, lineCount } = statement;
  return (
    <aside className="statement-side" aria-label={t`Agreement`}>
      <CardPayment statement={statement} />
      <h2>{t`Agreed`}</h2>
      <p>
        {tx`By ${agreedBy}`}
        {tx`${agreedAt && `, ${showMoment(agreedAt)}`}, with ${
          statement.isTicked ? counted(lineCount, 'entry', 'entries') : countLines(lineCount)
        }.`}
      </p>
      <p>
        {outstanding.length === 0
          ? t`Nothing was outstanding.`
          : t`${counted(outstanding.length, 'item', 'items')} not yet at the bank.`}
      </p>
      <p className="quiet">
        {t`Nothing up to its last day changes. A line that arrives later, or is undone, counts on the first open day and is marked as late.`}
      </p>
    </aside>
  );
}
