import type { DeskLine } from '@zubrell/contract/desk';
import type { AccountId, EntryId } from '@zubrell/core/ids';
import type { CodingPart } from '@zubrell/core/ledger/coding';
import { excludeReasons } from '@zubrell/core/ledger/excludeReasons';
import { candidateName } from '@zubrell/core/pair/candidateNames';
import { t } from '@zubrell/core/words/t';
import { Fragment, useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { counted } from '../../../app/formats.ts';
import { useBooks } from '../../../app/useBooks.ts';
import { useShowDate } from '../../../app/useToday.ts';
import { useUndo } from '../../../app/useUndo.tsx';
import { useDeskActions } from '../useDeskActions.ts';
import { RecodeFields } from './RecodeFields.tsx';

const HEADINGS = {
  posted: t`Posted`,
  paired: t`Paired`,
  excluded: t`Excluded`,
  deleted: t`Deleted`,
} as const;

const REOPEN = {
  posted: t`Reopen line`,
  paired: t`Undo pairing`,
  excluded: t`Restore line`,
  deleted: t`Restore line`,
} as const;

/** What was decided about a line, with ways to its entry and back. */
export function DecidedSection({
  line,
  entryId,
}: {
  readonly line: DeskLine;
  readonly entryId: EntryId | null;
}) {
  const { booksId, setup, payeeName, amount } = useBooks();
  const showDate = useShowDate();
  const bank = setup.bankAccounts.find(({ id }) => id === line.bankAccountId);
  const { undo } = useUndo();
  const { reopen } = useDeskActions();
  const { decision } = line;
  const parts = decision?.coding?.parts ?? [];
  const [part] = parts;
  const [recoded, setRecoded] = useState<AccountId | null>(null);
  if (decision === null) return null;
  const mayRecode = decision.kind === 'posted' && setup.books.role !== 'reviewer';
  return (
    <section>
      <h2 className="small-heading">{HEADINGS[decision.kind]}</h2>
      <div className="facts">
        {part && (
          <>
            <span>{t`Payee`}</span>
            <span>{payeeName(decision.coding?.payeeId ?? null) || t`none`}</span>
            {parts.map((each, at) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: the parts of a coding keep their order
              <PartFacts key={at} part={each} onChange={mayRecode ? setRecoded : null} />
            ))}
            {decision.coding?.note && (
              <>
                <span>{t`Note`}</span>
                <span>{decision.coding.note}</span>
              </>
            )}
          </>
        )}
        {decision.paired.map((target) => (
          <Fragment key={target.id}>
            <span>{t`With`}</span>
            <span>
              {candidateName(target)}
              {target.payeeId && `, ${payeeName(target.payeeId)}`}, {showDate(target.date)}
              {`, ${amount(Math.abs(target.amount))}`}
            </span>
          </Fragment>
        ))}
        {decision.mates > 0 && (
          <>
            <span>{t`Together with`}</span>
            <span>{counted(decision.mates, 'other line', 'other lines')}</span>
          </>
        )}
        {decision.rule && (
          <>
            <span>{t`Rule`}</span>
            <span>
              {decision.rule.isHere ? (
                <Link to={`/books/${booksId}/rules/${decision.rule.id}`}>{decision.rule.name}</Link>
              ) : (
                t`${decision.rule.name}, which was deleted`
              )}
            </span>
          </>
        )}
        {decision.isOnce && (
          <>
            <span>{t`Learned`}</span>
            <span>{t`nothing: posted once only`}</span>
          </>
        )}
        {decision.reason && (
          <>
            <span>{t`Reason`}</span>
            <span>{excludeReasons[decision.reason]}</span>
          </>
        )}
      </div>
      {recoded !== null && (
        <RecodeFields
          target={{ lineIds: [line.id] }}
          isOut={line.amount < 0}
          fromAccountId={parts.length > 1 ? recoded : undefined}
          autoFocus
          onDone={() => setRecoded(null)}
          onCancel={() => setRecoded(null)}
        >
          {t`Recode line`}
        </RecodeFields>
      )}
      <div className="d-flex flex-wrap gap-2 mt-2">
        {entryId && bank && (
          <Link
            className="btn btn-plain"
            to={`/books/${booksId}/ledger/${part?.accountId ?? bank.accountId}?entry=${entryId}`}
          >
            {t`Open entry`}
          </Link>
        )}
        <Button variant="plain" onClick={() => void reopen(line)}>
          {REOPEN[decision.kind]}
        </Button>
        <Button variant="plain" onClick={() => void undo(decision.step)}>
          {t`Undo step ${decision.step}`}
        </Button>
      </div>
    </section>
  );
}

/** The account and tax of one part; pressing the account changes it. */
function PartFacts({
  part: { accountId, taxCodeId },
  onChange,
}: {
  readonly part: CodingPart;
  readonly onChange: ((accountId: AccountId) => void) | null;
}) {
  const { booksId, accountName, taxName } = useBooks();
  const name = accountName(accountId);
  return (
    <>
      <span>{t`Account`}</span>
      <span>
        {onChange === null ? (
          <Link to={`/books/${booksId}/ledger/${accountId}`}>{name}</Link>
        ) : (
          <Button
            variant="link"
            className="p-0 text-start"
            aria-label={t`Change the account ${name}`}
            onClick={() => onChange(accountId)}
          >
            {name}
          </Button>
        )}
      </span>
      <span>{t`Tax`}</span>
      <span>{taxName(taxCodeId) || t`none`}</span>
    </>
  );
}
