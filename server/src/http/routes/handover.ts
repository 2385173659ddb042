import { handoverEndpoints } from '@zubrell/contract/endpoints/handover';
import { fail } from '@zubrell/core/errors';
import type { BooksId } from '@zubrell/core/ids';
import { beginCommand } from '../../commands/beginCommand.ts';
import type { Tx } from '../../db/database.ts';
import { settingsOf } from '../../modules/books/changeBooks.ts';
import { daysOfBooks } from '../../modules/handover/gatherArchive.ts';
import { readArchive } from '../../modules/handover/readArchive.ts';
import { checkPeriod, writeArchive } from '../../modules/handover/writeArchive.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { actorOf, query } from '../command.ts';
import { recordRequest } from '../recordRequest.ts';
import { serve } from '../serve.ts';
import type { Uploads } from '../uploads.ts';

/** The largest archive that is read, in bytes. */
const LARGEST_ARCHIVE = 2 * 1024 ** 3;
/** Each that is written or read keeps a connection of those that jobs have: so many may at once. */
const MOST_AT_ONCE = 3;

/** All of a period as one archive, and new books made of one. */
export function handoverRoutes(api: Api, services: Services, uploads: Uploads): void {
  let underWay = 0;
  const enter = () => {
    if (underWay >= MOST_AT_ONCE) fail('BUSY');
    underWay += 1;
  };
  const leave = () => {
    underWay -= 1;
  };

  serve(api, handoverEndpoints.handOver, async (request, reply) => {
    const period = request.query;
    checkPeriod(period);
    const { booksId } = request.params;
    const name = await query(services, request, async (tx) => {
      if ((await daysOfBooks(tx, booksId)) === null) fail('ARCHIVE_EMPTY');
      const details = { what: 'archive', ...period };
      await recordRequest(tx, request, { kind: 'exported', booksId, details });
      return (await settingsOf(tx, booksId)).name;
    });
    const { background, clock } = services;
    const writing = { booksId, actor: actorOf(request), clock };
    const fileName = encodeURIComponent(`${name} ${period.from} to ${period.to}.zip`);
    enter();
    const file = writeArchive(background, writing, period);
    file.once('close', leave);
    return reply
      .type('application/zip')
      .header('content-disposition', `attachment; filename*=UTF-8''${fileName}`)
      .send(file);
  });

  serve(
    api,
    handoverEndpoints.readArchive,
    (request) =>
      uploads.take(request, LARGEST_ARCHIVE, async (file) => {
        const actor = actorOf(request);
        const { background: database, clock } = services;
        const begin = (tx: Tx, booksId: BooksId) => beginCommand(tx, services, booksId, actor);
        enter();
        try {
          return { id: await readArchive({ database, actor, clock, begin }, file) };
        } finally {
          leave();
        }
      }),
    { bodyLimit: LARGEST_ARCHIVE },
  );
}
