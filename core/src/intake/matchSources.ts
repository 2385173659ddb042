import { addDays, type CalendarDate } from '../dates/calendarDate.ts';
import type { Minor } from '../money/minor.ts';
import { wordingLikeness } from '../text/likeness.ts';
import { plainWording } from '../text/plainWording.ts';

/** What two sightings of one line have in common. */
export interface LineFacts {
  readonly date: CalendarDate;
  readonly amount: Minor;
  readonly description: string;
  readonly reference: string | null;
  readonly bankId: string | null;
}

/** A line as a source reports it. */
export interface SourceLine extends LineFacts {
  readonly isPending: boolean;
}

/** What a line of one source is to another source: there already, perhaps, or new. */
export type Sighting =
  | { readonly kind: 'already'; readonly index: number }
  | { readonly kind: 'doubtful'; readonly index: number }
  | { readonly kind: 'new' };

/** Dates of one payment may differ by so many days between sources. */
export const daysApart = 3;
/** Wordings at least this alike are one payee's, written differently. */
const ALIKE = 0.6;
/** So alike they must be where a line need not be in both sources. */
const VERY_ALIKE = 0.85;
/** Below this they are plainly different. */
const UNLIKE = 0.35;
/** So many lines under other ids show that the bank gives new ids to the same lines. */
const ENOUGH = 3;
/** A booked amount may differ from the announced one by this share. */
const AMOUNT_SHARE = 0.3;

interface Candidate {
  readonly mine: number;
  readonly theirs: number;
  readonly score: number;
  readonly isSure: boolean;
}

/**
 * Finds which lines of a source another source of the same bank account has already. Lines are
 * compared by bank id, then counted by date, amount and wording; what is left is paired by weaker
 * evidence, the best pairs first, each line once: the same amount with the date up to three days
 * apart or the wording changed, a pending line booked with another amount.
 *
 * What makes weak evidence strong is that a source reports every line of its days: a line of the first
 * source that lies within the second's dates has to be there, under whatever wording. Outside them it
 * need not be, so there it stays a doubt.
 *
 * @param here the lines of the first source
 * @param incoming the lines of the second, in its order
 * @param hasChangedIds it is known that the bank has given lines new ids before: another id says nothing
 * @returns for each incoming line what it is
 */
export function matchSources(
  here: readonly SourceLine[],
  incoming: readonly SourceLine[],
  hasChangedIds = false,
): Sighting[] {
  const result: Sighting[] = incoming.map(() => ({ kind: 'new' }));
  const taken = new Set<number>();
  const isFree = (index: number) => result[index]?.kind === 'new';
  const pair = (mine: number, theirs: number, isSure: boolean) => {
    result[mine] = { kind: isSure ? 'already' : 'doubtful', index: theirs };
    taken.add(theirs);
  };

  const byId = pairsByKey(here, incoming, taken, isFree, (line) =>
    line.bankId === null ? null : `${line.bankId}|${line.date}|${line.amount}`,
  );
  for (const [mine, theirs] of byId) pair(mine, theirs, true);

  // Ids that were met again are kept by the bank: lines with other ids are other lines then.
  const areIdsKept = byId.length > 0 && !hasChangedIds;
  const isConflict = (mine: number, theirs: number) =>
    hasOtherId(incoming[mine] ?? null, here[theirs] ?? null);
  const byWording = pairsByKey(
    here,
    incoming,
    taken,
    isFree,
    (line) => `${line.date}|${line.amount}|${plainWording(line.description)}`,
  );
  const conflicts = byWording.filter(([mine, theirs]) => isConflict(mine, theirs)).length;
  const isRenaming = hasChangedIds || doIdsChange(conflicts, areIdsKept);
  const { first, last } = datesOf(incoming);
  for (const [mine, theirs] of byWording) {
    const date = here[theirs]?.date ?? '';
    if (!isConflict(mine, theirs)) pair(mine, theirs, true);
    else if (!areIdsKept) pair(mine, theirs, isRenaming);
    // Inside its dates a source reports every line: one that is missing is there under another id.
    else if (date > first && date < last) pair(mine, theirs, true);
  }

  const freeHere = [...here.keys()].filter((index) => !taken.has(index));
  const freeIncoming = [...incoming.keys()].filter(isFree);
  const loose = matchLoosely(
    freeHere.flatMap((index) => here[index] ?? []),
    freeIncoming.flatMap((index) => incoming[index] ?? []),
    { first, last, areIdsKept, doIdsChange: isRenaming },
  );
  for (const { mine, theirs, isSure } of loose) {
    pair(freeIncoming[mine] ?? 0, freeHere[theirs] ?? 0, isSure);
  }
  return result;
}

/** What is known of two sources once the lines that are plainly the same are paired. */
export interface Evidence {
  /** The second source's first and last date. */
  readonly first: CalendarDate;
  readonly last: CalendarDate;
  /** Lines were met again by their ids, so lines with other ids are other lines. */
  readonly areIdsKept: boolean;
  /** The bank gives new ids to the same lines. */
  readonly doIdsChange: boolean;
}

/** A line of the second source and the line of the first that it is, or may be. */
export interface LoosePair {
  readonly mine: number;
  readonly theirs: number;
  readonly isSure: boolean;
}

/**
 * Pairs by weaker evidence what ids and counting left, the best pairs first, each line once.
 *
 * @param here lines of the first source that are left
 * @param incoming lines of the second that are left
 * @returns pairs by index
 */
