import { formatMonth, monthOf, monthsBetween } from '@zubrell/core/dates/calendarDate';
import { t } from '@zubrell/core/words/t';
import { useEffect, useRef, useState } from 'react';
import { Button } from 'react-bootstrap';
import { useAppDispatch } from '../../app/store.ts';
import { bankAccountLabel, useBooks } from '../../app/useBooks.ts';
import { Picker } from '../../ui/Picker.tsx';
import { Segments } from '../../ui/Segments.tsx';
import { dialogOpened } from './deskSlice.ts';
import type { LaneRow } from './rows.ts';
import { SuspendButton } from './SuspendButton.tsx';
import { useDeskScope } from './useDeskScope.ts';

const GROUPINGS = [
  ['lookAlikes', t`Look-alikes`],
  ['payee', t`Payee`],
  ['date', t`Date`],
] as const;

const DECISIONS = [
  ['all', t`All`],
  ['posted', t`Posted`],
  ['paired', t`Paired`],
  ['excluded', t`Excluded`],
  ['deleted', t`Deleted`],
] as const;

/** Which lines the Desk looks at, and what can be done with all of them. */
export function ScopeRow({
  whole,
  focusList,
}: {
  /** All lines of the lane in this scope. */
  readonly whole: LaneRow;
  readonly focusList: () => void;
}) {
  const { setup } = useBooks();
  const { bankAccountId, period, side, isWithoutAttachment, grouping, lane, decision, change } =
    useDeskScope();
  const dispatch = useAppDispatch();
  const dates = setup.bankAccounts.flatMap(({ firstDate, lastDate }) =>
    firstDate && lastDate ? [firstDate, lastDate] : [],
  );
  dates.sort();
  const months =
    dates[0] === undefined
      ? []
      : monthsBetween(monthOf(dates[0]), monthOf(dates.at(-1) ?? dates[0])).reverse();
  return (
    <div className="scope">
      <Picker
        label={t`Account`}
        value={bankAccountId}
        all={t`All`}
        choices={setup.bankAccounts.map((bank) => [bank.id, bankAccountLabel(bank)])}
        onChange={(account) => change({ account })}
      />
      <Picker
        label={t`Period`}
        value={period}
        all={t`All`}
        choices={months.map((month) => [month, formatMonth(month)])}
        onChange={(wanted) => change({ period: wanted })}
      />
      <Picker
        label={t`Money`}
        value={side}
        all={t`In and out`}
        choices={[
          ['out', t`Paid out`],
          ['in', t`Paid in`],
        ]}
        onChange={(wanted) => change({ side: wanted })}
      />
      {lane === 'decided' && (
        <label className="without-attachment">
          <input
            type="checkbox"
            className="form-check-input"
            checked={isWithoutAttachment}
            onChange={({ target }) => change({ attachment: target.checked ? 'none' : null })}
          />
          {t`No receipt`}
        </label>
      )}
      <SearchField />
      <div className="ms-auto d-flex gap-2">
        {lane === 'ready' && whole.count > 0 && (
          <Button variant="main" onClick={() => dispatch(dialogOpened('sweep'))}>
            {t`Post ready lines …`}
          </Button>
        )}
        {lane === 'blank' && whole.count > 0 && (
          <Button variant="plain" onClick={() => dispatch(dialogOpened('askAll'))}>
            {t`Ask about all lines …`}
          </Button>
        )}
        {whole.count > 0 && (
          <SuspendButton row={whole} isAsked={lane === 'asked'} focusList={focusList}>
            {t`Post all to suspense`}
          </SuspendButton>
        )}
        {lane === 'decided' ? (
          <Segments
            label={t`Decision`}
            choices={DECISIONS}
            value={decision ?? 'all'}
            onChange={(wanted) => change({ decision: wanted === 'all' ? null : wanted })}
          />
        ) : (
          <Segments
            label={t`Group by`}
            choices={GROUPINGS}
            value={grouping}
            onChange={(by) => change({ by })}
          />
        )}
      </div>
    </div>
  );
}

/** Searches a moment after the last key. */
const PAUSE = 250;

function SearchField() {
  const { search, change } = useDeskScope();
  const [typed, setTyped] = useState(search);
  const sent = useRef(search);
  useEffect(() => {
    // What comes into the address from elsewhere is not typed over.
    if (search !== sent.current) setTyped(search);
    sent.current = search;
  }, [search]);
  useEffect(() => {
    if (typed === search) return;
    const timer = setTimeout(() => {
      sent.current = typed;
      change({ q: typed });
    }, PAUSE);
    return () => clearTimeout(timer);
  });
  return (
    <input
      id="desk-search"
      type="search"
      className="form-control find"
      aria-label={t`Search lines`}
      placeholder={t`Text, payee or amount, e.g. 48.50 or >500`}
      value={typed}
      onChange={(event) => setTyped(event.target.value)}
      onKeyDown={(event) => {
        if (event.key === 'Escape') {
          setTyped('');
          event.currentTarget.blur();
        }
      }}
    />
  );
}
