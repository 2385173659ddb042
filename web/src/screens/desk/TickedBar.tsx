import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { Amount } from '../../ui/Amount.tsx';
import { CodingInput, nextEmptyField } from './CodingInput.tsx';
import { excludeAsked, fieldOpened, ticksCleared } from './deskSlice.ts';
import { MergeButton } from './MergeButton.tsx';
import { completeCoding, type DeskRow } from './rows.ts';
import { useDeskActions } from './useDeskActions.ts';

const FIELDS = ['payeeId', 'accountId', 'taxCodeId'] as const;

/** The ticked lines together: their sum, one coding for all, posting and excluding them. */
export function TickedBar({
  row,
  focusList,
}: {
  readonly row: Extract<DeskRow, { kind: 'ticked' }>;
  readonly focusList: () => void;
}) {
  const { codingOf, edit, post } = useDeskActions();
  const editing = useAppSelector((state) => state.desk.editing);
  const dispatch = useAppDispatch();
  const coding = codingOf(row);
  const count = row.lineIds.length;
  const lines = count === 1 ? '1 line' : `${count} lines`;
  return (
    <section className="ticked-bar" aria-label="Ticked lines">
      <b>
        {lines} ticked, <Amount minor={row.total} />
      </b>
      {FIELDS.map((field) => (
        <CodingInput
          key={`${field}${editing === field ? ' open' : ''}`}
          field={field}
          coding={coding}
          line={{ description: '', isOut: row.total < 0 }}
          autoFocus={editing === field}
          onChange={(next) => void edit(row, next)}
          onNext={(next) => {
            const empty = nextEmptyField(field, next);
            dispatch(fieldOpened(empty));
            if (empty === null) focusList();
          }}
          onCancel={() => {
            dispatch(fieldOpened(null));
            focusList();
          }}
        />
      ))}
      <button
        type="button"
        className="btn btn-main"
        disabled={'missing' in completeCoding(coding)}
        onClick={() => void post(row).then(focusList)}
      >
        Post them
      </button>
      <button type="button" className="btn btn-plain" onClick={() => dispatch(excludeAsked(true))}>
        Exclude
      </button>
      <MergeButton />
      <button
        type="button"
        className="btn btn-link"
        onClick={() => {
          dispatch(ticksCleared());
          focusList();
        }}
      >
        Untick
      </button>
    </section>
  );
}
