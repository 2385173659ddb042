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
const DAYS = 3;
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
 * @returns for each incoming line what it is
 */
export function matchSources(
  here: readonly SourceLine[],
  incoming: readonly SourceLine[],
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
  const areIdsKept = byId.length > 0;
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
  const doIdsChange = !areIdsKept && conflicts >= ENOUGH;
  for (const [mine, theirs] of byWording) {
    if (!isConflict(mine, theirs)) pair(mine, theirs, true);
    else if (!areIdsKept) pair(mine, theirs, doIdsChange);
  }

  const candidates = looseCandidates(here, incoming, taken, isFree);
  candidates.sort((a, b) => b.score - a.score || a.mine - b.mine || a.theirs - b.theirs);
  for (const { mine, theirs, isSure } of candidates) {
    if (!isFree(mine) || taken.has(theirs)) continue;
    if (!isConflict(mine, theirs)) pair(mine, theirs, isSure);
    else if (!areIdsKept) pair(mine, theirs, isSure && doIdsChange);
  }
  return result;
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
  taken: ReadonlySet<number>,
  isFree: (index: number) => boolean,
): Candidate[] {
  // Only a booking may change an amount, so all but pending lines are looked up by it.
  const free = [...here.entries()].filter(([index]) => !taken.has(index));
  const byAmount = indexOf(free, ({ date, amount }) => `${date}|${amount}`);
  const pending = indexOf(
    free.filter(([, { isPending }]) => isPending),
    ({ date }) => date,
  );
  const candidates: Candidate[] = [];
  const dates = incoming.map(({ date }) => date).sort();
  const [first = '', last = ''] = [dates[0], dates.at(-1)];
  for (const [mine, line] of incoming.entries()) {
    if (!isFree(mine)) continue;
    for (let days = -DAYS; days <= DAYS; days += 1) {
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
