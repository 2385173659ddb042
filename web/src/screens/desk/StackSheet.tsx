import { MOST_OF_STACK } from '@zubrell/core/propose/mostOfStack';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { countLines, formatCount } from '../../app/formats.ts';
import { useAppDispatch } from '../../app/store.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { Amount } from '../../ui/Amount.tsx';
import { Moon } from '../../ui/Moon.tsx';
import { tx } from '../../ui/tx.tsx';
import { dialogOpened, excludeAsked } from './deskSlice.ts';
import { HeldSection } from './HeldSection.tsx';
import { PostActions } from './PostActions.tsx';
import type { DeskRow } from './rows.ts';
import { SplitStackForm } from './SplitStackForm.tsx';
import { SuspendButton } from './SuspendButton.tsx';
import { useDeskActions } from './useDeskActions.ts';
import { useDeskScope } from './useDeskScope.ts';
import { Why } from './Why.tsx';

/** A stack as a whole: its sums, why it is proposed as it is, and posting it. */
export function StackSheet({
  row,
  focusList,
}: {
  readonly row: Extract<DeskRow, { kind: 'stack' }>;
  readonly focusList: () => void;
}) {
  const { accountName, payeeName, taxName, amount, isHidden } = useBooks();
  const { codingOf } = useDeskActions();
  const { lane } = useDeskScope();
  const dispatch = useAppDispatch();
  const showDate = useShowDate();
  const { stack } = row;
  const coding = codingOf(row);
  const lines = stack.count === 1 ? 'line' : countLines(stack.count);
  return (
    <>
      <section>
        <div className="sum-line">
          <span className="sum">
            {stack.currency === null ? (
              t`Several currencies`
            ) : (
              <Amount minor={stack.total} currency={stack.currency} />
            )}
          </span>
          <span className="quiet">{countLines(stack.count)}</span>
        </div>
        <div className="facts">
          <span>{t`Wording`}</span>
          <span className="mono">{stack.title}</span>
          <span>{t`Dates`}</span>
          <span>
            {showDate(stack.firstDate)}
            {stack.firstDate !== stack.lastDate && t` to ${showDate(stack.lastDate)}`}
          </span>
          <span>{t`Amounts`}</span>
          <span>
            {amount(stack.smallest)}
            {stack.smallest !== stack.largest && t` to ${amount(stack.largest)}`}
          </span>
        </div>
        {stack.count > MOST_OF_STACK && (
          <p className="quiet mb-0">{t`When opened, it shows only its oldest ${countLines(MOST_OF_STACK)}.`}</p>
        )}
        {stack.grouping === 'lookAlikes' && stack.count > 1 && <SplitStackForm stack={stack} />}
      </section>
      {stack.twiceCount > 0 && (
        <section>
          <h2 className="small-heading">{t`The same payment twice?`}</h2>
          <p className="why-line">
            <Moon kind="check" />
            <span>
              {tx`${stack.twiceCount === 1 ? t`A line here` : t`${formatCount(stack.twiceCount)} lines here`} may be a second copy. Open the stack with ${<kbd>→</kbd>} to compare.`}
            </span>
          </p>
        </section>
      )}
      {stack.held !== null && <HeldSection held={stack.held} />}
      <Why row={row} proposal={stack.proposal} {...(lane === 'decided' ? {} : { lane })} />
      <section>
        <h2 className="small-heading">{t`Coded to`}</h2>
        <div className="facts">
          <span>{t`Payee`}</span>
          <span>{payeeName(coding.payeeId) || t`none yet`}</span>
          <span>{t`Account`}</span>
          <span>{accountName(coding.accountId) || t`none yet`}</span>
          {!isHidden('taxCodeId') && (
            <>
              <span>{t`Tax`}</span>
              <span>{taxName(coding.taxCodeId) || t`none`}</span>
            </>
          )}
        </div>
        <p className="quiet mt-2 mb-0">
          {tx`Change these in the row with ${<kbd>P</kbd>} ${<kbd>A</kbd>} ${<kbd>T</kbd>}. Open the stack with ${<kbd>→</kbd>} to code lines one by one.`}
        </p>
      </section>
      <section className="actions">
        <PostActions row={row} keys="⇧↵" focusList={focusList}>
          {t`Post the ${lines}`}
        </PostActions>
        <Button variant="plain" onClick={() => dispatch(excludeAsked(true))}>
          {t`Exclude`}
          <kbd>X</kbd>
        </Button>
        <Button variant="plain" onClick={() => dispatch(dialogOpened('ask'))}>
          {t`Ask`}
          <kbd>Q</kbd>
        </Button>
        <SuspendButton row={row} isAsked={lane === 'asked'} focusList={focusList} />
      </section>
    </>
  );
}
