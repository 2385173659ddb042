import type { DecidedTarget } from '@zubrell/contract/desk';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { linesApi } from '../../../api/lines.ts';
import { countLines } from '../../../app/formats.ts';
import { useAppDispatch, useAppSelector } from '../../../app/store.ts';
import { useBooks } from '../../../app/useBooks.ts';
import { useUndo } from '../../../app/useUndo.tsx';
import { Amount } from '../../../ui/Amount.tsx';
import { ticksCleared } from '../deskSlice.ts';
import type { TickedRow } from '../rows.ts';
import { decidedOf } from '../rowsAsked.ts';
import { useDeskScope } from '../useDeskScope.ts';
import { useSeenStep } from '../useSeenStep.ts';
import { ExcludeDecidedDialog } from './ExcludeDecidedDialog.tsx';
import { RecodeFields } from './RecodeFields.tsx';

/** What can be done with ticked decided lines together: coded otherwise, reopened, excluded. */
export function RecodeBar({ row }: { readonly row: TickedRow }) {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const dispatch = useAppDispatch();
  const seenStep = useSeenStep();
  const shown = useDeskScope();
  const isAll = useAppSelector((state) => state.desk.isAllTicked);
  const { data: sum } = linesApi.useDecidedSumQuery({ booksId, ...decidedOf(shown) });
  const [reopen, { isLoading: isReopening }] = linesApi.useReopenLinesMutation();
  const [isExcluding, setIsExcluding] = useState(false);
  const target: DecidedTarget = isAll
    ? { decided: decidedOf(shown) }
    : { lineIds: [...row.lineIds] };
  const { count, total, currency } = isAll && sum ? sum : { ...row, count: row.lineIds.length };
  const lines = countLines(count);
  const clear = () => dispatch(ticksCleared());

  return (
    <section className="recode-bar" aria-label={t`Ticked lines`}>
      <div className="what">
        <b>
          {t`${lines} ticked`}
          {currency !== null && total !== null && (
            <>
              , <Amount minor={total} currency={currency} />
            </>
          )}
        </b>
        <Button
          variant="plain"
          disabled={isReopening}
          onClick={async () => told(await reopen({ booksId, target, seenStep })) && clear()}
        >
          {t`Reopen ${lines}`}
        </Button>
        <Button variant="plain" onClick={() => setIsExcluding(true)}>
          {t`Exclude ${lines} …`}
        </Button>
        <Button variant="link" onClick={clear}>
          {t`Untick`}
        </Button>
      </div>
      <RecodeFields
        target={target}
        isOut={(total ?? 0) < 0}
        fromAccountId={shown.decided.accountId}
        onDone={clear}
      >
        {t`Recode ${lines}`}
      </RecodeFields>
      {isExcluding && (
        <ExcludeDecidedDialog
          target={target}
          what={lines}
          onClose={() => setIsExcluding(false)}
          onDone={clear}
        />
      )}
    </section>
  );
}