export function matchLoosely(
  here: readonly SourceLine[],
  incoming: readonly SourceLine[],
  { first, last, areIdsKept, doIdsChange }: Evidence,
): LoosePair[] {
  const candidates = looseCandidates(here, incoming, first, last);
  candidates.sort((a, b) => b.score - a.score || a.mine - b.mine || a.theirs - b.theirs);
  const takenMine = new Set<number>();
  const takenTheirs = new Set<number>();
  return candidates.flatMap(({ mine, theirs, isSure }) => {
    if (takenMine.has(mine) || takenTheirs.has(theirs)) return [];
    const isConflict = hasOtherId(incoming[mine] ?? null, here[theirs] ?? null);
    if (isConflict && areIdsKept) return [];
    takenMine.add(mine);
    takenTheirs.add(theirs);
    return [{ mine, theirs, isSure: isSure && (!isConflict || doIdsChange) }];
  });
}

/** So many lines the same under other ids show that the bank gives new ids. */
export function doIdsChange(conflicts: number, areIdsKept: boolean): boolean {
  return !areIdsKept && conflicts >= ENOUGH;
}

function datesOf(lines: readonly SourceLine[]): { first: CalendarDate; last: CalendarDate } {
  let [first, last] = [lines[0]?.date ?? '', lines[0]?.date ?? ''];
  for (const { date } of lines) {
    if (date < first) first = date;
    if (date > last) last = date;
  }
  return { first, last };
}

function hasOtherId(line: SourceLine | null, other: SourceLine | null): boolean {
  return line?.bankId != null && other?.bankId != null && line.bankId !== other.bankId;
}

/** Lines with the same key, counting: as many pairs as both have. */
function pairsByKey(
  here: readonly SourceLine[],
  incoming: readonly SourceLine[],
  taken: ReadonlySet<number>,
  isFree: (index: number) => boolean,
  keyOf: (line: SourceLine) => string | null,
): (readonly [mine: number, theirs: number])[] {
  const waiting = new Map<string, number[]>();
  for (const [index, line] of here.entries()) {
    const key = taken.has(index) ? null : keyOf(line);
    if (key === null) continue;
    const queue = waiting.get(key);
    if (queue) queue.push(index);
    else waiting.set(key, [index]);
  }
  for (const queue of waiting.values()) queue.reverse();
  return [...incoming.entries()].flatMap(([index, line]) => {
    const key = isFree(index) ? keyOf(line) : null;
    const found = key === null ? undefined : waiting.get(key)?.pop();
    return found === undefined ? [] : [[index, found] as const];
  });
}

/** Pairs that weaker evidence allows, with how strong it is. */
function looseCandidates(
  here: readonly SourceLine[],
  incoming: readonly SourceLine[],
  first: CalendarDate,
  last: CalendarDate,
): Candidate[] {
  // Only a booking may change an amount, so all but pending lines are looked up by it.
  const numbered = [...here.entries()];
  const byAmount = indexOf(numbered, ({ date, amount }) => `${date}|${amount}`);
  const pending = indexOf(
    numbered.filter(([, { isPending }]) => isPending),
    ({ date }) => date,
  );
  const candidates: Candidate[] = [];
  for (const [mine, line] of incoming.entries()) {
    for (let days = -daysApart; days <= daysApart; days += 1) {
      const date = addDays(line.date, days);
      const near = [
        ...(byAmount.get(`${date}|${line.amount}`) ?? []),
        ...(line.isPending ? [] : (pending.get(date) ?? [])),
      ];
      for (const theirs of new Set(near)) {
        const other = here[theirs];
        if (!other) continue;
        const mustBeThere = other.date >= first && other.date <= last;
        const candidate = compared(line, other, Math.abs(days), mustBeThere);
        if (candidate) candidates.push({ mine, theirs, ...candidate });
      }
    }
  }
  return candidates;
}

function indexOf(
  lines: readonly (readonly [number, SourceLine])[],
  keyOf: (line: SourceLine) => string,
): Map<string, number[]> {
  const index = new Map<string, number[]>();
  for (const [at, line] of lines) {
    const key = keyOf(line);
    const found = index.get(key);
    if (found) found.push(at);
    else index.set(key, [at]);
  }
  return index;
}

/** How strongly two lines look like one payment; null where they don't. */
function compared(
  line: SourceLine,
  other: SourceLine,
  days: number,
  mustBeThere: boolean,
): Pick<Candidate, 'score' | 'isSure'> | null {
  const isSameId = line.bankId !== null && line.bankId === other.bankId;
  const likeness = wordingLikeness(wordingOf(line), wordingOf(other));
  const isAlike = likeness >= ALIKE;
  const score = likeness - days * 0.1 + (isSameId ? 1 : 0);
  if (line.amount === other.amount) {
    if (isSameId || (mustBeThere ? isAlike : likeness >= VERY_ALIKE)) {
      return { score: score + 1, isSure: mustBeThere };
    }
    // Another wording on the same day: sure, but after those that say the same.
    if (days === 0 && mustBeThere) return { score: score + 0.5, isSure: true };
    return mustBeThere && likeness >= UNLIKE ? { score, isSure: false } : null;
  }
  // Only a booking may change an announced amount, and only somewhat.
  const isBooking = other.isPending && !line.isPending;
  if (!isBooking || line.amount < 0 !== other.amount < 0) return null;
  const difference = Math.abs(line.amount - other.amount);
  const largest = Math.max(Math.abs(line.amount), Math.abs(other.amount));
  if (difference > AMOUNT_SHARE * largest || !(isAlike || isSameId)) return null;
  return { score: score - difference / largest, isSure: mustBeThere };
}

function wordingOf(line: SourceLine): string {
  return line.description || (line.reference ?? '');
}
