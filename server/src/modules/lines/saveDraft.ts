import type { SaveDraft } from '@zubrell/contract/desk';
import { fail } from '@zubrell/core/errors';
import type { LineId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { countRows, rowsOf } from '../../db/database.ts';
import { NameRow } from '../../db/rows.ts';
import type { Acting } from '../steps/booksCommand.ts';

const VersionRow = z.object({ version: z.number() });

/**
 * Saves the half-done coding of a line, if nobody else did since the typist looked. Not a step.
 *
 * @returns the draft's new version
 * @throws {ZubrellError} DRAFT_CHANGED, LINE_UNKNOWN
 */
export async function saveDraft(
  { tx, booksId, clock, actor }: Acting,
  lineId: LineId,
  { coding, version }: SaveDraft,
): Promise<{ readonly version: number }> {
  const line = await countRows(
    tx,
    sql`select from lines where books_id = ${booksId} and id = ${lineId}`,
  );
  if (line === 0) fail('LINE_UNKNOWN');
  const body = coding === null ? null : JSON.stringify(coding);
  const [saved] = await rowsOf(
    tx,
    VersionRow,
    sql`insert into drafts (books_id, line_id, coding, version, updated_by, updated_at)
        values (${booksId}, ${lineId}, ${body}::jsonb, 1, ${actor.userId},
          ${clock.now().toISOString()})
        on conflict (books_id, line_id) do update set coding = excluded.coding,
          version = drafts.version + 1, updated_by = excluded.updated_by,
          updated_at = excluded.updated_at
        where drafts.version = ${version}
        returning version`,
  );
  if (saved) return saved;
  const [other] = await rowsOf(
    tx,
    NameRow,
    sql`select u.name from drafts f join users u on u.id = f.updated_by
        where f.books_id = ${booksId} and f.line_id = ${lineId}`,
  );
  return fail('DRAFT_CHANGED', { who: other?.name ?? '' });
}
