import { randomUUID } from 'node:crypto';
import { lastDayOf } from '@zubrell/core/dates/calendarDate';
import { messageOf } from '@zubrell/core/errors';
import { type Database, inBooks } from '@zubrell/server/db/database';
import { consents } from '@zubrell/server/db/schema/feeds';
import { takeConsent } from '@zubrell/server/modules/feeds/consents';
import type { StoredResult } from '@zubrell/server/modules/feeds/queries';
import type { Secrets } from '@zubrell/server/secrets';
import type { Actor } from '@zubrell/server/services';
import { sql } from 'drizzle-orm';
import { lastMonth } from './scenario/files.ts';
import { larkmoor } from './scenario/larkmoor.ts';
import { practiceBankName, practiceConsents } from './scenario/practiceRecords.ts';

/** When the feeds were fetched last, as far as the demo is concerned. */
const LAST_GOOD = '2026-04-01T05:00:00Z';
const LAST_TRY = '2026-04-06T05:00:00Z';

/** Gives Larkmoor its feeds: two that work and one whose consent has run out. */
export async function seedFeeds(
  database: Database,
  secrets: Secrets,
  booksId: string,
  actor: Actor,
): Promise<void> {
  await inBooks(database, booksId, async (tx) => {
    for (const { token, accounts, expires } of Object.values(practiceConsents)) {
      const consent = { id: randomUUID(), connector: 'practice' };
      await tx.insert(consents).values({
        booksId,
        ...consent,
        bankName: practiceBankName,
        state: randomUUID(),
        createdBy: actor.userId,
        createdAt: new Date(LAST_GOOD),
      });
      const remote = larkmoor.bankAccounts
        .filter(({ key }) => (accounts as readonly string[]).includes(key))
        .map(({ key, name, number }) => ({ id: key, name, number }));
      const given = { token, expires };
      const feedIds = await takeConsent({ tx, booksId, secrets }, consent, given, remote);
      const isExpired = token === practiceConsents.expired.token;
      const stored: StoredResult = isExpired
        ? {
            result: {
              kind: 'trouble',
              code: 'FEED_CONSENT_EXPIRED',
              message: messageOf('FEED_CONSENT_EXPIRED', { bank: practiceBankName }),
            },
            callsLeft: null,
          }
        : {
            result: {
              kind: 'fetched',
              lineCount: 0,
              newCount: 0,
              doubtfulCount: 0,
              batchId: null,
              difference: null,
            },
            callsLeft: null,
          };
      await tx.execute(
        sql`update feeds set last_at = ${isExpired ? LAST_TRY : LAST_GOOD},
              last_good_at = ${LAST_GOOD}, last_to = ${lastDayOf(lastMonth)},
              failures = ${isExpired ? 1 : 0}, last_result = ${JSON.stringify(stored)}::jsonb
            where books_id = ${booksId} and id = any(${sql.param(feedIds)}::uuid[])`,
      );
    }
  });
}
