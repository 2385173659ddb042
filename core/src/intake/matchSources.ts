import { addDays, type CalendarDate } from '../dates/calendarDate.ts';
import { groupBy, putInto } from '../groupBy.ts';
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
/** So many lines that are the same but for their ids show that the bank gives new ids. */
const ENOUGH = 3;
/** A bank that kept this share of its ids keeps them: lines with other ids are other lines. */
const MOSTLY = 0.9;
/** A booked amount may differ from the announced one by this share. */
export const amountShare = 0.3;

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
 * apart or the wording changed, another amount where a line was booked that had been pending.
 *
 * What makes weak evidence strong is that a source reports every line of its days: a line of the first
 * source that lies within the second's dates has to be there, under whatever wording and under whatever
 * id, for banks keep some ids and change others. Outside the second's dates it need not be, so there it
 * stays a doubt; and so it does on a day where the sources only touch, which either may have cut.
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

  const byId = pairsByKey({ here, incoming }, taken, isFree, (line) =>
    line.bankId === null ? null : `${line.bankId}|${line.date}|${line.amount}`,
  );
  for (const [mine, theirs] of byId) pair(mine, theirs, true);

  const byWording = pairsByKey(
    { here, incoming },
    taken,
    isFree,
    (line) => `${line.date}|${line.amount}|${plainWording(line.description)}`,
  );
  const isConflict = ([mine, theirs]: readonly [number, number]) =>
    hasOtherId(incoming[mine] ?? null, here[theirs] ?? null);
  const ids = { kept: byId.length, changed: byWording.filter(isConflict).length };
  const [covered, held] = [datesOf(incoming), datesOf(here)];
  const evidence = { covered, touching: touchingDay(held, covered), ids };
  for (const [mine, theirs] of byWording) {
    const mayBeCut = here[theirs]?.date === evidence.touching && isConflict([mine, theirs]);
    pair(mine, theirs, !mayBeCut || isTouchSure(ids));
  }

  const freeHere = [...here.keys()].filter((index) => !taken.has(index));
  const freeIncoming = [...incoming.keys()].filter(isFree);
  const loose = matchLoosely(
    freeHere.flatMap((index) => here[index] ?? []),
    freeIncoming.flatMap((index) => incoming[index] ?? []),
    evidence,
  );
  for (const { mine, theirs, isSure } of loose) {
    pair(freeIncoming[mine] ?? 0, freeHere[theirs] ?? 0, isSure);
  }
  return result;
}

/** How many ids were met again, and how many lines were the same but for their ids. */
export interface IdCounts {
  readonly kept: number;
  readonly changed: number;
}

/** The bank keeps its ids, so that beyond a source's days a line with another id is another line. */
function areIdsKept({ kept, changed }: IdCounts): boolean {
  return kept > 0 && kept >= MOSTLY * (kept + changed);
}

/**
 * Whether lines of a day on which two sources only touch are the same although their ids differ: the
 * second was seen to report what the first did of the day, or so many repeats can't be chance.
 */
export function isTouchSure({ kept, changed }: IdCounts): boolean {
  return kept > 0 || changed >= ENOUGH;
}

/** The first and last date of a source. */
export interface Days {
  readonly first: CalendarDate;
  readonly last: CalendarDate;
}

/** The only day that two sources share, which either may have cut; null where they share more or none. */
export function touchingDay(held: Days, covered: Days): CalendarDate | null {
  const from = held.first > covered.first ? held.first : covered.first;
  const to = held.last < covered.last ? held.last : covered.last;
  return from === to ? from : null;
}

/** What is known of two sources once the lines that are plainly the same are paired. */
export interface Evidence {
  /** Days of which the second source reports every line. */
  readonly covered: Days;
  /** The only day that both have, which either may have cut. */
  readonly touching: CalendarDate | null;
  readonly ids: IdCounts;
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
  evidence: Evidence,
): LoosePair[] {
  const candidates = looseCandidates(here, incoming, evidence);
  candidates.sort((a, b) => b.score - a.score || a.mine - b.mine || a.theirs - b.theirs);
  const pairs = new Map<number, Candidate>();
  const takers = new Map<number, Candidate>();
  const take = (candidate: Candidate) => {
    pairs.set(candidate.mine, candidate);
    takers.set(candidate.theirs, candidate);
  };
  for (const candidate of candidates) {
    if (!pairs.has(candidate.mine) && !takers.has(candidate.theirs)) take(candidate);
  }
  // The best pair may have taken the only one that another could have: it steps aside if it can.
  const choices = groupBy(
    candidates.filter(({ isSure }) => isSure),
    ({ mine }) => mine,
  );
  for (const wanted of candidates) {
    const taker = takers.get(wanted.theirs);
    if (!wanted.isSure || !taker?.isSure || pairs.has(wanted.mine)) continue;
    const aside = choices.get(taker.mine)?.find(({ theirs }) => !takers.has(theirs));
    if (!aside) continue;
    take(aside);
    take(wanted);
  }
  return [...pairs.values()];
}

