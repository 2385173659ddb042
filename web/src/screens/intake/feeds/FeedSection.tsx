import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button, Table } from 'react-bootstrap';
import { feedsApi } from '../../../api/feeds.ts';
import { useBooks } from '../../../app/useBooks.ts';
import { ErrorNote } from '../../../ui/ErrorNote.tsx';
import { FeedRow } from './FeedRow.tsx';
import { useConnect } from './useConnect.ts';

/** How often a fetch under way is looked at, in milliseconds. */
const LOOK_EVERY = 700;

/** The feeds of these books, and connecting another bank. */
export function FeedSection() {
  const { booksId } = useBooks();
  const [isWaiting, setIsWaiting] = useState(false);
  const { data, error } = feedsApi.useFeedsQuery(booksId, {
    pollingInterval: isWaiting ? LOOK_EVERY : 0,
  });
  const { connect, isBusy } = useConnect();
  const feeds = data?.feeds ?? [];
  const banks = data?.banks ?? [];
  const isFetching = feeds.some((feed) => feed.isFetching);
  if (isFetching !== isWaiting) setIsWaiting(isFetching);
  if (error && !data) return <ErrorNote error={error} />;
  if (!data || (feeds.length === 0 && banks.length === 0)) return null;
  return (
    <section className="mt-4" aria-label={t`Feeds`}>
      <header className="section-head">
        <h2>{t`Feeds`}</h2>
        {banks.map(({ connector, bankName }) => (
          <Button
            key={connector}
            variant="plain"
            disabled={isBusy}
            onClick={() => void connect(connector)}
          >
            {t`Connect ${bankName}`}
          </Button>
        ))}
      </header>
      {feeds.length === 0 ? (
        <p className="quiet">
          {t`A feed fetches the lines automatically each day. You sign in at the bank and say which accounts may be read; nothing can be paid from here.`}
        </p>
      ) : (
        <div className="sheet feeds">
          <Table>
            <thead>
              <tr>
                <th>{t`At the bank`}</th>
                <th>{t`Feeds`}</th>
                <th>{t`Last fetch`}</th>
                <th>{t`Looks back`}</th>
                <th>{t`Daily`}</th>
                <td />
              </tr>
            </thead>
            <tbody>
              {feeds.map((feed) => (
                <FeedRow key={feed.id} feed={feed} />
              ))}
            </tbody>
          </Table>
        </div>
      )}
    </section>
  );
}
