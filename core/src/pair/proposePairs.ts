import { groupBy, putInto } from '../groupBy.ts';
import type { Minor } from '../money/minor.ts';
import { assign, type Fit } from './assignPairs.ts';
import { explainDifference } from './explainDifference.ts';
import { type FoundSet, findSets } from './findSets.ts';
import type { NamedPayee } from './namesIn.ts';
import {
  type AmountReason,
  type Candidate,
  isDocument,
  type PairDifference,
  type PairLine,
  type PairReason,
  type SetReason,
} from './pairing.ts';
import {
  isTracedTo,
  lineReader,
  mayBe,
  type ReadCandidate,
  type ReadLine,
  readCandidate,
  type Weight,
  weighPair,
} from './weighPair.ts';

/** What stands in the books that a line most likely is. */
export interface PairFound {
  readonly line: PairLine;
  /** One, or several that add up. */
  readonly candidates: readonly Candidate[];
  readonly reasons: readonly PairReason[];
  /** Why several, where it is several. */
  readonly because: SetReason | null;
  readonly differences: readonly PairDifference[];
  /** What fits as well, the likeliest first. */
  readonly others: readonly Candidate[];
  /** So many other lines fit it as well and have nothing of their own in the books. */
  readonly rivals: number;
  /** Clearly ahead of all else, and nothing differs. */
  readonly isCertain: boolean;
  /** Whether a number in the wording or of the cheque proves it. */
  readonly isNumbered: boolean;
}

/** An open document or entries that a line nearly is: coding it as something new may book it twice. */
export interface NearlyFound {
  readonly candidates: readonly Candidate[];
  /** How much more the line is. */
  readonly by: Minor;
  readonly because: AmountReason | null;
}

/** Less than this is not worth proposing. */
const LEAST_ODDS = 0.5;
/** What is certain is so likely by itself … */
const CERTAIN_ODDS = 3.5;
/** … and so far ahead of any other whole. */
const CERTAIN_MARGIN = 2;
/** So many candidates of a line are looked at. */
const MOST_FITS = 14;
/** Sets that would add up by chance less often than this are certain, if there is only one. */
const CHANCE_OF_SET = 0.004;

/**
 * Finds for open lines what they are in the books already: first several documents that a wording names, then
 * single candidates of the same amount, all lines together so that the whole is likeliest, then several of one
 * payee that add up.
 *
 * @param payees all payees of the books, to find their names in wordings
 * @param rates tax rates of the books, in hundredths of a percent
 * @returns by the line's id what is proposed, and for the others what they nearly are
 */
export function proposePairs(
  lines: readonly PairLine[],
  candidates: readonly Candidate[],
  payees: readonly NamedPayee[],
  rates: readonly number[],
): {
  readonly pairs: ReadonlyMap<string, PairFound>;
  readonly nearly: ReadonlyMap<string, NearlyFound>;
} {
  const read = lineReader(payees);
  const ordered = [...lines].sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0));
  const pool = poolOf(candidates);
  const found = new Map<string, PairFound>();
  const taken = new Set<string>();
  const keep = (pair: PairFound): void => {
    found.set(pair.line.id, pair);
    for (const { id } of pair.candidates) taken.add(id);
  };
  const readLines = ordered.map(read);
  const namedSets = readLines.flatMap((each) => {
    const named = pool.named(each);
    if (named.length < 2) return [];
    const [set] = findSets([each], named).filter(
      ({ because, by }) => because === 'numbers' && by === 0,
    );
    return set ? [{ each, named, set }] : [];
  });
  const wanted = groupBy(
    namedSets.flatMap(({ set }) => set.candidateIds),
    (id) => id,
  );
  for (const { each, named, set } of namedSets) {
    if (set.candidateIds.some((id) => taken.has(id))) continue;
    const pair = foundBySet(each, set, named, { same: pool.sameAmount(each), isNumbered: true });
    // What the wordings of several lines name is one of theirs, but nobody can say which.
    const isOnly = set.candidateIds.every((id) => wanted.get(id)?.length === 1);
    keep({ ...pair, isCertain: pair.isCertain && isOnly });
  }
  const single = readLines.filter(({ line }) => !found.has(line.id));
  const near = nearLines(single);
  const weighed = single.map((each) =>
    weighedFits(each, pool.sameAmount(each), taken, near(each) === 1),
  );
  const assigned = assign(
    weighed.map((fits) =>
      fits.map(({ place, weight }): Fit => ({ column: place, odds: weight.odds })),
    ),
  );
  for (const [at, each] of single.entries()) {
    const fits = weighed[at] ?? [];
    const chosen = assigned[at];
    const own = chosen && fits.find(({ place }) => place === chosen.column);
    if (!chosen || !own || chosen.odds < LEAST_ODDS) continue;
    const { reasons, differences } = own.weight;
    keep({
      line: each.line,
      candidates: [own.candidate],
      reasons,
      because: null,
      differences,
      others: fits
        .filter((fit) => fit !== own && fit.weight.odds > own.weight.odds - CERTAIN_MARGIN)
        .map(({ candidate }) => candidate),
      rivals: 0,
      isCertain:
        chosen.odds >= CERTAIN_ODDS &&
        chosen.margin >= CERTAIN_MARGIN &&
        // What is named by its number may come late.
        differences.every(({ kind }) => kind === 'date' && reasons.includes('number')),
      isNumbered: reasons.includes('number'),
    });
  }
  for (const each of readLines) {
    if (found.has(each.line.id)) continue;
    const near = pool.ofNamed(each).filter(({ id }) => !taken.has(id));
    if (near.length < 2) continue;
    const [set] = findSets([each], near).filter(
      ({ because, by }) => because !== 'sum' && because !== 'run' && by === 0,
    );
    if (set) keep(foundBySet(each, set, near, { same: [], isNumbered: false }));
  }
  for (const [id, rivals] of rivalsOf(found, single, weighed)) {
    const pair = found.get(id);
    if (pair) found.set(id, { ...pair, rivals });
  }
  const nearly = new Map<string, NearlyFound>();
  for (const each of readLines) {
    if (found.has(each.line.id)) continue;
    const close = nearlyOf(each, pool, taken, rates);
    if (close) nearly.set(each.line.id, close);
  }
  return { pairs: found, nearly };
}

