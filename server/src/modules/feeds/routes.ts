import { BooksParams, Id } from '@zubrell/contract/common';
import {
  AskConsent,
  ChangeFeed,
  ConsentAsked,
  ConsentFinished,
  Feeds,
  FinishConsent,
} from '@zubrell/contract/feeds';
import { z } from 'zod';
import type { Api } from '../../app.ts';
import { actorOf, booksIdOf, query, runCommand } from '../../http/command.ts';
import { openedFrom } from '../../http/openedFrom.ts';
import type { Services } from '../../services.ts';
import { recordRequest } from '../audit/recordAccess.ts';
import { changeFeed, endFeed, queueFetch } from './changeFeed.ts';
import { askConsent, finishConsent } from './consents.ts';
import { feedsOf } from './queries.ts';

const FeedParams = BooksParams.extend({ feedId: Id });
const Done = z.object({});

/** Standing connections to banks: consents, feeds, fetching. */
export function feedRoutes(api: Api, services: Services): void {
  api.get(
    '/api/books/:booksId/feeds',
    {
      config: { access: 'reviewer' },
      schema: { params: BooksParams, response: { 200: Feeds } },
    },
    (request) =>
      query(services, request, async (tx, booksId) => ({
        feeds: await feedsOf(tx, booksId),
        banks: [...services.connectors].map(([connector, { bankName }]) => ({
          connector,
          bankName,
        })),
      })),
  );

  api.post(
    '/api/books/:booksId/consents',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: AskConsent, response: { 200: ConsentAsked } },
    },
    async (request) => {
      const booksId = booksIdOf(request);
      const origin = request.headers.origin ?? `${request.protocol}://${request.host}`;
      const back = new URL(`/books/${booksId}/intake/consent`, origin).href;
      const { connector } = request.body;
      return { page: await askConsent(services, booksId, actorOf(request), connector, back) };
    },
  );

  api.post(
    '/api/books/:booksId/consents/finish',
    {
      config: { access: 'bookkeeper' },
      schema: { params: BooksParams, body: FinishConsent, response: { 200: ConsentFinished } },
    },
    async (request) => ({
      feedIds: await finishConsent(
        services,
        booksIdOf(request),
        actorOf(request),
        request.body,
        openedFrom(request),
      ),
    }),
  );

  api.patch(
    '/api/books/:booksId/feeds/:feedId',
    {
      config: { access: 'bookkeeper' },
      schema: { params: FeedParams, body: ChangeFeed, response: { 200: Done } },
    },
    (request) =>
      runCommand(services, request, async ({ tx, booksId }) => {
        const feed = await changeFeed(tx, booksId, request.params.feedId, request.body);
        await recordRequest(tx, request, { kind: 'feedChanged', booksId, details: { feed } });
        return {};
      }),
  );

  api.post(
    '/api/books/:booksId/feeds/:feedId/fetch',
    {
      config: { access: 'bookkeeper' },
      schema: { params: FeedParams, response: { 200: Done } },
    },
    (request) =>
      runCommand(services, request, async ({ tx, booksId, actor }) => {
        await queueFetch(tx, booksId, request.params.feedId, actor);
        return {};
      }),
  );

  api.post(
    '/api/books/:booksId/feeds/:feedId/end',
    {
      config: { access: 'bookkeeper' },
      schema: { params: FeedParams, response: { 200: Done } },
    },
    (request) =>
      runCommand(services, request, async ({ tx, booksId }) => {
        const feed = await endFeed(tx, booksId, request.params.feedId);
        await recordRequest(tx, request, { kind: 'feedEnded', booksId, details: { feed } });
        return {};
      }),
  );
}
