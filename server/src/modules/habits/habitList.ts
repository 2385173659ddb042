import type { Habit, HabitQuery, Habits } from '@zubrell/contract/habits';
import type { BooksId, PayeeId } from '@zubrell/core/ids';
import type { LearnedHabit } from '@zubrell/core/propose/habit/memory';
import type { Separator } from '@zubrell/core/propose/habit/separators';
import { cleanName } from '@zubrell/core/text/cleanName';
import { foldCase } from '@zubrell/core/text/foldCase';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { cursorOf, placeOf } from '../../db/cursor.ts';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow, NamedRow } from '../../db/rows.ts';
import { isOpenLine } from '../lines/lineState.ts';
import { habitsOf } from './booksMemory.ts';

/** So much of the uncertainty taken away is worth a word. */
const TELLING = 0.3;

const CountRow = z.object({ count: z.number() });

/** Up to so many habits are listed at once; of more, so many at a time. */
const ALL = 300;
const AT_A_TIME = 25;

/**
 * The habits of the books with their records, those with the most lines first, and those that are blocked.
 *
 * @param search what stands in the name of those that are wanted, where there are too many to list all
 * @throws {ZubrellError} CURSOR_FOREIGN
 */
export async function habitList(
  tx: Tx,
  booksId: BooksId,
  { search = '', cursor }: HabitQuery,
): Promise<Habits> {
  const { ask } = await habitsOf(tx, booksId);
  const sizes = ask((memory) => memory.sizes());
  const payees = new Map(
    (await rowsOf(tx, NamedRow, sql`select id, name from payees where books_id = ${booksId}`)).map(
      ({ id, name }) => [id, name],
    ),
  );
  const typed = sizes.length > ALL ? foldCase(search.trim()) : '';
  const named = largestNamed(sizes, typed, payees);
  const from = Number(placeOf(cursor, 'number')?.[0] ?? 0);
  const to = sizes.length > ALL ? from + AT_A_TIME : named.length;
  const learned = ask((memory) =>
    named.slice(from, to).flatMap(({ label }) => memory.habit(label) ?? []),
  );
  const habits = await withRecords(tx, booksId, learned, payees);
  const [rules] = await rowsOf(
    tx,
    CountRow,
    sql`select count(*)::int as count from rules where books_id = ${booksId} and is_here`,
  );
  const blocked = await blockedHabits(tx, booksId, payees);
  const isNamed = ({ name }: Habit) => foldCase(name).includes(typed);
  return {
    items: from === 0 ? [...habits, ...blocked.filter(isNamed)] : habits,
    next: to < named.length ? cursorOf(to) : null,
    total: sizes.length + blocked.length,
    ruleCount: rules?.count ?? 0,
  };
}

/** Habits as they are shown, those with the most lines first. */
async function withRecords(
  tx: Tx,
  booksId: BooksId,
  learned: readonly LearnedHabit[],
  payees: ReadonlyMap<string, string>,
): Promise<Habit[]> {
  const facts = await stemFacts(tx, booksId, learned);
  const open = await openCounts(tx, booksId);
  const habits = learned.flatMap((each, at): Habit[] => {
    const payeeId = each.examples.at(-1)?.payeeId ?? null;
    const own = facts.get(at) ?? [];
    const stems = own.map(({ stem }) => stem);
    const [name] = stems;
    if (name === undefined) return [];
    return [
      {
        key: payeeId ?? `· ${name}`,
        payeeId,
        name: (payeeId && payees.get(payeeId)) ?? cleanName(name),
        stems,
        accounts: accountsOf(each),
        times: each.examples.length,
        separators: each.separators.filter(({ gain }) => gain >= TELLING).map(shownSeparator),
        ...countRecords(own),
        open: payeeId
          ? (open.get(payeeId) ?? 0)
          : stems.reduce((sum, stem) => sum + (open.get(stem) ?? 0), 0),
        lastDate:
          own
            .map(({ last }) => last)
            .sort()
            .at(-1) ?? null,
        markId: null,
      },
    ];
  });
  return habits.sort((a, b) => b.times - a.times || (a.name < b.name ? -1 : 1));
}

/** Those of which the name, as it is known without their lines, has something: the ones with the most lines first. */
function largestNamed(
  sizes: readonly { readonly label: string; readonly times: number }[],
  typed: string,
  payees: ReadonlyMap<string, string>,
): typeof sizes {
  const isMeant = ({ label }: { readonly label: string }) =>
    typed === '' || foldCase(payees.get(label) ?? label).includes(typed);
  return sizes.filter(isMeant).sort((a, b) => b.times - a.times || (a.label < b.label ? -1 : 1));
}

/** How many habits the books have, with those that are blocked. */
export async function habitCount(tx: Tx, booksId: BooksId): Promise<number> {
  const { ask } = await habitsOf(tx, booksId);
  return ask((memory) => memory.sizes().length) + (await blockedMarks(tx, booksId)).length;
}

