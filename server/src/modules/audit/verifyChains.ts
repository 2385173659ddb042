import { createHash } from 'node:crypto';
import type { ChainCheck, ChainFault } from '@zubrell/contract/audit';
import { Said } from '@zubrell/contract/said';
import type { BooksId } from '@zubrell/core/ids';
import { saidWords } from '@zubrell/core/words/say';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { saidOfStep } from '../steps/stepState.ts';

/** A row of a chain, with what its hash was made of. */
const Link = z.object({
  no: z.number(),
  hash: z.instanceof(Buffer).nullable(),
  /** What is hashed after the hash of the row before. */
  text: z.string(),
  parts: z.array(z.instanceof(Buffer)),
  /** Whether what is personal is gone, or not as it was. */
  personal: z.enum(['kept', 'erased', 'gone', 'changed']),
});
type Link = z.infer<typeof Link>;

/** A step as a link, with what it says, and the same with its values apart. */
const StepLink = Link.omit({ personal: true }).extend({
  words: z.string(),
  said: Said.nullable(),
});

/** Reads the rows of a chain that come after one, in their order. */
type ReadLinks = (after: number) => Promise<Link[]>;

/** So many rows are read at a time. */
const PAGE = 500;

const sha256 = (...parts: readonly (Buffer | string)[]): Buffer => {
  const hash = createHash('sha256');
  for (const part of parts) hash.update(part);
  return hash.digest();
};

/** The time as it is hashed. */
const moment = (column: ReturnType<typeof sql>) =>
  sql`to_char(${column} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.US')`;

/** Goes through the steps of books and finds those that are not as they were written. */
export function verifySteps(tx: Tx, booksId: BooksId): Promise<ChainCheck> {
  return verify(tx, 'steps', booksId, async (after) => {
    const links = await rowsOf(
      tx,
      StepLink,
      sql`select s.no, s.hash, s.words, ${saidOfStep} as said, json_build_array(
            s.books_id, s.no, s.user_id, ${moment(sql`s.at`)}, s.kind, s.words, s.undoes, s.redoes)::text as text,
            array[
              sha256(coalesce((select string_agg(sha256(convert_to(json_build_array(
                  i.position, i.thing, i.thing_id, i.before, i.after)::text, 'UTF8')), ''::bytea order by i.position)
                from step_items i where i.books_id = s.books_id and i.step_no = s.no), '')),
              sha256(coalesce((select string_agg(sha256(convert_to(json_build_array(
                  n.thing, n.thing_id)::text, 'UTF8')), ''::bytea order by n.thing collate "C", n.thing_id)
                from step_needs n where n.books_id = s.books_id and n.step_no = s.no), ''))] as parts
          from steps s where s.books_id = ${booksId} and s.no > ${after}
          order by s.no limit ${PAGE}`,
    );
    // What History shows has to say what was sealed.
    return links.map(({ words, said, ...link }) => ({
      ...link,
      personal:
        said !== null && saidWords(said) !== words ? ('changed' as const) : ('kept' as const),
    }));
  });
}

/**
 * Goes through what is on record of books, or of no books: sign-ins and the like. Those only the tables' owner can
 * see all of.
 */
export function verifyRecords(tx: Tx, booksId: BooksId | null): Promise<ChainCheck> {
  return verify(tx, booksId === null ? 'signIns' : 'records', booksId, (after) =>
    rowsOf(
      tx,
      Link,
      sql`select r.no, r.hash, array[r.personal_hash] as parts, json_build_array(
            r.books_id, r.no, ${moment(sql`r.at`)}, r.user_id, r.kind, r.subject_id, r.details)::text as text,
            case
              when r.personal is not null then
                case when sha256(r.salt || convert_to(r.personal::text, 'UTF8')) = r.personal_hash
                  then 'kept' else 'changed' end
              when exists (
                select from users u where u.erased_at is not null and (u.id in (r.user_id, r.subject_id)
                  or exists (select from audit_records j
                    where j.books_id = r.books_id and j.kind = 'joined' and j.subject_id = u.id
                      and j.details ->> 'invitation' = r.details ->> 'invitation')))
                then 'erased'
              else 'gone' end as personal
          from audit_records r
          where r.books_id is not distinct from ${booksId}::uuid and r.no > ${after}
          order by r.no limit ${PAGE}`,
    ),
  );
}

async function verify(
  tx: Tx,
  chain: ChainCheck['chain'],
  booksId: BooksId | null,
  read: ReadLinks,
): Promise<ChainCheck> {
  // Others go on meanwhile: up to the first end all has to be there, and nothing may come after the last one.
  const end = await endOf(tx, chain, booksId);
  const faults: ChainFault[] = [];
  let count = 0;
  let before: { no: number; hash: Buffer } = { no: 0, hash: Buffer.alloc(0) };
  for (;;) {
    const links = await read(before.no);
    for (const link of links) {
      const { no, hash, text, parts, personal } = link;
      count += 1;
      const isNext = no === before.no + 1;
      for (let gone = before.no + 1; gone < no; gone += 1)
        faults.push({ no: gone, what: 'missing' });
      if (hash === null) faults.push({ no, what: 'open' });
      // What stands after a gap can't be proved by what stood before it.
      else if (
        personal === 'changed' ||
        (isNext && !hash.equals(sha256(before.hash, text, ...parts))) ||
        (no === end.no && !hash.equals(end.hash))
      ) {
        faults.push({ no, what: 'changed' });
      } else if (personal === 'gone') faults.push({ no, what: 'forgotten' });
      before = { no, hash: hash ?? Buffer.alloc(0) };
    }
    if (links.length < PAGE) break;
  }
  for (let gone = before.no + 1; gone <= end.no; gone += 1)
    faults.push({ no: gone, what: 'missing' });
  // Rows that nothing ends with were put in past the functions that write them.
  const { no: last } = await endOf(tx, chain, booksId);
  if (last < before.no) faults.push({ no: before.no, what: 'changed' });
  return { chain, count, faults, head: before.hash.toString('hex') };
}

const HeadRow = z.object({ no: z.number(), hash: z.instanceof(Buffer) });

/** Where a chain ends, by what is written down of that. */
async function endOf(
  tx: Tx,
  chain: ChainCheck['chain'],
  booksId: BooksId | null,
): Promise<{ readonly no: number; readonly hash: Buffer }> {
  const kind = chain === 'steps' ? 'steps' : 'records';
  const [head] = await rowsOf(
    tx,
    HeadRow,
    sql`select no, hash from audit_heads
        where books_id is not distinct from ${booksId}::uuid and chain = ${kind}`,
  );
  return head ?? { no: 0, hash: Buffer.alloc(0) };
}
