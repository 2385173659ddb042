import type { SaveDraft, SaveStackDraft } from '@zubrell/contract/desk';
import { fail } from '@zubrell/core/errors';
import type { LineId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { countRows, rowsOf } from '../../db/database.ts';
import { NameRow } from '../../db/rows.ts';
import type { Acting } from '../steps/booksCommand.ts';
import { isInLane } from './lineState.ts';
import { scopeFilter, stackFilter } from './scopeFilter.ts';

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

/**
 * Keeps what was typed on the head of a stack with each of its lines. A line that somebody typed something else into
 * keeps that. Not a step.
 *
 * @returns how many lines have it now
 */
export async function saveStackDraft(
  { tx, booksId, clock, actor }: Acting,
  { stack, lane, scope, coding, before }: SaveStackDraft,
): Promise<{ readonly count: number }> {
  const [body, was] = [coding, before].map((each) => (each === null ? null : JSON.stringify(each)));
  const inScope = await scopeFilter({ tx, booksId }, scope);
  const count = await countRows(
    tx,
    sql`insert into drafts (books_id, line_id, coding, version, updated_by, updated_at)
        select l.books_id, l.id, ${body}::jsonb, 1, ${actor.userId}, ${clock.now().toISOString()}
        from lines l
        left join proposals p on p.books_id = l.books_id and p.line_id = l.id
        where l.books_id = ${booksId} and ${isInLane(lane)}
          and ${stackFilter(stack)} and ${inScope}
        on conflict (books_id, line_id) do update set coding = excluded.coding,
          version = drafts.version + 1, updated_by = excluded.updated_by,
          updated_at = excluded.updated_at
        where drafts.coding is null or drafts.coding = ${was}::jsonb`,
  );
  return { count };
}
