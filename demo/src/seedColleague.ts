import { beginCommand } from '@zubrell/server/commands/beginCommand';
import { inBooks } from '@zubrell/server/db/database';
import { beginVisit } from '@zubrell/server/modules/board/visit';
import { sweepLines, sweepSummary } from '@zubrell/server/modules/proposals/sweep';
import { closeSession, createUser, openSession } from '@zubrell/server/modules/session/sessions';
import { sql } from 'drizzle-orm';
import type { Seeding } from './days.ts';
import { demoToday } from './scenario/files.ts';

/** The last day on which the one who looks at the demo was there before. */
const LAST_VISIT = '2026-03-31';
/** What the colleague has done since. */
const SWEPT = 'COBBLE';

/** A colleague in the books, who posted some ready lines while the one who looks at the demo was away. */
export async function seedColleague({ database, at, booksId, actor }: Seeding): Promise<void> {
  const before = await at(LAST_VISIT);
  await inBooks(database, booksId, (tx) => beginVisit({ tx, booksId, actor, ...before }));
  const today = await at(demoToday);
  const ines = await createUser(database, today, {
    name: 'Ines Varga',
    email: 'ines@larkmoor.example',
    password: 'raku and bisque',
  });
  const session = await openSession(database, today, ines.id);
  await inBooks(database, booksId, async (tx) => {
    await tx.execute(
      sql`insert into memberships (books_id, user_id, role) values (${booksId}, ${ines.id}, 'bookkeeper')`,
    );
    const scope = { search: SWEPT };
    const { seenStep, seen } = await sweepSummary(tx, booksId, scope);
    const own = { userId: ines.id, name: ines.name, session };
    await sweepLines(await beginCommand(tx, today, booksId, own), {
      scope,
      without: [],
      seenStep,
      seen,
    });
  });
  await closeSession(database, session);
}
