import { feedEndpoints } from '@zubrell/contract/endpoints/feeds';
import { changeFeed, endFeed, queueFetch } from '../../modules/feeds/changeFeed.ts';
import { askConsent, finishConsent } from '../../modules/feeds/consents.ts';
import { feedsOf } from '../../modules/feeds/queries.ts';
import { setWatched, watchedFolderOf } from '../../modules/feeds/watchedFolder.ts';
import { openedFrom } from '../../openedFrom.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { actorOf, booksIdOf, query, runCommand } from '../command.ts';
import { recordRequest } from '../recordRequest.ts';
import { serve } from '../serve.ts';

/** Standing connections to banks: consents, feeds, fetching. */
export function feedRoutes(api: Api, services: Services): void {
  serve(api, feedEndpoints.feeds, (request) =>
    query(services, request, async (tx, booksId) => ({
      feeds: await feedsOf(tx, booksId),
      banks: [...services.connectors].map(([connector, { bankName }]) => ({
        connector,
        bankName,
      })),
    })),
  );

  serve(api, feedEndpoints.askConsent, async (request) => {
    const booksId = booksIdOf(request);
    const origin = request.headers.origin ?? `${request.protocol}://${request.host}`;
    const back = new URL(`/books/${booksId}/intake/consent`, origin).href;
    const { connector } = request.body;
    return {
      page: await askConsent(services, { booksId, actor: actorOf(request) }, connector, back),
    };
  });

  serve(api, feedEndpoints.finishConsent, async (request) => ({
    feedIds: await finishConsent(
      services,
      { booksId: booksIdOf(request), actor: actorOf(request) },
      request.body,
      openedFrom(request),
    ),
  }));

  serve(api, feedEndpoints.changeFeed, (request) =>
    runCommand(services, request, async ({ tx, booksId }) => {
      const feed = await changeFeed(tx, booksId, request.params.feedId, request.body);
      await recordRequest(tx, request, { kind: 'feedChanged', booksId, details: { feed } });
      return {};
    }),
  );

  serve(api, feedEndpoints.fetchFeed, (request) =>
    runCommand(services, request, async ({ tx, booksId, actor }) => {
      await queueFetch({ tx, booksId }, request.params.feedId, actor);
      return {};
    }),
  );

  serve(api, feedEndpoints.watchedFolder, (request) =>
    query(services, request, (tx, booksId) => watchedFolderOf(tx, booksId, services)),
  );

  serve(api, feedEndpoints.watchFolder, (request) =>
    runCommand(services, request, async (command) => {
      const { tx, booksId } = command;
      const { isOn } = request.body;
      await setWatched(command, services, isOn);
      await recordRequest(tx, request, { kind: isOn ? 'folderWatched' : 'folderLeft', booksId });
      return {};
    }),
  );

  serve(api, feedEndpoints.endFeed, (request) =>
    runCommand(services, request, async ({ tx, booksId }) => {
      const feed = await endFeed(tx, booksId, request.params.feedId);
      await recordRequest(tx, request, { kind: 'feedEnded', booksId, details: { feed } });
      return {};
    }),
  );
}
