import type { DraftCoding } from '@zubrell/contract/coding';
import type { Proposal } from '@zubrell/contract/desk';
import type { PayeeId } from '@zubrell/core/ids';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { linesApi } from '../../api/lines.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useUndo } from '../../app/useUndo.tsx';
import type { DeskRow } from './rows.ts';
import { splitInterest } from './splitting/split.ts';
import { useDeskActions } from './useDeskActions.ts';

/** A stack or a line. */
export type OpenRow = Extract<DeskRow, { kind: 'stack' | 'line' }>;
type Nudge = Extract<Proposal['doubts'][number], { kind: 'nudge' }>;

/** What can be done about a nudge: code the row as it says, or have no more of it. */
export function NudgeActions({
  doubt,
  row,
  payeeId,
}: {
  readonly doubt: Nudge;
  readonly row: OpenRow;
  /** Of whom it is asked; null where that is not known. */
  readonly payeeId: PayeeId | null;
}) {
  const { booksId, setup, accountName, payeeName } = useBooks();
  const { codingOf, edit } = useDeskActions();
  const { told } = useUndo();
  const [dismiss, { isLoading }] = linesApi.useDismissNudgeMutation();
  const coding = codingOf(row);
  const stem = row.kind === 'stack' ? row.stack.title : row.line.stem;
  // A stack of another grouping may hold look-alikes of several kinds, of which only one is named.
  const isOneKind = row.kind === 'line' || row.stack.grouping === 'lookAlikes';
  const interest = setup.accounts.find(
    ({ type, purpose, isOn }) => isOn && type === 'expense' && /\binterest\b/.test(purpose),
  );
  const isCodedSo = coding.accountId === doubt.accountId;
  return (
    <span className="nudge-actions">
      {doubt.accountId !== null && !isCodedSo && (
        <Button variant="plain" onClick={() => void edit(row, towards(coding, doubt))}>
          {t`Code it to ${accountName(doubt.accountId)}`}
        </Button>
      )}
      {doubt.nudge === 'loan' && row.kind === 'line' && (
        <Button
          variant="plain"
          onClick={() =>
            void edit(row, splitInterest(coding, doubt.accountId, interest?.id ?? null))
          }
        >
          {t`Split off interest`}
        </Button>
      )}
      {(isOneKind || payeeId !== null) && (
        <Button
          variant="link"
          className="p-0"
          disabled={isLoading}
          onClick={() => void dismiss({ booksId, nudge: doubt.nudge, payeeId, stem }).then(told)}
        >
          {payeeId === null
            ? t`Not for these, never ask again`
            : t`Not for ${payeeName(payeeId)}, never ask again`}
        </Button>
      )}
    </span>
  );
}

/**
 * A coding to where a nudge points. A fixed asset and a refund keep the tax of the cost; money that is no
 * cost and no income has none.
 */
export function towards(coding: DraftCoding, { nudge, accountId }: Nudge): DraftCoding {
  const keepsTax = nudge === 'fixedAsset' || nudge === 'refund';
  return keepsTax ? { ...coding, accountId } : { ...coding, accountId, taxCodeId: null, tax: null };
}
