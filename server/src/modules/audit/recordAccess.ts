import type { RecordKind } from '@zubrell/core/audit/recordKinds';
import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import type { Database, Tx } from '../../db/database.ts';
import type { OpenedFrom } from '../../openedFrom.ts';

/** What is to be put on record. */
export interface AccessRecord {
  readonly kind: RecordKind;
  /** Null where it concerns no books. */
  readonly booksId: BooksId | null;
  /** Whom it concerns, beside who did it. */
  readonly subjectId?: string | null;
  /** What else there is to say; nothing of a person. */
  readonly details?: Readonly<Record<string, unknown>>;
  /** What goes when the person is erased, beside the address and the browser. */
  readonly personal?: Readonly<Record<string, string>>;
}

/** Puts on record what somebody did, by the secret of their session; without one nobody known did it. */
export async function recordAccess(
  tx: Tx | Database,
  session: string | null,
  from: OpenedFrom,
  { kind, booksId, subjectId = null, details = {}, personal = {} }: AccessRecord,
): Promise<void> {
  await tx.execute(
    sql`select record_access(${session}, ${booksId}, ${kind}, ${subjectId},
          ${JSON.stringify(details)}::jsonb, ${JSON.stringify({ ...from, ...personal })}::jsonb)`,
  );
}
