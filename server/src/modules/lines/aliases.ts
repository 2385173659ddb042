import { randomUUID } from 'node:crypto';
import type { StepDone } from '@zubrell/contract/common';
import type { MergeStacks, SplitStack } from '@zubrell/contract/desk';
import { fail } from '@zubrell/core/errors';
import type { BooksId } from '@zubrell/core/ids';
import { plainWording } from '@zubrell/core/text/plainWording';
import { type Said, say } from '@zubrell/core/words/say';
import { type SQL, sql } from 'drizzle-orm';
import { z } from 'zod';
import { bulkInsert } from '../../db/bulkInsert.ts';
import { type BooksTx, rowsOf } from '../../db/database.ts';
import { StemRow } from '../../db/rows.ts';
import type { BooksCommand } from '../steps/booksCommand.ts';
import { liveThing } from '../steps/liveThing.ts';
import { plainWords, recordStep } from '../steps/recordStep.ts';

/**
 * The newest word of somebody on lines of a stem, where words that set lines apart come first; else what was
 * learned of it.
 */
export function aliasOf(booksId: BooksId, ownStem: SQL, plain: SQL): SQL {
  return sql`select coalesce(
    (select al.target from aliases al
      where al.books_id = ${booksId} and al.is_live and al.stem = ${ownStem}
        and (al.word is null or strpos(' ' || ${plain} || ' ', ' ' || al.word || ' ') > 0)
      order by al.word is null, al.step desc limit 1),
    (select ls.target from learned_stems ls
      where ls.books_id = ${booksId} and ls.stem = ${ownStem})) as target`;
}

const Alias = z.object({ stem: z.string(), word: z.string().nullable(), target: z.string() });
type Alias = z.infer<typeof Alias>;

/**
 * Says that stacks are one payee's: their lines, and those that come, belong together from now on.
 *
 * @throws {ZubrellError} STACKS_SAME
 */
export async function mergeStacks(
  command: BooksCommand,
  { stems, into }: MergeStacks,
): Promise<StepDone> {
  const { tx, booksId } = command;
  const others = [...new Set(stems)].filter((stem) => stem !== into);
  if (others.length === 0) fail('STACKS_SAME');
  // A stack may hold several own stems that were learned to belong together.
  const own = await rowsOf(
    tx,
    StemRow,
    sql`select distinct own_stem as stem from lines
        where books_id = ${booksId} and stem = any(${sql.param(others)}::text[])
          and own_stem <> ${into}`,
  );
  const earlier = await rowsOf(
    tx,
    Alias,
    sql`select distinct stem, word, target from aliases
        where books_id = ${booksId} and is_live
          and target = any(${sql.param(others)}::text[])`,
  );
  const made = [
    ...own.map(({ stem }): Alias => ({ stem, word: null, target: into })),
    ...earlier.map((alias): Alias => ({ ...alias, target: into })),
  ];
  const words = say`Merged ${others.join(', ')} into ${into}`;
  return addAliases(command, made, 'mergeStacks', words);
}

/**
 * Says that lines of a stack with a word are another payee's, or of another kind; those of several words each.
 *
 * @throws {ZubrellError} STACK_WORD
 */
export async function splitStack(
  command: BooksCommand,
  { stem, words: typed }: SplitStack,
): Promise<StepDone> {
  const { tx, booksId } = command;
  const made: Alias[] = [];
  for (const each of typed) {
    const word = plainWording(each);
    const own = await rowsOf(
      tx,
      StemRow,
      sql`select distinct own_stem as stem from lines
          where books_id = ${booksId} and stem = ${stem} and is_here
            and strpos(' ' || plain || ' ', ' ' || ${word} || ' ') > 0`,
    );
    if (word === '' || own.length === 0) fail('STACK_WORD', { word: each });
    made.push(
      ...own.map(({ stem: from }): Alias => ({ stem: from, word, target: `${stem} · ${word}` })),
    );
  }
  const words = say`Split ${stem} by ${typed.map(plainWording).join(', ')}`;
  return addAliases(command, made, 'splitStack', words);
}

async function addAliases(
  command: BooksCommand,
  made: readonly Alias[],
  kind: 'mergeStacks' | 'splitStack',
  words: Said,
): Promise<StepDone> {
  const { tx, booksId, step } = command;
  const rows = made.map((alias) => ({ ...alias, id: randomUUID() }));
  await bulkInsert(
    tx,
    'aliases',
    {
      books_id: 'uuid',
      id: 'uuid',
      stem: 'text',
      word: 'text',
      target: 'text',
      is_live: 'boolean',
      step: 'bigint',
    },
    rows.map((alias) => ({ books_id: booksId, ...alias, is_live: true, step })),
  );
  const moved = await restem(
    { tx, booksId },
    step,
    made.map(({ stem }) => stem),
  );
  await command.follow.linesMoved(command, moved);
  await recordStep(command, {
    kind,
    words,
    items: rows.map(({ id }) => ({
      thing: 'alias',
      thingId: id,
      before: { isLive: false },
      after: { isLive: true },
    })),
  });
  return { step, words: plainWords(words) };
}

/** How what was said of stacks is taken back. */
export const aliasThing = liveThing('alias', 'aliases', async (command, ids) => {
  const { tx, booksId, step } = command;
  const rows = await rowsOf(
    tx,
    StemRow,
    sql`select distinct stem from aliases where books_id = ${booksId} and id = any(${sql.param(ids)}::uuid[])`,
  );
  const stems = rows.map(({ stem }) => stem);
  await command.follow.linesMoved(command, await restem(command, step, stems));
});

const MovedRow = z.object({ before: z.string(), after: z.string() });

/**
 * Gives the lines of these own stems the stems that hold now. They are found by the stems they can have had,
 * for which there is an index.
 *
 * @param step the step that moves them, by which what is kept of them in mind is found to be old
 * @param before stems that they may have had beside their own and what somebody said
 * @returns the stems of which lines went or to which they came, to be proposed for anew
 */
export async function restem(
  { tx, booksId }: BooksTx,
  step: number,
  ownStems: readonly string[],
  before: readonly string[] = [],
): Promise<readonly string[]> {
  const wanted = sql.param([...new Set(ownStems)]);
  const moved = await rowsOf(
    tx,
    MovedRow,
    sql`with moved as (
          select l.id, l.stem as before, coalesce(a.target, l.own_stem) as after
          from lines l
          left join lateral (${aliasOf(booksId, sql`l.own_stem`, sql`l.plain`)}) a on true
          where l.books_id = ${booksId} and l.own_stem = any(${wanted}::text[])
            and l.stem in (
              select unnest(${wanted}::text[])
              union
              select target from aliases
              where books_id = ${booksId} and stem = any(${wanted}::text[])
              union
              select target from learned_stems
              where books_id = ${booksId} and stem = any(${wanted}::text[])
              union
              select unnest(${sql.param(before)}::text[])))
        update lines l set stem = moved.after, relearn_step = ${step} from moved
        where l.books_id = ${booksId} and l.id = moved.id and moved.after <> moved.before
        returning moved.before, moved.after`,
  );
  return [...new Set(moved.flatMap((line) => [line.before, line.after]))];
}
