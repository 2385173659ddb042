import type { DecisionId, UserId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import type { BooksTx } from '../../db/database.ts';

/**
 * Leaves the codings of decisions just taken back as drafts of their lines. A draft that is there
 * already stays.
 */
export async function codingToDraft(
  { tx, booksId }: BooksTx,
  decisionIds: readonly DecisionId[],
  userId: UserId,
  at: Date,
): Promise<void> {
  await tx.execute(
    sql`insert into drafts (books_id, line_id, coding, version, updated_by, updated_at)
        select d.books_id, dl.line_id,
          jsonb_build_object(
            'payeeId', d.coding -> 'payeeId',
            'accountId', d.coding #> '{parts,0,accountId}',
            'taxCodeId', d.coding #> '{parts,0,taxCodeId}',
            'note', d.coding -> 'note',
            'rate', coalesce(d.coding -> 'rate', 'null'),
            'tax', d.coding #> '{parts,0,tax}',
            'costCentreId', d.coding #> '{parts,0,costCentreId}',
            'jobId', d.coding #> '{parts,0,jobId}',
            'clientId', d.coding #> '{parts,0,clientId}',
            'isRecharged', coalesce(d.coding #> '{parts,0,isRecharged}', 'false'),
            'parts', case when jsonb_array_length(d.coding -> 'parts') > 1
              then d.coding -> 'parts' end),
          1, ${userId}, ${at.toISOString()}
        from unnest(${sql.param(decisionIds)}::uuid[]) as left_behind (id)
        join decisions d on d.books_id = ${booksId} and d.id = left_behind.id
        join decision_lines dl on dl.books_id = d.books_id and dl.decision_id = d.id
        where d.coding is not null
        on conflict do nothing`,
  );
}
