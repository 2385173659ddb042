import { AuditRecords, type RecordsWanted } from '@zubrell/contract/audit';
import { recordKindsByGroup } from '@zubrell/core/audit/recordKinds';
import type { BooksId } from '@zubrell/core/ids';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { cursorOf, placeOf } from '../../db/cursor.ts';
import { rowsOf, type Tx } from '../../db/database.ts';

const PAGE = 100;

const RecordRow = AuditRecords.shape.items.element.extend({ no: z.number(), chain: z.number() });

const PeopleRow = AuditRecords.shape.people.element;

/** What is on record of books and of their members, the newest first. */
export async function recordsOf(
  tx: Tx,
  booksId: BooksId,
  { group, userId }: RecordsWanted,
  cursor: string | undefined,
): Promise<AuditRecords> {
  const place = placeOf(cursor, 'moment', 'number', 'number');
  const rows = await rowsOf(
    tx,
    RecordRow,
    sql`select r.no, (r.books_id is null)::int as chain,
          (r.books_id is null)::int || '-' || r.no as key,
          to_char(r.at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US"Z"') as at, r.kind,
          u.name as who, a.name as about, r.personal ->> 'name' as name,
          r.personal ->> 'address' as address, r.personal ->> 'browser' as browser, r.details,
          (select s.words from steps s where s.books_id = ${booksId} and r.books_id = s.books_id
            and s.no = (r.details ->> 'step')::bigint) as words
        from audit_records r
        left join users u on u.id = r.user_id
        left join users a on a.id = r.subject_id
        where (r.books_id = ${booksId} or r.books_id is null)
          and ${place === null ? sql`true` : sql`(r.at, r.no, (r.books_id is null)::int) < (${place[0]}::timestamptz, ${place[1]}::bigint, ${place[2]}::int)`}
          and ${group === undefined ? sql`true` : sql`r.kind = any(${sql.param([...recordKindsByGroup[group]])}::text[])`}
          and ${userId === undefined ? sql`true` : sql`r.user_id = ${userId}`}
        order by r.at desc, r.no desc, chain desc limit ${PAGE}`,
  );
  const last = rows.at(-1);
  const people = await rowsOf(
    tx,
    PeopleRow,
    sql`select u.id, u.name from users u where exists (
          select from audit_records r where r.user_id = u.id
            and (r.books_id = ${booksId} or r.books_id is null))
        order by u.name`,
  );
  return {
    items: rows.map(({ no: _no, chain: _chain, ...item }) => item),
    people,
    next: last && rows.length === PAGE ? cursorOf(last.at, last.no, last.chain) : null,
  };
}
