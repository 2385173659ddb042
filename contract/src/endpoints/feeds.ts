import { BooksParams, FeedId, Nothing } from '../common.ts';
import { endpoints } from '../endpoint.ts';
import {
  AskConsent,
  ChangeFeed,
  ConsentAsked,
  ConsentFinished,
  Feeds,
  FinishConsent,
  WatchedFolder,
  WatchFolder,
} from '../feeds.ts';

const FeedParams = BooksParams.extend({ feedId: FeedId });

/** Standing connections to banks: consents, feeds, fetching. */
export const feedEndpoints = endpoints({
  feeds: {
    method: 'GET',
    path: '/books/:booksId/feeds',
    access: 'reviewer',
    params: BooksParams,
    answer: Feeds,
    reads: ['feeds'],
  },
  askConsent: {
    method: 'POST',
    path: '/books/:booksId/consents',
    access: 'bookkeeper',
    params: BooksParams,
    body: AskConsent,
    answer: ConsentAsked,
    touches: [],
  },
  finishConsent: {
    method: 'POST',
    path: '/books/:booksId/consents/finish',
    access: 'bookkeeper',
    params: BooksParams,
    body: FinishConsent,
    answer: ConsentFinished,
    touches: ['feed'],
  },
  changeFeed: {
    method: 'PATCH',
    path: '/books/:booksId/feeds/:feedId',
    access: 'bookkeeper',
    params: FeedParams,
    body: ChangeFeed,
    answer: Nothing,
    touches: ['feed'],
  },
  fetchFeed: {
    method: 'POST',
    path: '/books/:booksId/feeds/:feedId/fetch',
    access: 'bookkeeper',
    params: FeedParams,
    answer: Nothing,
    touches: ['feed'],
  },
  watchedFolder: {
    method: 'GET',
    path: '/books/:booksId/watched-folder',
    access: 'reviewer',
    params: BooksParams,
    answer: WatchedFolder,
    reads: ['feeds'],
  },
  watchFolder: {
    method: 'PUT',
    path: '/books/:booksId/watched-folder',
    access: 'bookkeeper',
    params: BooksParams,
    body: WatchFolder,
    answer: Nothing,
    touches: ['feed'],
  },
  endFeed: {
    method: 'POST',
    path: '/books/:booksId/feeds/:feedId/end',
    access: 'bookkeeper',
    params: FeedParams,
    answer: Nothing,
    touches: ['feed'],
  },
});
