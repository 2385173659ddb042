import type { Feed } from '@zubrell/contract/feeds';
import { t } from '@zubrell/core/words/t';
import { Button } from 'react-bootstrap';
import { feedsApi } from '../../../api/feeds.ts';
import { InCurrency } from '../../../app/InCurrency.tsx';
import { shownProblem } from '../../../app/problem.ts';
import { toast } from '../../../app/toast.ts';
import { bankAccountLabel, useBooks } from '../../../app/useBooks.ts';
import { useShowDate, useToday } from '../../../app/useToday.ts';
import { Announced } from './Announced.tsx';
import { EndFeed } from './EndFeed.tsx';
import { feedNeed } from './feedWords.ts';
import { LastFetch } from './LastFetch.tsx';
import { useConnect } from './useConnect.ts';

const LOOK_BACKS = [7, 30, 60, 90, 365];

/** A feed with what came of it, and everything that can be changed about it. */
export function FeedRow({ feed }: { readonly feed: Feed }) {
  const { booksId, setup, currencyOf } = useBooks();
  const showDate = useShowDate();
  const today = useToday();
  const [change] = feedsApi.useChangeFeedMutation();
  const [fetchFeed] = feedsApi.useFetchFeedMutation();
  const [end] = feedsApi.useEndFeedMutation();
  const { connect, isBusy } = useConnect();
  const need = feedNeed(feed, today);

  async function run(work: Promise<{ error?: unknown }>): Promise<void> {
    const { error } = await work;
    if (error) toast.error(shownProblem(error).message);
  }
  const set = (values: object) => run(change({ booksId, feedId: feed.id, ...values }));

  return (
    <InCurrency currency={feed.bankAccountId === null ? null : currencyOf(feed.bankAccountId)}>
      <tr className={need ? 'needs-look' : ''}>
        <td>
          <b>{feed.remoteName}</b>
          <span className="quiet d-block">
            {feed.bankName}
            {feed.remoteNumber && ` ${feed.remoteNumber}`}
            {feed.consentExpires && t`, consent to ${showDate(feed.consentExpires)}`}
          </span>
        </td>
        <td>
          <select
            className="form-select"
            aria-label={t`${feed.remoteName} feeds`}
            value={feed.bankAccountId ?? ''}
            onChange={({ target }) => set({ bankAccountId: target.value || null })}
          >
            <option value="">{t`Choose …`}</option>
            {setup.bankAccounts.map((bank) => (
              <option key={bank.id} value={bank.id}>
                {bankAccountLabel(bank)}
              </option>
            ))}
          </select>
        </td>
        <td>
          <LastFetch feed={feed} need={need} />
        </td>
        <td>
          <select
            className="form-select"
            aria-label={t`${feed.remoteName} looks back`}
            value={feed.lookBackDays ?? ''}
            onChange={({ target }) =>
              set({ lookBackDays: target.value ? Number(target.value) : null })
            }
          >
            <option value="">{t`To the last statement`}</option>
            {LOOK_BACKS.map((days) => (
              <option key={days} value={days}>
                {t`${days} days`}
              </option>
            ))}
          </select>
        </td>
        <td>
          <input
            type="checkbox"
            className="form-check-input"
            aria-label={t`Fetch ${feed.remoteName} daily`}
            checked={feed.isDaily}
            onChange={({ target }) => set({ isDaily: target.checked })}
          />
        </td>
        <td className="feed-actions">
          {need?.remedy === 'signIn' ? (
            <Button variant="main" disabled={isBusy} onClick={() => void connect(feed.connector)}>
              {t`Sign in again`}
            </Button>
          ) : (
            <Button
              variant="plain"
              disabled={feed.isFetching || feed.bankAccountId === null}
              onClick={() => run(fetchFeed({ booksId, feedId: feed.id }))}
            >
              {feed.isFetching ? t`Fetching …` : t`Fetch now`}
            </Button>
          )}
          <EndFeed name={feed.remoteName} onEnd={() => run(end({ booksId, feedId: feed.id }))} />
        </td>
      </tr>
      {feed.announced.length > 0 && <Announced lines={feed.announced} />}
    </InCurrency>
  );
}
