import { groupBy, putInto } from '../groupBy.ts';
import type { BankAccountId, LineId } from '../ids.ts';
import { type Minor, sumOf } from '../money/minor.ts';
import { daysOf } from '../propose/habit/features.ts';
import { type Candidate, isDocument, type PairLine, type SetReason } from './pairing.ts';
import { isTracedTo, mayBe, namesNumber, type ReadLine, readCandidate } from './weighPair.ts';

/** Lines and candidates that add up to the same, or nearly. */
export interface FoundSet {
  readonly lineIds: readonly LineId[];
  readonly candidateIds: readonly string[];
  readonly because: SetReason;
  /** How much more the lines are: what was kept back as a fee; mostly nothing. */
  readonly by: Minor;
  /** How many other sets of this kind add up as well: with any it is not certain. */
  readonly rivals: number;
}

/** More sets are not of use to anybody. */
const MOST_SETS = 12;
/** So many of one payee are tried in all combinations. */
const MOST_OF_PAYEE = 24;
/** Of so many without anything in common, pairs and threes are tried. */
const MOST_LOOSE = 500;
const LONGEST_RUN = 60;
/** Up to this much of a sum, in hundredths of a percent, may have been kept back as a fee. */
const LARGEST_FEE = 500;

const WORTH: Readonly<Record<SetReason, number>> = {
  numbers: 5,
  allOfPayee: 4,
  payee: 3,
  run: 2,
  sum: 1,
};

/**
 * Finds what stands in the books that adds up to some lines together: first what their wordings name, then what
 * is of the payee they name, runs of one kind, and what only adds up.
 *
 * @returns the likeliest first; none of a single candidate
 */
export function findSets(
  lines: readonly ReadLine[],
  offered: readonly Candidate[],
): readonly FoundSet[] {
  const candidates = offered.filter((each) => lines.every((line) => mayBe(line, each)));
  const target = sumOf(lines.map(({ line }) => line));
  const lineIds = lines.map(({ line }) => line.id);
  const found = new Map<string, FoundSet>();
  const add = (
    sets: readonly (readonly Candidate[])[],
    because: SetReason,
    by: Minor = 0,
  ): void => {
    for (const set of sets) {
      if (set.length < 2) continue;
      const candidateIds = set.map(({ id }) => id);
      const key = [...candidateIds].sort().join();
      if (!found.has(key)) {
        found.set(key, { lineIds, candidateIds, because, by, rivals: sets.length - 1 });
      }
    }
  };
  const named = candidates.filter((candidate) => {
    const other = readCandidate(candidate);
    return lines.some((line) => namesNumber(line, other));
  });
  if (sumOf(named) === target) add([named], 'numbers');
  else add(subsetsOf(named.slice(0, MOST_OF_PAYEE), target), 'numbers');

  for (const own of byPayee(candidates, lines)) {
    const sameSide = own.filter(isOnSide(target));
    if (sumOf(sameSide) === target) add([sameSide], 'allOfPayee');
    add(subsetsOf(own.slice(0, MOST_OF_PAYEE), target), 'payee');
    const kept = keptBack(sumOf(sameSide), target);
    if (kept !== null && sameSide.length > 1) add([sameSide], 'allOfPayee', kept);
  }
  for (const run of runsOf(candidates)) {
    add(runsAddingTo(run, target), 'run');
    for (const { set, by } of runsLessFee(run, target)) add([set], 'run', by);
  }
  if (found.size < MOST_SETS) add(fewAddingTo(nearest(candidates, lines), target), 'sum');
  return [...found.values()].sort((a, b) => worthOf(b) - worthOf(a)).slice(0, MOST_SETS);
}

/** What was named counts more than a bare sum, few more than many, an exact sum more than one with a fee. */
function worthOf({ because, candidateIds, by, rivals }: FoundSet): number {
  return (
    WORTH[because] - candidateIds.length / 100 - (by === 0 ? 0 : 2.5) - Math.min(rivals, 9) / 20
  );
}

const isOnSide =
  (target: Minor) =>
  ({ amount }: Candidate) =>
    Math.sign(amount) === Math.sign(target);

/** What is missing of a receipt where a fee was kept back, as a negative amount; null where it is none. */
function keptBack(books: Minor, bank: Minor): Minor | null {
  const kept = books - bank;
  return bank > 0 && kept > 0 && kept * 10_000 <= books * LARGEST_FEE ? -kept : null;
}