function datesOf(lines: readonly SourceLine[]): Days {
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
  {
    here,
    incoming,
  }: { readonly here: readonly SourceLine[]; readonly incoming: readonly SourceLine[] },
  taken: ReadonlySet<number>,
  isFree: (index: number) => boolean,
  keyOf: (line: SourceLine) => string | null,
): (readonly [mine: number, theirs: number])[] {
  const waiting = new Map<string, number[]>();
  for (const [index, line] of here.entries()) {
    const key = taken.has(index) ? null : keyOf(line);
    if (key !== null) putInto(waiting, key, index);
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
  { covered, touching, ids }: Evidence,
): Candidate[] {
  const mustBeThere = ({ date }: SourceLine) => date >= covered.first && date <= covered.last;
  const numbered = [...here.keys()];
  const byAmount = groupBy(numbered, (at) => `${here[at]?.date}|${here[at]?.amount}`);
  // Only a line that had to come again and did not can have come with another amount.
  const missing = groupBy(
    numbered.filter((at) => {
      const line = here[at];
      return line && (line.isPending || (mustBeThere(line) && line.date !== touching));
    }),
    (at) => here[at]?.date,
  );
  const candidates: Candidate[] = [];
  for (const [mine, line] of incoming.entries()) {
    for (let days = -daysApart; days <= daysApart; days += 1) {
      const date = addDays(line.date, days);
      const near = [
        ...(byAmount.get(`${date}|${line.amount}`) ?? []),
        ...(line.isPending || days > 0 ? [] : (missing.get(date) ?? [])),
      ];
      for (const theirs of new Set(near)) {
        const other = here[theirs];
        if (!other) continue;
        const isCovered = mustBeThere(other);
        const isConflict = hasOtherId(line, other);
        if (!isCovered && isConflict && areIdsKept(ids)) continue;
        const mayBeCut = other.date === touching && isConflict && !isTouchSure(ids);
        const candidate =
          line.amount === other.amount
            ? compareSameAmount(line, other, Math.abs(days), isCovered)
            : compareBooking(line, other, Math.abs(days), isCovered);
        if (!candidate) continue;
        const isSure = candidate.isSure && !mayBeCut;
        candidates.push({ mine, theirs, score: candidate.score, isSure });
      }
    }
  }
  return candidates;
}

type Strength = Pick<Candidate, 'score' | 'isSure'>;

/** How strongly two lines of one amount look like one payment; null where they don't. */
function compareSameAmount(
  line: SourceLine,
  other: SourceLine,
  days: number,
  mustBeThere: boolean,
): Strength | null {
  const { isSameId, likeness, score } = likenessOf(line, other, days);
  if (isSameId || (mustBeThere ? likeness >= ALIKE : likeness >= VERY_ALIKE)) {
    return { score: score + 1, isSure: mustBeThere };
  }
  // Another wording on the same day: sure, but after those that say the same.
  if (days === 0 && mustBeThere) return { score: score + 0.5, isSure: true };
  return mustBeThere && likeness >= UNLIKE ? { score, isSure: false } : null;
}

/**
 * How strongly a line looks like one that was held while it was pending and is booked with another
 * amount: sure only where the held line was marked as pending.
 */
function compareBooking(
  line: SourceLine,
  other: SourceLine,
  days: number,
  mustBeThere: boolean,
): Strength | null {
  if (line.amount < 0 !== other.amount < 0) return null;
  const difference = Math.abs(line.amount - other.amount);
  const largest = Math.max(Math.abs(line.amount), Math.abs(other.amount));
  if (difference > amountShare * largest) return null;
  const { isSameId, likeness, score } = likenessOf(line, other, days);
  if (likeness < ALIKE && !isSameId) return null;
  return { score: score - difference / largest, isSure: other.isPending && mustBeThere };
}

function likenessOf(line: SourceLine, other: SourceLine, days: number) {
  const isSameId = line.bankId !== null && line.bankId === other.bankId;
  const [mine, theirs] = [wordingOf(line), wordingOf(other)];
  const likeness = wordingLikeness(mine, theirs);
  // A wording that was cut short says less than a whole one.
  const wholeness = Math.min(mine.length, theirs.length) / Math.max(mine.length, theirs.length, 1);
  const score = likeness + wholeness * 0.2 - days * 0.1 + (isSameId ? 1 : 0);
  return { isSameId, likeness, score };
}

function wordingOf(line: SourceLine): string {
  return line.description || (line.reference ?? '');
}
