import { sumOf } from '../money/minor.ts';
import { explainDifference } from './explainDifference.ts';
import { type FoundSet, findSets } from './findSets.ts';
import type { NamedPayee } from './namesIn.ts';
import type { Candidate, PairDifference, PairLine } from './pairing.ts';
import {
  lineReader,
  mayBe,
  namesNumber,
  payeesOf,
  type ReadLine,
  readCandidate,
  weighPair,
} from './weighPair.ts';

/** How alike a candidate is to lines, from 0 (a near miss) to 4, and how it differs. */
export interface Ranked<C extends Candidate> {
  readonly candidate: C;
  readonly likeness: number;
  readonly differences: readonly PairDifference[];
}

/** All that some lines could be, the likeliest first. */
export interface RankedCandidates<C extends Candidate> {
  readonly sets: readonly { readonly set: FoundSet; readonly likeness: number }[];
  readonly fits: readonly Ranked<C>[];
  readonly nearMisses: readonly Ranked<C>[];
}

const MOST_FITS = 40;
const MOST_MISSES = 12;
/** Days around the line in which amounts that nearly agree are looked for. */
const NEAR_DAYS = 120;
const SET_LIKENESS = { numbers: 4, allOfPayee: 4, payee: 3, run: 2, sum: 1 } as const;

/**
 * Ranks what stands in the books by how likely it is what some lines are together: what has their amount, sets
 * that add up to it, and what nearly does, with what differs.
 *
 * @param rates tax rates of the books, in hundredths of a percent
 */
export function rankCandidates<C extends Candidate>(
  lines: readonly PairLine[],
  candidates: readonly C[],
  payees: readonly NamedPayee[],
  rates: readonly number[],
): RankedCandidates<C> {
  const read = lineReader(payees);
  const whole = read(asOne(lines));
  const { amount, bankAccountId } = whole.line;
  const here = candidates.filter(
    (each) => each.bankAccountId === null || each.bankAccountId === bankAccountId,
  );
  const ranked = here
    .filter((each) => each.amount === amount)
    .map((candidate) => {
      const { odds, differences } = weighPair(whole, readCandidate(candidate), false);
      return { candidate, odds, differences, likeness: likenessOf(odds) };
    })
    .sort((a, b) => b.odds - a.odds);
  const sets = findSets(lines.map(read), nearby(here, whole)).map((set) => ({
    set,
    likeness: Math.max(
      SET_LIKENESS[set.because] - (set.by === 0 ? 0 : 1) - (set.rivals > 0 ? 1 : 0),
      1,
    ),
  }));
  const [best] = sets;
  const inBest = new Set(best && best.likeness >= 3 ? best.set.candidateIds : []);
  return {
    sets,
    fits: ranked.slice(0, MOST_FITS).map(({ odds: _odds, ...rest }) => rest),
    nearMisses: missesOf(
      whole,
      candidates.filter(({ id }) => !inBest.has(id)),
      rates,
    ),
  };
}

/** Several lines as one, dated by the last. */
export function asOne(lines: readonly PairLine[]): PairLine {
  const last = [...lines].sort((a, b) => (a.date < b.date ? -1 : 1)).at(-1);
  return {
    id: last?.id ?? '',
    bankAccountId: last?.bankAccountId ?? '',
    date: last?.date ?? '',
    amount: sumOf(lines),
    text: lines.map(({ text }) => text).join(' '),
    chequeNumber: lines.length === 1 ? (last?.chequeNumber ?? null) : null,
    usualPayeeId: last?.usualPayeeId ?? null,
  };
}

function likenessOf(odds: number): number {
  if (odds >= 6.5) return 4;
  if (odds >= 4) return 3;
  return odds >= 1 ? 2 : 1;
}

/** Sets are looked for among what lies no further apart than this. */
const SET_DAYS = 400;
const MOST_IN_SETS = 500;

function nearby<C extends Candidate>(candidates: readonly C[], { day }: ReadLine): readonly C[] {
  const away = (candidate: C) => Math.abs(readCandidate(candidate).day - day);
  return candidates
    .map((candidate) => ({ candidate, days: away(candidate) }))
    .filter(({ days }) => days <= SET_DAYS)
    .sort((a, b) => a.days - b.days)
    .slice(0, MOST_IN_SETS)
    .map(({ candidate }) => candidate);
}

/** What nearly fits: named in the wording, or an amount whose difference has a likely reason. */
function missesOf<C extends Candidate>(
  whole: ReadLine,
  candidates: readonly C[],
  rates: readonly number[],
): readonly Ranked<C>[] {
  const { line, day } = whole;
  const named = payeesOf(whole);
  return candidates
    .flatMap((candidate) => {
      const isElsewhere =
        candidate.bankAccountId !== null && candidate.bankAccountId !== line.bankAccountId;
      if (isElsewhere || candidate.amount === line.amount || !mayBe(whole, candidate)) return [];
      const other = readCandidate(candidate);
      const days = day - other.day;
      if (Math.abs(days) > NEAR_DAYS) return [];
      const isNumbered = namesNumber(whole, other);
      const isNamed = candidate.payeeId !== null && named.has(candidate.payeeId);
      const { by, because } = explainDifference(line.amount, candidate.amount, rates, []);
      // A fee of some percent and a wrong digit are common by chance alone.
      const isTelling = because !== null && (isNamed || (because !== 'fee' && because !== 'digit'));
      if (!isNumbered && !isTelling && !(isNamed && isClose(line.amount, candidate.amount)))
        return [];
      const isTurned = Math.sign(line.amount) !== Math.sign(candidate.amount);
      const differences: readonly PairDifference[] = [
        { kind: 'amount', by, because },
        ...(isTurned && because !== 'sign' ? [{ kind: 'direction' } as const] : []),
        ...(isNamed || isNumbered || candidate.payeeId === null
          ? []
          : [{ kind: 'payee' } as const]),
      ];
      const worth =
        (isNumbered ? 4 : 0) + (isNamed ? 2 : 0) + (because ? 2 : 0) - Math.abs(days) / 60;
      return [{ candidate, likeness: 0, differences, worth }];
    })
    .sort((a, b) => b.worth - a.worth)
    .slice(0, MOST_MISSES)
    .map(({ worth: _worth, ...rest }) => rest);
}

/** Within a third of each other, or a payment of a part. */
function isClose(a: number, b: number): boolean {
  if (Math.sign(a) !== Math.sign(b)) return false;
  return Math.abs(a) <= Math.abs(b) || Math.abs(a - b) * 3 <= Math.abs(b);
}
