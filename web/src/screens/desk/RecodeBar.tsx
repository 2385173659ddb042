import type { LineId } from '@zubrell/core/ids';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { linesApi } from '../../api/lines.ts';
import { useAppDispatch } from '../../app/store.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { Amount } from '../../ui/Amount.tsx';
import { CodingInput } from './CodingInput.tsx';
import { ticksCleared } from './deskSlice.ts';
import { emptyCoding } from './rows.ts';
import { useSeenStep } from './useSeenStep.ts';

/** Gives ticked posted lines another payee, account or tax; an empty field leaves what is there. */
export function RecodeBar({
  lineIds,
  total,
  currency,
}: {
  readonly lineIds: readonly LineId[];
  readonly total: number;
  /** In which all of them are; null where they are in several. */
  readonly currency: string | null;
}) {
  const { booksId } = useBooks();
  const { told } = useUndo();
  const dispatch = useAppDispatch();
  const seenStep = useSeenStep();
  const [coding, setCoding] = useState(emptyCoding);
  const [recode, { isLoading }] = linesApi.useRecodeLinesMutation();
  const { payeeId, accountId, taxCodeId } = coding;
  const isEmpty = payeeId === null && accountId === null && taxCodeId === null;
  const nothingMore = () => undefined;

  async function send(): Promise<void> {
    const answer = await recode({
      booksId,
      lineIds: [...lineIds],
      seenStep,
      ...(payeeId === null ? {} : { payeeId }),
      ...(accountId === null ? {} : { accountId }),
      ...(taxCodeId === null ? {} : { taxCodeId }),
    });
    if (told(answer)) dispatch(ticksCleared());
  }

  return (
    <section className="ticked-bar" aria-label="Recode ticked lines">
      <b>
        {lineIds.length === 1 ? '1 line' : `${lineIds.length} lines`} ticked
        {currency !== null && (
          <>
            , <Amount minor={total} currency={currency} />
          </>
        )}
      </b>
      {(['payeeId', 'accountId', 'taxCodeId'] as const).map((field) => (
        <CodingInput
          key={field}
          field={field}
          coding={coding}
          line={{ isOut: total < 0 }}
          onChange={setCoding}
          onNext={nothingMore}
          onCancel={nothingMore}
        />
      ))}
      <Button variant="main" disabled={isEmpty || isLoading} onClick={() => void send()}>
        Recode them
      </Button>
      <Button variant="link" onClick={() => dispatch(ticksCleared())}>
        Untick
      </Button>
    </section>
  );
}