/** For lines paired with one candidate each: how many lines without one would fit it. None where there are none. */
function rivalsOf(
  found: ReadonlyMap<string, PairFound>,
  lines: readonly ReadLine[],
  weighed: readonly (readonly WeighedFit[])[],
): ReadonlyMap<string, number> {
  const wanting = new Map<string, number>();
  for (const [at, { line }] of lines.entries()) {
    if (found.has(line.id)) continue;
    for (const { candidate, weight } of weighed[at] ?? []) {
      if (weight.odds < LEAST_ODDS) continue;
      wanting.set(candidate.id, (wanting.get(candidate.id) ?? 0) + 1);
    }
  }
  const rivals = new Map<string, number>();
  for (const [id, { candidates, isCertain }] of found) {
    const [only, ...more] = candidates;
    const count = wanting.get(only?.id ?? '') ?? 0;
    if (count > 0 && more.length === 0 && !isCertain) rivals.set(id, count);
  }
  return rivals;
}

/** What a line nearly is: a document that its number names, one whose difference has a reason, receipts less a fee. */
function nearlyOf(
  read: ReadLine,
  pool: ReturnType<typeof poolOf>,
  taken: ReadonlySet<string>,
  rates: readonly number[],
): NearlyFound | null {
  const { line } = read;
  const free = (all: readonly Candidate[]) =>
    all.filter(
      (each) =>
        !taken.has(each.id) &&
        Math.sign(each.amount) === Math.sign(line.amount) &&
        mayBe(read, each),
    );
  const explained = (candidate: Candidate) =>
    explainDifference(line.amount, candidate.amount, rates, []);
  const named = free(pool.named(read)).find((each) => isTracedTo(read, each.payeeId));
  if (named) return { candidates: [named], ...explained(named) };
  const own = free(pool.ofNamed(read));
  const likely = own.find((each) => explained(each).because !== null);
  if (likely) return { candidates: [likely], ...explained(likely) };
  const receipts = free(pool.receipts(read)).filter((each) => isTracedTo(read, each.payeeId));
  const [run] = findSets([read], receipts).filter(({ by }) => by !== 0);
  if (!run) return null;
  const wanted = new Set(run.candidateIds);
  return { candidates: receipts.filter(({ id }) => wanted.has(id)), by: run.by, because: 'fee' };
}

interface WeighedFit extends PlacedCandidate {
  readonly weight: Weight;
}

/** Lines so many days apart may be taken for each other. */
const NEAR_LINES = 45;

/** Counts the lines of a line's amount that are near it in time, itself too. */
function nearLines(lines: readonly ReadLine[]): (line: ReadLine) => number {
  const alike = groupBy(lines, ({ line }) => line.amount);
  return ({ line, day }) =>
    (alike.get(line.amount) ?? []).filter((other) => Math.abs(other.day - day) <= NEAR_LINES)
      .length;
}

function weighedFits(
  read: ReadLine,
  same: readonly PlacedCandidate[],
  taken: ReadonlySet<string>,
  isOnly: boolean,
): readonly WeighedFit[] {
  const free = same.filter(({ candidate }) => !taken.has(candidate.id));
  const isAlone = isOnly && free.length === 1;
  const fits = free.map((other) => ({ ...other, weight: weighPair(read, other, isAlone) }));
  return fits
    .filter(({ weight }) => weight.odds > -2)
    .sort((a, b) => b.weight.odds - a.weight.odds)
    .slice(0, MOST_FITS);
}

