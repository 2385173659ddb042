import { useVirtualizer } from '@tanstack/react-virtual';
import type { Habit } from '@zubrell/contract/habits';
import { nounOf, t } from '@zubrell/core/words/t';
import { type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { habitsApi } from '../../api/habits.ts';
import { formatCount } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { EmptyState } from '../../ui/EmptyState.tsx';
import { ErrorNote } from '../../ui/ErrorNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { HabitSheet } from './HabitSheet.tsx';
import { habitState, shownHabits } from './habitWords.ts';
import { RulesTabs } from './RulesTabs.tsx';
import { keptWords } from './ruleShown.ts';
import './rules.scss';

const ROW_HEIGHT = 52;
/** So long nothing is typed, in milliseconds, before the server is asked. */
const PAUSE = 250;

/** Everything that was learned from decisions, by payee or look-alikes, and the one that is looked at. */
export function HabitsScreen() {
  const { booksId, accountName } = useBooks();
  const [asked, setAsked] = useState('');
  const { data, error, hasNextPage, isFetching, fetchNextPage } = habitsApi.useHabitsInfiniteQuery({
    booksId,
    ...(asked === '' ? {} : { search: asked }),
  });
  const [params, setParams] = useSearchParams();
  const [typed, setTyped] = useState('');
  const list = useRef<HTMLDivElement>(null);
  const habits = useMemo(() => data?.pages.flatMap(({ items }) => items) ?? [], [data]);
  const [first] = data?.pages ?? [];
  // Where there are too many to have all here, the server looks for names.
  const isMany = asked !== '' || (first !== undefined && first.next !== null);
  const shown = useMemo(
    () => (isMany ? habits : shownHabits(habits, typed, accountName)),
    [habits, isMany, typed, accountName],
  );
  useEffect(() => {
    if (!isMany) return;
    const soon = setTimeout(() => setAsked(typed.trim()), PAUSE);
    return () => clearTimeout(soon);
  }, [isMany, typed]);
  const virtual = useVirtualizer({
    count: shown.length,
    getScrollElement: () => list.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
  });
  const rows = virtual.getVirtualItems();
  const key = params.get('habit');
  const current = habits.find((habit) => habit.key === key);
  const isAtEnd = (rows.at(-1)?.index ?? 0) >= shown.length - 1;
  // One that the address names may be on any page.
  const wantsMore = isAtEnd || (key !== null && current === undefined);
  useEffect(() => {
    if (wantsMore && hasNextPage && !isFetching && error === undefined) void fetchNextPage();
  }, [wantsMore, hasNextPage, isFetching, error, fetchNextPage]);
  const show = (habit: Habit) => setParams({ habit: habit.key });

  function onKeyDown(event: KeyboardEvent): void {
    if (event.key !== 'ArrowUp' && event.key !== 'ArrowDown') return;
    event.preventDefault();
    const at = shown.findIndex((habit) => habit.key === key);
    const next = shown[at < 0 ? 0 : at + (event.key === 'ArrowUp' ? -1 : 1)];
    if (!next) return;
    show(next);
    virtual.scrollToIndex(shown.indexOf(next));
  }

  return (
    <main className="rules">
      <aside className="rule-side" aria-label={t`Habits`}>
        <div className="rules-head">
          <h1>{t`Rules`}</h1>
          <RulesTabs current="habits" rules={first?.ruleCount} habits={first?.total} />
        </div>
        {error !== undefined && <ErrorNote error={error} />}
        {!data && error === undefined && <Waiting what={t`the habits`} />}
        {first?.total === 0 && (
          <EmptyState title={t`Nothing learned yet`}>
            <p>{t`Every line you post on the Desk teaches Zubrell how to code similar lines.`}</p>
          </EmptyState>
        )}
        {first !== undefined && first.total > 0 && (
          <>
            <div className="rule-filter">
              <input
                type="search"
                className="form-control form-control-sm"
                aria-label={t`Search habits`}
                placeholder={isMany ? t`Name` : t`Name, wording or account`}
                value={typed}
                onChange={({ target }) => setTyped(target.value)}
              />
            </div>
            {isMany && (
              <p className="quiet px-3">
                {asked === ''
                  ? t`${formatCount(first.total)} habits, those with the most lines first.`
                  : t`Those of ${formatCount(first.total)} habits with this name, the ones with the most lines first.`}
              </p>
            )}
            {/* biome-ignore lint/a11y/noStaticElementInteractions: the rows are buttons; the arrows go from one to the next */}
            <div className="rule-rows" ref={list} onKeyDown={onKeyDown}>
              <ol style={{ height: virtual.getTotalSize() }}>
                {rows.map(({ index, start }) => {
                  const habit = shown[index];
                  return (
                    habit && (
                      <HabitRow
                        key={habit.key}
                        habit={habit}
                        top={start}
                        isCurrent={habit.key === key}
                        onShow={() => show(habit)}
                      />
                    )
                  );
                })}
              </ol>
              {shown.length === 0 && <p className="quiet p-3">{t`No habits match.`}</p>}
            </div>
          </>
        )}
      </aside>
      {current ? (
        <HabitSheet key={current.key} habit={current} habits={habits} />
      ) : (
        <EmptyState title={t`Choose a habit`}>
          <p>{t`See where its lines went, what the account depends on and how much you kept.`}</p>
        </EmptyState>
      )}
    </main>
  );
}

function HabitRow({
  habit,
  top,
  isCurrent,
  onShow,
}: {
  readonly habit: Habit;
  readonly top: number;
  readonly isCurrent: boolean;
  readonly onShow: () => void;
}) {
  const { accountName } = useBooks();
  const state = habitState(habit);
  const names = habit.accounts.slice(0, 2).map(({ accountId }) => accountName(accountId));
  return (
    <li className={`rule-row habit ${habit.markId ? 'is-off' : ''}`} style={{ top }}>
      <button
        type="button"
        className="rule-name-and-words"
        aria-current={isCurrent ? 'page' : undefined}
        onClick={onShow}
      >
        <b>{habit.name}</b>
        <span className={`words ${state !== '' && !habit.markId ? 'doubt' : ''}`}>
          {state || names.join(', ')}
        </span>
      </button>
      <span className="rule-use">
        <b>{habit.times}</b> {nounOf(habit.times, 'line', 'lines')}
        <br />
        {keptWords(habit)}
      </span>
    </li>
  );
}
