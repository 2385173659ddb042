import type {
  DraftedRule,
  DraftRule,
  RuleSuggestion,
  RuleSuggestions,
} from '@zubrell/contract/rules';
import { fail } from '@zubrell/core/errors';
import type { AccountId, BooksId } from '@zubrell/core/ids';
import type { LearnedHabit } from '@zubrell/core/propose/habit/memory';
import { sideOf } from '@zubrell/core/propose/habit/separators';
import { takesOf } from '@zubrell/core/propose/rule/conditions';
import type { RuleResult, RuleTakes } from '@zubrell/core/propose/rule/rule';
import { indexRules } from '@zubrell/core/propose/rule/ruleIndex';
import { narrowed, takesFor } from '@zubrell/core/propose/rule/takesFor';
import { cleanName } from '@zubrell/core/text/cleanName';
import { MANY_HEADS } from '@zubrell/core/text/headCounts';
import { isMovementWord } from '@zubrell/core/text/stemOf';
import { sql } from 'drizzle-orm';
import { rowsOf, type Tx } from '../../db/database.ts';
import { IdRow, NamedRow } from '../../db/rows.ts';
import { habitsOf } from '../habits/booksMemory.ts';
import { type BooksLines, booksLines, type KnownLine } from './booksLines.ts';
import { activeOf, ruleRows } from './ruleRows.ts';

/** Whether a word says little of who was paid. */
const isCommonIn =
  ({ headsWith }: BooksLines) =>
  (word: string): boolean =>
    isMovementWord(word) || headsWith(word) >= MANY_HEADS;

/**
 * A rule filled in from lines, a stack or a habit: the stable part of the wording, and the coding that such
 * lines mostly had.
 *
 * @throws {ZubrellError} LINE_UNKNOWN, HABIT_UNKNOWN
 */
export async function draftRule(tx: Tx, booksId: BooksId, from: DraftRule): Promise<DraftedRule> {
  const books = await booksLines(tx, booksId);
  const names = await payeeNames(tx, booksId);
  if ('habit' in from) {
    const { ask } = await habitsOf(tx, booksId);
    const byId = new Map(books.lines.map((line) => [line.id, line]));
    // Its key is its label, but where look-alikes were put together otherwise since.
    const named = ask((memory) => memory.habit(from.habit));
    const isIt = named !== null && keyOf(named, byId) === from.habit;
    const learned = isIt ? [named] : ask((memory) => memory.habits());
    for (const habit of learned) {
      if (keyOf(habit, byId) !== from.habit) continue;
      const drafted = fromHabit(habit, from.accountId, { byId, books, names });
      if (drafted) return drafted;
    }
    return fail('HABIT_UNKNOWN');
  }
  const wanted = new Set('lineIds' in from ? from.lineIds : await idsOfStack(tx, booksId, from));
  const lines = books.lines.filter(({ id }) => wanted.has(id));
  if (lines.length === 0) fail('LINE_UNKNOWN');
  const like = 'lineIds' in from ? withLookAlikes(lines, books) : lines;
  return fromLines(like, takesFor(lines, isCommonIn(books)), names);
}

/** The lines of a stack, as they are put together now. */
async function idsOfStack(
  tx: Tx,
  booksId: BooksId,
  { stem, direction }: Extract<DraftRule, { stem: string }>,
): Promise<string[]> {
  const rows = await rowsOf(
    tx,
    IdRow,
    sql`select id from lines where books_id = ${booksId} and stem = ${stem} and is_here
          and (amount < 0) = ${direction === 'out'}`,
  );
  return rows.map(({ id }) => id);
}

/** A habit's key, as the list of habits gives it. */
function keyOf({ examples }: LearnedHabit, byId: ReadonlyMap<string, KnownLine>): string {
  const payeeId = examples.at(-1)?.payeeId;
  if (payeeId) return payeeId;
  const stems = examples.flatMap(({ id }) => byId.get(id)?.stem ?? []);
  return `· ${mostOf(stems) ?? ''}`;
}

/** Lines with all that look alike: what those were coded to is what such lines are. */
function withLookAlikes(lines: readonly KnownLine[], { lines: all }: BooksLines): KnownLine[] {
  const stems = new Set(lines.map(({ stem }) => stem));
  return all.filter(({ stem }) => stems.has(stem));
}

async function payeeNames(tx: Tx, booksId: BooksId): Promise<ReadonlyMap<string, string>> {
  const rows = await rowsOf(
    tx,
    NamedRow,
    sql`select id, name from payees where books_id = ${booksId} and is_here and merged_into is null`,
  );
  return new Map(rows.map(({ id, name }) => [id, name]));
}

