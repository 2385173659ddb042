import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { countLines } from '../../app/formats.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { useBooks } from '../../app/useBooks.ts';
import { Amount } from '../../ui/Amount.tsx';
import { CodingInput, nextEmptyField } from './CodingInput.tsx';
import { excludeAsked, fieldOpened, ticksCleared } from './deskSlice.ts';
import { MergeButton } from './MergeButton.tsx';
import { completeCoding, type DeskRow } from './rows.ts';
import { SuspendButton } from './SuspendButton.tsx';
import { useDeskActions } from './useDeskActions.ts';
import { useDeskScope } from './useDeskScope.ts';

const FIELDS = ['payeeId', 'accountId', 'taxCodeId'] as const;

/** The ticked lines together: their sum, one coding for all, posting and excluding them. */
export function TickedBar({
  row,
  focusList,
}: {
  readonly row: Extract<DeskRow, { kind: 'ticked' }>;
  readonly focusList: () => void;
}) {
  const { setup, isHidden } = useBooks();
  const { codingOf, edit, post } = useDeskActions();
  const editing = useAppSelector((state) => state.desk.editing);
  const { lane } = useDeskScope();
  const dispatch = useAppDispatch();
  const coding = codingOf(row);
  const count = row.lineIds.length;
  const lines = countLines(count);
  return (
    <section className="ticked-bar" aria-label={t`Ticked lines`}>
      <b>
        {t`${lines} ticked`}
        {row.currency !== null && (
          <>
            , <Amount minor={row.total} currency={row.currency} />
          </>
        )}
      </b>
      {FIELDS.filter((field) => field !== 'taxCodeId' || !isHidden(field)).map((field) => (
        <CodingInput
          key={`${field}${editing === field ? ' open' : ''}`}
          field={field}
          coding={coding}
          line={{ isOut: row.total < 0 }}
          autoFocus={editing === field}
          onChange={(next) => void edit(row, next)}
          onNext={(next) => {
            const empty = nextEmptyField(field, next, isHidden);
            dispatch(fieldOpened(empty));
            if (empty === null) focusList();
          }}
          onCancel={() => {
            dispatch(fieldOpened(null));
            focusList();
          }}
        />
      ))}
      <Button
        variant="main"
        disabled={'missing' in completeCoding(coding, setup)}
        onClick={() => void post(row).then(focusList)}
      >
        {t`Post lines`}
      </Button>
      <Button variant="plain" onClick={() => dispatch(excludeAsked(true))}>
        {t`Exclude`}
      </Button>
      <SuspendButton row={row} isAsked={lane === 'asked'} focusList={focusList} />
      <MergeButton />
      <Button
        variant="link"
        onClick={() => {
          dispatch(ticksCleared());
          focusList();
        }}
      >
        {t`Untick`}
      </Button>
    </section>
  );
}
