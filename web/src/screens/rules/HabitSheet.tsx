import type { Habit } from '@zubrell/contract/habits';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { habitsApi } from '../../api/habits.ts';
import { formatCount } from '../../app/formats.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useShowDate } from '../../app/useToday.ts';
import { useUndo } from '../../app/useUndo.tsx';
import { decidedPath } from '../desk/deskScope.ts';
import { separatorWords } from './habitWords.ts';
import { MergeHabit } from './MergeHabit.tsx';
import { keptWords } from './ruleShown.ts';
import { useRuleNames } from './useRuleNames.ts';

/** One habit: where its lines went, what tells them apart, its record, and what can be done about it. */
export function HabitSheet({
  habit,
  habits,
}: {
  readonly habit: Habit;
  readonly habits: readonly Habit[];
}) {
  const { booksId, accountName } = useBooks();
  const names = useRuleNames();
  const showDate = useShowDate();
  const { told } = useUndo();
  const [markHabit, marking] = habitsApi.useMarkHabitMutation();
  const [unmarkHabit, unmarking] = habitsApi.useUnmarkHabitMutation();
  const { payeeId, stems, markId } = habit;
  const whose = payeeId === null ? { stem: stems } : { payeeId };
  const search = (text: string) => encodeURIComponent(text);
  const mark = async (kind: 'blocked' | 'forgotten') =>
    told(await markHabit({ booksId, kind, payeeId, stems: payeeId ? [] : stems }));

  return (
    <section className="habit-sheet" aria-label={t`Habit of ${habit.name}`}>
      <h2>{habit.name}</h2>
      {markId !== null ? (
        <>
          <p>{t`Nothing is learned from these lines. What was decided about them stays as it is.`}</p>
          <Button
            variant="main"
            disabled={unmarking.isLoading}
            onClick={async () => told(await unmarkHabit({ booksId, markId }))}
          >
            {t`Learn from these lines again`}
          </Button>
        </>
      ) : (
        <>
          <h3 className="small-heading">
            {habit.times === 1
              ? t`The one line went to`
              : t`The ${formatCount(habit.times)} lines went to`}
          </h3>
          {habit.accounts.map(({ accountId, times }, at) => (
            <div className="alternative" key={accountId}>
              <Link
                to={`/books/${booksId}/${decidedPath({ ...whose, accountId })}`}
                title={t`Show these lines to correct them`}
              >
                {accountName(accountId)}
              </Link>
              <span className="bar" aria-hidden>
                <i
                  className={at === 0 ? '' : 'less'}
                  style={{ width: `${(100 * times) / habit.times}%` }}
                />
              </span>
              <span className="num">{t`${formatCount(times)} of ${formatCount(habit.times)}`}</span>
              <Link
                className="btn btn-plain btn-sm"
                to={`/books/${booksId}/rules/new?habit=${search(habit.key)}&account=${accountId}`}
              >
                {t`Create rule`}
              </Link>
            </div>
          ))}
          {habit.accounts.length > 1 && (
            <p className={habit.separators.length > 0 ? '' : 'doubt'}>
              {habit.separators.length > 0
                ? habit.separators.map((each) => separatorWords(each, names)).join(' ')
                : t`Nothing separates the accounts, so these lines wait in Check.`}
            </p>
          )}
          <Link
            to={`/books/${booksId}/${decidedPath(whose)}`}
          >{t`Correct lines of this habit`}</Link>
          <h3 className="small-heading">{t`Record`}</h3>
          <div className="facts">
            <span>{t`Seen before posting`}</span>
            <span>
              {habit.looked === 0
                ? t`none of its proposals yet`
                : `${habit.looked}, ${keptWords(habit)}`}
            </span>
            <span>{t`Posted unseen`}</span>
            <span>{habit.unread === 0 ? t`none` : t`${habit.unread}, which count half`}</span>
            <span>{t`Open now`}</span>
            <span>{habit.open}</span>
            {habit.lastDate && (
              <>
                <span>{t`Last`}</span>
                <span>{showDate(habit.lastDate)}</span>
              </>
            )}
          </div>
          <h3 className="small-heading">{t`Wordings`}</h3>
          <ul className="wordings">
            {stems.slice(0, 12).map((stem) => (
              <li key={stem} className="mono">
                <Link to={`/books/${booksId}/desk?lane=decided&q=${search(stem)}`}>{stem}</Link>
              </li>
            ))}
            {stems.length > 12 && <li className="quiet">{t`and ${stems.length - 12} more`}</li>}
          </ul>
          <div className="d-flex flex-wrap gap-2">
            <Button
              variant="plain"
              disabled={marking.isLoading}
              title={t`What was learned so far is dropped; Zubrell learns again from new lines`}
              onClick={() => void mark('forgotten')}
            >
              {t`Forget this habit`}
            </Button>
            <Button
              variant="plain"
              disabled={marking.isLoading}
              title={t`Nothing is learned from these lines any more`}
              onClick={() => void mark('blocked')}
            >
              {t`Block this habit`}
            </Button>
            <MergeHabit habit={habit} habits={habits} />
          </div>
        </>
      )}
    </section>
  );
}
