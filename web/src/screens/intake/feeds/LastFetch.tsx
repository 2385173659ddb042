import type { Feed } from '@zubrell/contract/feeds';
import { t } from '@zubrell/core/words/t';
import { Link } from 'react-router';
import { useBooks } from '../../../app/useBooks.ts';
import { useShowMoment } from '../../../app/useToday.ts';
import { type FeedNeed, resultWords } from './feedWords.ts';

/** When a feed was fetched last, what came of it, and when it is tried again. */
export function LastFetch({ feed, need }: { readonly feed: Feed; readonly need: FeedNeed | null }) {
  const { booksId, amount } = useBooks();
  const { result, lastAt, lastGoodAt, nextAt } = feed;
  const isTrouble = result?.kind === 'trouble';
  const isOff = result?.kind === 'fetched' && result.difference !== null && result.difference !== 0;
  const words = resultWords(feed, amount);
  const moment = useShowMoment();
  return (
    <>
      {lastAt === null ? (
        <span className="quiet">{t`not yet`}</span>
      ) : (
        <span className="d-block">
          {moment(lastAt)}
          {result?.kind === 'fetched' && result.batchId && (
            <>
              {', '}
              <Link className="underlined" to={`/books/${booksId}/intake/${result.batchId}`}>
                {t`its batch`}
              </Link>
            </>
          )}
        </span>
      )}
      {words && <span className={isTrouble ? 'trouble' : isOff ? 'doubt' : 'quiet'}>{words}</span>}
      {!isTrouble && need && <span className="doubt d-block">{need.words}</span>}
      {isTrouble && lastGoodAt && (
        <span className="quiet d-block">{t`Last succeeded ${moment(lastGoodAt)}.`}</span>
      )}
      {nextAt && (
        <span className="quiet d-block">
          {isTrouble ? t`Will be tried again automatically` : t`Next`} {moment(nextAt)}
        </span>
      )}
    </>
  );
}