/** The candidates of each payee, those whom the lines name first. */
function byPayee(
  candidates: readonly Candidate[],
  lines: readonly ReadLine[],
): readonly (readonly Candidate[])[] {
  const naming = (id: string) =>
    Math.max(
      0,
      ...lines.map(({ names, line }) =>
        Math.max(names.get(id) ?? 0, line.usualPayeeId === id ? 0.9 : 0),
      ),
    );
  return [...groupBy(candidates, ({ payeeId }) => payeeId)]
    .filter(([id, own]) => own.length > 1 && lines.some((line) => isTracedTo(line, id)))
    .map(([id, own]) => ({ own, named: naming(id ?? '') }))
    .sort((a, b) => b.named - a.named)
    .map(({ own }) => [...own].sort(byDate));
}

const byDate = (a: Candidate, b: Candidate) =>
  a.date < b.date ? -1 : a.date > b.date ? 1 : a.id < b.id ? -1 : 1;

/** Up to so many combinations are remembered on the way. */
const MOST_SUMS = 60_000;
const MOST_FOUND = 6;

/** All choices that add up to a target, up to some: from the sums of one half to those of the other. */
function subsetsOf(own: readonly Candidate[], target: Minor): readonly (readonly Candidate[])[] {
  const half = own.length >> 1;
  const left = sumsOf(own.slice(0, half));
  const right = sumsOf(own.slice(half));
  const bySum = new Map<Minor, number[]>();
  for (const [mask, sum] of right.entries()) putInto(bySum, sum, mask);
  const found: (readonly Candidate[])[] = [];
  for (const [mask, sum] of left.entries()) {
    for (const other of bySum.get(target - sum) ?? []) {
      const set = own.filter((_, at) =>
        at < half ? (mask >> at) & 1 : (other >> (at - half)) & 1,
      );
      if (set.length > 1) found.push(set);
      if (found.length > MOST_FOUND * 4) return found;
    }
  }
  return found.sort((a, b) => a.length - b.length).slice(0, MOST_FOUND);
}

/** The sums of all choices, by their bits. */
function sumsOf(own: readonly Candidate[]): readonly Minor[] {
  const sums: Minor[] = [0];
  for (const { amount } of own) {
    const { length } = sums;
    if (length * 2 > MOST_SUMS) break;
    for (let at = 0; at < length; at += 1) sums.push((sums[at] ?? 0) + amount);
  }
  return sums;
}

/** Candidates of one kind and bank account in the order of time; documents by payee are no runs. */
function runsOf(candidates: readonly Candidate[]): readonly (readonly Candidate[])[] {
  const groups = groupBy(
    candidates.filter((candidate) => !isDocument(candidate)),
    ({ kind, bankAccountId }) => `${kind} ${bankAccountId}`,
  );
  return [...groups.values()].map((own) => [...own].sort(byDate));
}

/** Stretches of a run that add up to a target. */
function runsAddingTo(run: readonly Candidate[], target: Minor): readonly (readonly Candidate[])[] {
  const before = new Map<Minor, number[]>();
  const found: (readonly Candidate[])[] = [];
  let sum = 0;
  for (const [at, { amount }] of run.entries()) {
    putInto(before, sum, at);
    sum += amount;
    for (const from of before.get(sum - target) ?? []) {
      const length = at + 1 - from;
      if (length > 1 && length <= LONGEST_RUN) found.push(run.slice(from, at + 1));
    }
    if (found.length >= MOST_FOUND) break;
  }
  return found;
}

/** Stretches of a run of receipts that come to a little more than what came in: a fee was kept back. */
function runsLessFee(
  run: readonly Candidate[],
  target: Minor,
): readonly { readonly set: readonly Candidate[]; readonly by: Minor }[] {
  if (target <= 0) return [];
  const found: { set: readonly Candidate[]; by: Minor }[] = [];
  for (let from = 0; from < run.length; from += 1) {
    let sum = 0;
    for (let to = from; to < Math.min(run.length, from + LONGEST_RUN); to += 1) {
      sum += run[to]?.amount ?? 0;
      const by = keptBack(sum, target);
      if (by !== null && to > from) found.push({ set: run.slice(from, to + 1), by });
    }
  }
  return found.sort((a, b) => b.by - a.by).slice(0, 2);
}

/** Those nearest in time to the lines. */
function nearest(candidates: readonly Candidate[], lines: readonly ReadLine[]) {
  if (candidates.length <= MOST_LOOSE) return candidates;
  const day = lines[0]?.day ?? 0;
  const away = (candidate: Candidate) => Math.abs(daysOf(candidate.date) - day);
  return [...candidates].sort((a, b) => away(a) - away(b)).slice(0, MOST_LOOSE);
}