function accountsOf({ examples }: LearnedHabit): Habit['accounts'] {
  const counts = new Map<string, number>();
  for (const { accountId } of examples) counts.set(accountId, (counts.get(accountId) ?? 0) + 1);
  return [...counts]
    .map(([accountId, times]) => ({ accountId, times }))
    .sort((a, b) => b.times - a.times || (a.accountId < b.accountId ? -1 : 1));
}

function wordOf(separator: Separator): string | null {
  if (separator.kind === 'number') return separator.number;
  return separator.kind === 'word' ? separator.word : null;
}

function shownSeparator(separator: Separator): Habit['separators'][number] {
  return {
    by: separator.kind,
    word: wordOf(separator),
    limit: 'limit' in separator ? separator.limit : 'to' in separator ? separator.to : null,
    from: 'from' in separator ? separator.from : null,
    bankAccountId: separator.kind === 'bankAccount' ? separator.bankAccountId : null,
    gain: separator.gain,
  };
}

const StemFactsRow = z.object({
  /** Which of the habits. */
  at: z.int(),
  stem: z.string(),
  last: z.string(),
  /** Lines for which a habit proposed; those of them that nobody looked at; and that somebody did and left the account. */
  proposed: z.int(),
  unread: z.int(),
  kept: z.int(),
});
type StemFacts = z.infer<typeof StemFactsRow>;

/** What became of the lines that habits are made of, by habit and by wording: the wording of the most lines first. */
async function stemFacts(
  tx: Tx,
  booksId: BooksId,
  learned: readonly LearnedHabit[],
): Promise<ReadonlyMap<number, readonly StemFacts[]>> {
  const lines = learned.flatMap(({ examples }, at) => examples.map(({ id }) => ({ id, at })));
  const rows = await rowsOf(
    tx,
    StemFactsRow,
    sql`select m.at, l.stem, max(l.date) as last, count(*) filter (where was.proposed)::int as proposed,
          count(*) filter (where was.proposed and was.unread)::int as unread,
          count(*) filter (where was.proposed and not was.unread and d.is_account_kept)::int as kept
        from unnest(${sql.param(lines.map(({ id }) => id))}::uuid[], ${sql.param(lines.map(({ at }) => at))}::int[]) m(id, at)
        join lines l on l.books_id = ${booksId} and l.id = m.id and l.is_here
        join decision_lines dl on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
        join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
        cross join lateral (
          select d.proposed_by is not distinct from 'habit' and d.way is not null as proposed,
            coalesce(d.way in ('sweep', 'rule'), false) as unread) was
        group by 1, 2 order by 1, count(*) desc, 2`,
  );
  const found = new Map<number, StemFacts[]>();
  for (const row of rows) found.set(row.at, [...(found.get(row.at) ?? []), row]);
  return found;
}

function countRecords(own: readonly StemFacts[]): Pick<Habit, 'kept' | 'looked' | 'unread'> {
  const sum = (of: 'proposed' | 'unread' | 'kept') => own.reduce((all, row) => all + row[of], 0);
  return { kept: sum('kept'), looked: sum('proposed') - sum('unread'), unread: sum('unread') };
}

const OpenCountsRow = z.object({ key: z.string(), count: z.number() });

/** How many open lines habits propose for, by payee and, where there is none, by stem. */
async function openCounts(tx: Tx, booksId: BooksId): Promise<ReadonlyMap<string, number>> {
  const rows = await rowsOf(
    tx,
    OpenCountsRow,
    sql`select coalesce(p.proposal #>> '{coding,payeeId}', l.stem) as key, count(*)::int as count
        from proposals p join lines l on l.books_id = p.books_id and l.id = p.line_id
        where p.books_id = ${booksId} and p.proposal ->> 'source' = 'habit' and ${isOpenLine}
        group by 1`,
  );
  return new Map(rows.map(({ key, count }) => [key, count]));
}

const BlockedMarksRow = z.object({
  id: z.string(),
  payeeId: idRow<PayeeId>().nullable(),
  stems: z.array(z.string()),
});

function blockedMarks(
  tx: Tx,
  booksId: BooksId,
): Promise<{ id: string; payeeId: PayeeId | null; stems: string[] }[]> {
  return rowsOf(
    tx,
    BlockedMarksRow,
    sql`select id, payee_id as "payeeId", stems from habit_marks
        where books_id = ${booksId} and is_live and kind = 'blocked' order by step desc`,
  );
}

async function blockedHabits(
  tx: Tx,
  booksId: BooksId,
  payees: ReadonlyMap<string, string>,
): Promise<Habit[]> {
  const marks = await blockedMarks(tx, booksId);
  return marks.map(({ id, payeeId, stems }) => ({
    key: `blocked ${id}`,
    payeeId,
    name: (payeeId && payees.get(payeeId)) || cleanName(stems[0] ?? ''),
    stems,
    accounts: [],
    times: 0,
    separators: [],
    kept: 0,
    looked: 0,
    unread: 0,
    open: 0,
    lastDate: null,
    markId: id,
  }));
}
