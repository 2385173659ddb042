import {
  type CodingRecord,
  Evidence,
  type Habit,
  type Habits,
  type MonthWork,
  RecordMonth,
} from '@zubrell/contract/habits';
import { fail } from '@zubrell/core/errors';
import { groupBy } from '@zubrell/core/groupBy';
import type { BooksId, LineId, PayeeId } from '@zubrell/core/ids';
import { textOf, wordingFeatures } from '@zubrell/core/propose/habit/features';
import { READY_FROM } from '@zubrell/core/propose/habit/lanes';
import type { LearnedHabit } from '@zubrell/core/propose/habit/memory';
import { weightsOf } from '@zubrell/core/propose/habit/predict';
import type { Separator } from '@zubrell/core/propose/habit/separators';
import { oddsAt, probabilityOf } from '@zubrell/core/propose/habit/sureness';
import { cleanName } from '@zubrell/core/text/cleanName';
import { foldCase } from '@zubrell/core/text/foldCase';
import { sql } from 'drizzle-orm';
import { z } from 'zod';
import { rowsOf, type Tx } from '../../db/database.ts';
import { idRow, NamedRow } from '../../db/rows.ts';
import { habitLineColumns } from '../lines/lineColumns.ts';
import { isOpenLine } from '../lines/lineState.ts';
import { habitsOf, shiftOf } from './booksMemory.ts';

/** So much of the uncertainty taken away is worth a word. */
const TELLING = 0.3;

const CountRow = z.object({ count: z.number() });

/** Of more habits than so many those with the most lines are listed. */
const LISTED = 300;

/**
 * The habits of the books with their records, and those that are blocked.
 *
 * @param search what stands in the name of those that are wanted, where there are too many to list all
 */
export async function habitList(tx: Tx, booksId: BooksId, search = ''): Promise<Habits> {
  const { ask } = await habitsOf(tx, booksId);
  const sizes = ask((memory) => memory.sizes());
  const payees = new Map(
    (await rowsOf(tx, NamedRow, sql`select id, name from payees where books_id = ${booksId}`)).map(
      ({ id, name }) => [id, name],
    ),
  );
  const wanted =
    sizes.length <= LISTED ? sizes : largestNamed(sizes, foldCase(search.trim()), payees);
  const learned = ask((memory) => wanted.flatMap(({ label }) => memory.habit(label) ?? []));
  const facts = await lineFacts(
    tx,
    booksId,
    learned.flatMap(({ examples }) => examples.map(({ id }) => id)),
  );
  const open = await openCounts(tx, booksId);
  const habits = learned.flatMap((each): Habit[] => {
    const payeeId = each.examples.at(-1)?.payeeId ?? null;
    const own = each.examples.flatMap(({ id }) => facts.get(id) ?? []);
    const stems = mostFirst(own.map(({ stem }) => stem));
    const [name] = stems;
    if (name === undefined) return [];
    const dates = own.map(({ date }) => date).sort();
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
        lastDate: dates.at(-1) ?? null,
        markId: null,
      },
    ];
  });
  habits.sort((a, b) => b.times - a.times || (a.name < b.name ? -1 : 1));
  const [rules] = await rowsOf(
    tx,
    CountRow,
    sql`select count(*)::int as count from rules where books_id = ${booksId} and is_here`,
  );
  const blocked = await blockedHabits(tx, booksId, payees);
  return {
    habits: [...habits, ...blocked],
    total: sizes.length + blocked.length,
    ruleCount: rules?.count ?? 0,
  };
}

/** Those with the most lines of which the name, as it is known without their lines, has something. */
function largestNamed(
  sizes: readonly { readonly label: string; readonly times: number }[],
  typed: string,
  payees: ReadonlyMap<string, string>,
): typeof sizes {
  const isMeant = ({ label }: { readonly label: string }) =>
    typed === '' || foldCase(payees.get(label) ?? label).includes(typed);
  return sizes
    .filter(isMeant)
    .sort((a, b) => b.times - a.times)
    .slice(0, LISTED);
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

function mostFirst(values: readonly string[]): string[] {
  const counts = new Map<string, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1]).map(([value]) => value);
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

const LineFactsRow = z.object({
  id: z.string(),
  stem: z.string(),
  date: z.string(),
  /** Whether a habit proposed for it. */
  isProposed: z.boolean(),
  isUnread: z.boolean(),
  isKept: z.boolean(),
});
type LineFacts = z.infer<typeof LineFactsRow>;

/** So many lines are asked for at once. */
const AT_ONCE = 20_000;