function fromLines(
  lines: readonly KnownLine[],
  takes: RuleTakes,
  names: ReadonlyMap<string, string>,
  accountId = mostOf(lines.flatMap(({ accountIds }) => accountIds)),
): DraftedRule {
  const coded = lines.filter(({ accountIds }) => accountId && accountIds.includes(accountId));
  const payeeId = mostOf(coded.flatMap(({ payeeId: each }) => each ?? []));
  const taxCodeId = mostOf(coded.map(({ taxCodeId: each }) => each)) ?? null;
  const isNamed = payeeId !== undefined && names.has(payeeId);
  const result: RuleResult = {
    kind: 'code',
    payee: isNamed ? { kind: 'fixed', payeeId } : { kind: 'open' },
    parts: accountId ? [{ accountId, taxCodeId, share: { kind: 'rest' } }] : [],
    note: null,
  };
  const stem = mostOf(lines.map((line) => line.stem)) ?? '';
  const name = (isNamed && names.get(payeeId)) || cleanName(stem);
  return { name: name.slice(0, 100), body: { takes, result, after: { kind: 'hold' } } };
}

function mostOf<Value>(values: readonly Value[]): Value | undefined {
  const counts = new Map<Value, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  let best: Value | undefined;
  let most = 0;
  for (const [value, count] of counts) {
    if (count > most) {
      most = count;
      best = value;
    }
  }
  return best;
}

/** A rule for one account of a habit, with what sets its lines apart from the others. */
function fromHabit(
  habit: LearnedHabit,
  accountId: AccountId,
  {
    byId,
    books,
    names,
  }: {
    readonly byId: ReadonlyMap<string, KnownLine>;
    readonly books: BooksLines;
    readonly names: ReadonlyMap<string, string>;
  },
): DraftedRule | null {
  const own = habit.examples.filter((example) => example.accountId === accountId);
  const lines = own.flatMap(({ id }) => byId.get(id) ?? []);
  if (lines.length === 0) return null;
  let takes = takesFor(lines, isCommonIn(books));
  // A rule knows nothing of days of the week and of round amounts.
  const separator = habit.separators.find(({ kind }) => kind !== 'weekday' && kind !== 'cents');
  let isSaid = false;
  if (separator && own.length < habit.examples.length) {
    const inside = own.filter((each) => sideOf(separator, each)).length;
    const isInside = 2 * inside > own.length;
    const others = own.filter((each) => sideOf(separator, each) === isInside);
    isSaid = isInside;
    const banks = [...new Set(others.map(({ bankAccountId }) => bankAccountId))];
    takes = narrowed(takes, separator, isInside, banks);
  }
  const drafted = fromLines(lines, takes, names, accountId);
  // What is set apart by a word is called by it.
  const word = separator?.kind === 'word' ? ` ${cleanName(separator.word).toLowerCase()}` : '';
  return { ...drafted, name: `${drafted.name}${isSaid ? word : ''}`.slice(0, 100) };
}

/** Decided so often, look-alikes recur. */
const OFTEN = 4;
/** So much of what went there must be of one account, once it is set apart. */
const CLEAR = 0.9;
const MOST_SUGGESTED = 20;
/** So many habits, those with the most lines, are looked at. */
const LOOKED_AT = 500;

/** Recurring look-alikes that no rule takes, each with the rule that would do what was done so far. */
export async function suggestRules(tx: Tx, booksId: BooksId): Promise<RuleSuggestions> {
  const books = await booksLines(tx, booksId);
  const names = await payeeNames(tx, booksId);
  const index = indexRules(activeOf(await ruleRows(tx, booksId)));
  const byId = new Map(books.lines.map((line) => [line.id, line]));
  const { ask } = await habitsOf(tx, booksId);
  const largest = ask((memory) => {
    const often = memory.sizes().filter(({ times }) => times >= OFTEN);
    return [...often]
      .sort((a, b) => b.times - a.times)
      .slice(0, LOOKED_AT)
      .flatMap(({ label }) => memory.habit(label) ?? []);
  });
  const found = largest.flatMap((habit): RuleSuggestion[] => {
    const free = habit.examples.filter(({ id }) => {
      const line = byId.get(id);
      return line !== undefined && index.first(line) < 0;
    });
    if (free.length < OFTEN || 2 * free.length < habit.examples.length) return [];
    return [...new Set(free.map(({ accountId }) => accountId))].flatMap((accountId) => {
      const own = free.filter((example) => example.accountId === accountId);
      const drafted = fromHabit(habit, accountId, { byId, books, names });
      if (!drafted || own.length < OFTEN || drafted.body.takes.conditions.length === 0) return [];
      const { takes } = drafted.body;
      const taken = books.search.worthALook(books.lines, takes).filter(takesOf(takes));
      const decided = taken.filter(({ state }) => state === 'posted');
      const right = decided.filter(({ accountIds }) => accountIds.join() === accountId).length;
      if (right < CLEAR * decided.length || right < OFTEN) return [];
      const [newest] = taken;
      return [{ ...drafted, times: right, lastDate: newest?.facts.date ?? '' }];
    });
  });
  const best = found.sort((a, b) => b.times - a.times).slice(0, MOST_SUGGESTED);
  return { suggestions: best };
}
