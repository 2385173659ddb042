import { taxDue } from '@zubrell/core/tax/taxReturn';
import { beginCommand } from '@zubrell/server/commands/beginCommand';
import { inBooks } from '@zubrell/server/db/database';
import { fileTaxReturn, reportedElsewhere } from '@zubrell/server/modules/tax/fileTaxReturn';
import { taxFigures } from '@zubrell/server/modules/tax/taxFigures';
import type { Seeding } from './days.ts';
import { demoToday } from './scenario/files.ts';

const ELSEWHERE = '2025-12-31';
const FILED = [
  { from: '2026-01-01', to: '2026-01-31' },
  { from: '2026-02-01', to: '2026-02-28' },
];

/** Files the tax returns of January and February; what was before was reported elsewhere. */
export async function seedTax({ database, at, booksId, actor }: Seeding): Promise<void> {
  const day = await at(demoToday);
  await inBooks(database, booksId, async (tx) =>
    reportedElsewhere(await beginCommand(tx, day, booksId, actor), ELSEWHERE),
  );
  for (const period of FILED) {
    await inBooks(database, booksId, async (tx) => {
      const { rows } = await taxFigures(tx, booksId, period);
      const seenDue = taxDue(rows).due;
      const command = await beginCommand(tx, day, booksId, actor);
      return fileTaxReturn(command, {
        ...period,
        seenDue,
        movesTax: true,
        locks: false,
        note: null,
      });
    });
  }
}