/** What decided lines are, what a habit proposed for them, and whether its account was left. */
async function lineFacts(
  tx: Tx,
  booksId: BooksId,
  ids: readonly string[],
): Promise<ReadonlyMap<string, LineFacts>> {
  const facts = new Map<string, LineFacts>();
  for (let from = 0; from < ids.length; from += AT_ONCE) {
    const rows = await rowsOf(
      tx,
      LineFactsRow,
      sql`select l.id, l.stem, l.date, d.proposed_by is not distinct from 'habit' and d.way is not null as "isProposed",
            coalesce(d.way in ('sweep', 'rule'), false) as "isUnread", d.is_account_kept as "isKept"
          from lines l
          join decision_lines dl on dl.books_id = l.books_id and dl.line_id = l.id and dl.is_live
          join decisions d on d.books_id = dl.books_id and d.id = dl.decision_id
          where l.books_id = ${booksId} and l.is_here
            and l.id = any(${sql.param(ids.slice(from, from + AT_ONCE))}::uuid[])`,
    );
    for (const row of rows) facts.set(row.id, row);
  }
  return facts;
}

function countRecords(own: readonly LineFacts[]): Pick<Habit, 'kept' | 'looked' | 'unread'> {
  const proposed = own.filter(({ isProposed }) => isProposed);
  const looked = proposed.filter(({ isUnread }) => !isUnread);
  return {
    kept: looked.filter(({ isKept }) => isKept).length,
    looked: looked.length,
    unread: proposed.length - looked.length,
  };
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

/** So many decided lines are shown as evidence. */
const SHOWN = 12;

const LineRow = z.object(habitLineColumns);

const EvidenceRow = Evidence.shape.lines.element.omit({ share: true, accountId: true });

/** The decided lines that speak most for what is proposed for a line. @throws {ZubrellError} LINE_UNKNOWN */
export async function evidenceOf(tx: Tx, booksId: BooksId, lineId: LineId): Promise<Evidence> {
  const [line] = await rowsOf(
    tx,
    LineRow,
    sql`select date, amount, description, reference, payee, bank_account_id as "bankAccountId"
        from lines where books_id = ${booksId} and id = ${lineId}`,
  );
  if (!line) fail('LINE_UNKNOWN');
  const { ask } = await habitsOf(tx, booksId);
  const weights = ask((memory) => weightsOf(memory, line, wordingFeatures(textOf(line))));
  const witnesses = weights.filter(({ example }) => example.id !== lineId);
  const total = witnesses.reduce((sum, { weight }) => sum + weight, 0) || 1;
  const best = [...witnesses].sort((a, b) => b.weight - a.weight).slice(0, SHOWN);
  const shares = new Map(best.map(({ example, weight }) => [example.id, weight / total]));
  const accounts = new Map(best.map(({ example }) => [example.id, example.accountId]));
  const rows = await rowsOf(
    tx,
    EvidenceRow,
    sql`select id, date, amount, description from lines
        where books_id = ${booksId} and id = any(${sql.param([...shares.keys()])}::uuid[])`,
  );
  const lines = rows.map((row) => ({
    ...row,
    share: shares.get(row.id) ?? 0,
    accountId: accounts.get(row.id) ?? '',
  }));
  return { lines: lines.sort((a, b) => b.share - a.share) };
}

const PressedRow = z.object({ month: z.string(), presses: z.number() });

/** Month by month, what each source proposed for lines that are posted, and how much of it was kept. */
export async function codingRecord(tx: Tx, booksId: BooksId): Promise<CodingRecord> {
  const months = await rowsOf(
    tx,
    RecordMonth,
    sql`select to_char(date, 'YYYY-MM') as month, source, sum(count)::int as lines, sum(looked)::int as looked,
          sum(kept)::int as kept, sum(unseen)::int as unseen
        from decided_days
        where books_id = ${booksId} and kind in ('posted', 'paired')
        group by 1, 2 having sum(count) > 0 order by 1, 2`,
  );
  const pressed = await rowsOf(
    tx,
    PressedRow,
    sql`select to_char(month, 'YYYY-MM') as month, sum(presses) as presses from step_presses
        where books_id = ${booksId} group by 1`,
  );
  const pressesOf = new Map(pressed.map(({ month, presses }) => [month, presses]));
  const work = [...groupBy(months, ({ month }) => month)].map(([month, sources]): MonthWork => {
    const lines = sources.reduce((sum, each) => sum + each.lines, 0);
    const presses = pressesOf.get(month);
    return {
      month,
      lines,
      untouched: sources.reduce((sum, { unseen }) => sum + unseen, 0),
      presses: presses === undefined ? null : presses / lines,
    };
  });
  const shift = await shiftOf(tx, booksId);
  return { months, work, readyFrom: probabilityOf(oddsAt(READY_FROM) - shift) };
}