/** Pairs and threes that add up to a target. */
function fewAddingTo(own: readonly Candidate[], target: Minor): readonly (readonly Candidate[])[] {
  const found: (readonly Candidate[])[] = [];
  const byAmount = new Map<Minor, number[]>();
  for (const [at, { amount }] of own.entries()) putInto(byAmount, amount, at);
  const partners = (wanted: Minor, after: number) =>
    (byAmount.get(wanted) ?? []).filter((at) => at > after);
  for (const [first, a] of own.entries()) {
    for (const at of partners(target - a.amount, first)) found.push(picked(own, [first, at]));
    if (found.length >= MOST_FOUND) return found.slice(0, MOST_FOUND);
  }
  for (const [first, a] of own.entries()) {
    for (let second = first + 1; second < own.length; second += 1) {
      const b = own[second];
      if (!b) break;
      for (const third of partners(target - a.amount - b.amount, second)) {
        found.push(picked(own, [first, second, third]));
        if (found.length >= MOST_FOUND) return found;
      }
    }
  }
  return found;
}

const picked = (own: readonly Candidate[], places: readonly number[]) =>
  places.flatMap((at) => own[at] ?? []);

/**
 * Finds, among several lines and all that stands in the books, which lines are one candidate together, as the
 * instalments of an invoice are, and which of the others are several candidates.
 *
 * @returns sets that do not share lines or candidates, the likeliest first
 */
export function findGroups(
  lines: readonly ReadLine[],
  candidates: readonly Candidate[],
): readonly FoundSet[] {
  const found: FoundSet[] = [];
  const usedLines = new Set<string>();
  const usedCandidates = new Set<string>();
  const keep = (set: FoundSet): void => {
    found.push(set);
    for (const id of set.lineIds) usedLines.add(id);
    for (const id of set.candidateIds) usedCandidates.add(id);
  };
  const free = () => lines.filter(({ line }) => !usedLines.has(line.id));
  const left = () => candidates.filter(({ id }) => !usedCandidates.has(id));
  // One candidate that several lines add up to: instalments of an invoice, parts of a deposit.
  for (const set of linesAddingTo(free(), left())) {
    if (set.lineIds.some((id) => usedLines.has(id))) continue;
    if (set.candidateIds.some((id) => usedCandidates.has(id))) continue;
    keep(set);
  }
  for (const each of free()) {
    const [best] = findSets([each], left());
    if (best && best.because !== 'sum' && best.by === 0) keep(best);
  }
  return found;
}

/** The lines that have a trace of each payee, in the order of time. */
function linesByPayee(
  lines: readonly ReadLine[],
  payeeIds: ReadonlySet<string | null>,
): readonly (readonly ReadLine[])[] {
  const ordered = [...lines].sort((a, b) => a.day - b.day);
  return [...payeeIds].map((id) => ordered.filter((line) => isTracedTo(line, id)));
}

/** Runs and pairs of lines of one payee that are one candidate together. */
function linesAddingTo(
  lines: readonly ReadLine[],
  candidates: readonly Candidate[],
): readonly FoundSet[] {
  const byAmount = groupBy(candidates, ({ amount }) => amount);
  const found: FoundSet[] = [];
  const offer = (group: readonly ReadLine[]): void => {
    for (const candidate of byAmount.get(sumOf(group.map(({ line }) => line))) ?? []) {
      const { id, bankAccountId, payeeId } = candidate;
      if (bankAccountId !== null && !isOn(group, bankAccountId)) continue;
      if (!group.every((line) => isTracedTo(line, payeeId))) continue;
      const lineIds = group.map(({ line }) => line.id);
      found.push({ lineIds, candidateIds: [id], because: 'payee', by: 0, rivals: 0 });
    }
  };
  for (const own of linesByPayee(lines, new Set(candidates.map(({ payeeId }) => payeeId)))) {
    for (let from = 0; from < own.length; from += 1) {
      for (let to = from + 2; to <= own.length; to += 1) offer(own.slice(from, to));
      for (let second = from + 2; second < own.length; second += 1) {
        offer([own[from], own[second]].flatMap((each) => each ?? []));
      }
    }
  }
  return found.sort((a, b) => a.lineIds.length - b.lineIds.length);
}

const isOn = (group: readonly { readonly line: PairLine }[], bankAccountId: BankAccountId) =>
  group.every(({ line }) => line.bankAccountId === bankAccountId);
