import type { DraftCoding } from '@zubrell/contract/coding';
import { cleanName } from '@zubrell/core/text/cleanName';
import { t } from '@zubrell/core/words/t';
import type { CodedField } from '../../app/codingChoices.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { useBooks } from '../../app/useBooks.ts';
import { besideField, CodingInput, nextEmptyField } from './CodingInput.tsx';
import { fieldOpened } from './deskSlice.ts';
import type { DeskRow } from './rows.ts';
import { useDeskActions } from './useDeskActions.ts';

const NAMES: Readonly<Record<CodedField, string>> = {
  payeeId: t`Payee`,
  accountId: t`Account`,
  taxCodeId: t`Tax`,
};

/** One field of a stack's head: shows its value, and becomes an input when it is opened. */
export function CodingCell({
  row,
  field,
  coding,
  isCurrent,
  onPick,
  focusList,
}: {
  readonly row: Extract<DeskRow, { kind: 'stack' }>;
  readonly field: CodedField;
  readonly coding: DraftCoding;
  readonly isCurrent: boolean;
  readonly onPick: () => void;
  readonly focusList: () => void;
}) {
  const { accountName, payeeName, taxName, isHidden } = useBooks();
  const { edit } = useDeskActions();
  const dispatch = useAppDispatch();
  const editing = useAppSelector((state) => state.desk.editing);
  const value = coding[field];
  const text =
    field === 'payeeId'
      ? payeeName(value)
      : field === 'accountId'
        ? accountName(value)
        : taxName(value);
  const isSplit = field === 'accountId' && coding.parts !== null;
  const isMixed = field === 'accountId' && value === null && row.stack.accountCount > 1;

  const shown = isSplit
    ? t`Split into ${coding.parts?.length}`
    : text || (isMixed ? t`${row.stack.accountCount} accounts…` : '');

  function open(next: CodedField | null): void {
    dispatch(fieldOpened(next));
    if (next === null) focusList();
  }

  if (field === 'taxCodeId' && isHidden(field)) return <span role="gridcell" />;
  if (isCurrent && editing === field) {
    return (
      <span className="cell-slot" role="gridcell">
        <CodingInput
          field={field}
          coding={coding}
          line={{
            payeeName: cleanName(row.stack.title),
            isOut: row.stack.direction === 'out',
          }}
          autoFocus
          onChange={(next) => void edit(row, next)}
          onNext={(next) => open(nextEmptyField(field, next, isHidden))}
          onTab={(isBack) => open(besideField(field, isBack, isHidden))}
          onCancel={() => open(null)}
        />
      </span>
    );
  }
  return (
    <span className="cell-slot" role="gridcell">
      <button
        type="button"
        tabIndex={isCurrent ? 0 : -1}
        className={`cell ${text === '' ? 'ask' : ''}`}
        title={text}
        aria-label={`${NAMES[field]}: ${shown || t`empty`}`}
        onClick={() => {
          onPick();
          dispatch(fieldOpened(field));
        }}
      >
        {shown || NAMES[field]}
      </button>
    </span>
  );
}
