import type { UserId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf } from '../../db/database.ts';
import { idRow } from '../../db/rows.ts';
import type { Services } from '../../services.ts';

const ResealFactorsRow = z.object({ userId: idRow<UserId>(), secret: z.string() });

/** Seals the secrets of all second factors with the present key that are sealed with an older one. */
export async function resealFactors({
  background,
  secrets,
}: Pick<Services, 'background' | 'secrets'>): Promise<void> {
  const all = await rowsOf(
    background,
    ResealFactorsRow,
    sql`select user_id as "userId", secret from second_factors`,
  );
  for (const { userId, secret } of all) {
    const sealed = secrets.renewed(secret, userId);
    if (sealed === null) continue;
    await background.execute(
      sql`update second_factors set secret = ${sealed}
          where user_id = ${userId} and secret = ${secret}`,
    );
  }
}