function foundBySet(
  { line }: ReadLine,
  { candidateIds, because, rivals }: FoundSet,
  pool: readonly Candidate[],
  { same, isNumbered }: { same: readonly PlacedCandidate[]; isNumbered: boolean },
): PairFound {
  const wanted = new Set(candidateIds);
  return {
    line,
    candidates: pool
      .filter(({ id }) => wanted.has(id))
      .sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0)),
    reasons: isNumbered ? ['amount', 'number'] : ['amount', 'payee'],
    because,
    differences: [],
    others: same.map(({ candidate }) => candidate).slice(0, MOST_FITS),
    rivals: 0,
    isCertain: rivals === 0 && (because === 'numbers' || setsByChance(pool) < CHANCE_OF_SET),
    isNumbered,
  };
}

/** How many sets of a pool add up to an amount by chance: all there are, over all amounts they may come to. */
function setsByChance(pool: readonly Candidate[]): number {
  const sizes = pool.map(({ amount }) => Math.abs(amount));
  const unit = sizes.reduce(commonDivisor, 0) || 1;
  const spread = sizes.reduce((sum, size) => sum + size, 0) / unit;
  return 2 ** pool.length / Math.max(spread, 1);
}

function commonDivisor(a: number, b: number): number {
  return b === 0 ? a : commonDivisor(b, a % b);
}

/** A candidate with its place among all. */
interface PlacedCandidate extends ReadCandidate {
  readonly place: number;
}

/** Further apart, in days from the candidate to the line, a single candidate is not looked at. */
const EARLIEST = -40;
const LATEST = 200;
/** Receipts are paid out together after so many days at most. */
const RECEIPT_DAYS = 21;

/** Candidates by what lines look for. */
function poolOf(candidates: readonly Candidate[]) {
  const byAmount = new Map<Minor, PlacedCandidate[]>();
  const byPayee = new Map<string, ReadCandidate[]>();
  const byNumber = new Map<string, Candidate[]>();
  const receipts: ReadCandidate[] = [];
  for (const [place, candidate] of candidates.entries()) {
    const read = readCandidate(candidate);
    putInto(byAmount, candidate.amount, { ...read, place });
    if (!isDocument(candidate)) {
      if (candidate.amount > 0 && candidate.payeeId !== null) receipts.push(read);
      continue;
    }
    if (candidate.payeeId !== null) putInto(byPayee, candidate.payeeId, read);
    for (const number of read.numbers) putInto(byNumber, number, candidate);
  }
  for (const own of byAmount.values()) own.sort((a, b) => a.day - b.day);
  return {
    sameAmount: ({ line: { amount, bankAccountId }, day }: ReadLine) => {
      const all = byAmount.get(amount) ?? [];
      const from = firstFrom(all, day - LATEST);
      const to = firstFrom(all, day - EARLIEST + 1);
      return all
        .slice(from, to)
        .filter(
          ({ candidate }) =>
            candidate.bankAccountId === null || candidate.bankAccountId === bankAccountId,
        );
    },
    /** Documents whose numbers the wording names, of one payee where the wording names that too. */
    named: (read: ReadLine): readonly Candidate[] => {
      const all = [...new Set([...read.numbers].flatMap((number) => byNumber.get(number) ?? []))];
      const own = all.filter((each) => isTracedTo(read, each.payeeId));
      return own.length > 1 ? own : all;
    },
    /** Receipts entered in the days before, of the line's bank account. */
    receipts: ({ line, day }: ReadLine): readonly Candidate[] =>
      receipts
        .filter((each) => day - each.day >= 0 && day - each.day <= RECEIPT_DAYS)
        .map(({ candidate }) => candidate)
        .filter(({ bankAccountId }) => bankAccountId === line.bankAccountId),
    /** Documents of these months of the payee that the wording names best. */
    ofNamed: ({ names, line, day }: ReadLine): readonly Candidate[] => {
      const best = [...names]
        .filter(([id, share]) => share >= 0.6 && byPayee.has(id))
        .sort(([, a], [, b]) => b - a)[0]?.[0];
      const own = byPayee.get(line.usualPayeeId ?? '') ?? byPayee.get(best ?? '') ?? [];
      return own
        .filter((other) => day - other.day > EARLIEST && day - other.day < LATEST)
        .map(({ candidate }) => candidate);
    },
  };
}

/** The place of the first candidate on a day or after it. */
function firstFrom(own: readonly PlacedCandidate[], day: number): number {
  let [low, high] = [0, own.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((own[middle]?.day ?? 0) < day) low = middle + 1;
    else high = middle;
  }
  return low;
}
