import { isWithin } from '../exchange/rate.ts';
import { groupBy } from '../groupBy.ts';
import { assign, type Fit } from './assignPairs.ts';
import type { NamedPayee } from './namesIn.ts';
import type { Candidate, PairLine } from './pairing.ts';
import { isTracedTo, lineReader, type ReadLine, readCandidate, weighPair } from './weighPair.ts';

/** The other half of a move between own accounts. */
export interface HalfFound {
  readonly other: PairLine;
  readonly isCertain: boolean;
}

/** Halves of a move between own accounts arrive so many days apart at most. */
export const HALF_DAYS = 7;
/** In two currencies what comes in is so near to what the rates of the day say. */
const NEAR_WORTH = 0.03;
const LEAST_ODDS = 2;
const CERTAIN_MARGIN = 2.7;

/**
 * Finds open lines of own accounts that are the two halves of one move: the same amount out of one and into
 * another, or nearly the same worth where their currencies differ, some days apart, all together so that the whole is likeliest.
 *
 * @param own the own bank accounts by name, with which their numbers may stand
 * @param payees everybody else, who may stand in a wording instead
 * @returns for each line that has one its other half
 */
export function findHalves(
  lines: readonly PairLine[],
  own: readonly NamedPayee[],
  payees: readonly NamedPayee[],
): ReadonlyMap<string, HalfFound> {
  const read = lineReader([...own, ...payees]);
  const ins = lines.filter(({ amount }) => amount > 0).map(read);
  const outs = lines.filter(({ amount }) => amount < 0).map(read);
  const places = groupBy(ins.keys(), (place) => ins[place]?.line.amount);
  const isMixed = new Set(lines.map(({ currency }) => currency)).size > 1;
  const fits = outs.map((out) => {
    const same = places.get(-out.line.amount) ?? [];
    const near = isMixed ? [...ins.keys()].filter((place) => isNear(out, ins[place])) : [];
    return [...new Set([...same, ...near])].flatMap((place): Fit[] => {
      const into = ins[place];
      if (!into || (into.line.currency !== out.line.currency && !near.includes(place))) return [];
      if (into.line.bankAccountId === out.line.bankAccountId) return [];
      if (Math.abs(into.day - out.day) > HALF_DAYS) return [];
      const odds = halfOdds(out, into);
      return odds < LEAST_ODDS ? [] : [{ column: place, odds }];
    });
  });
  const found = new Map<string, HalfFound>();
  for (const [at, assigned] of assign(fits).entries()) {
    const [out, into] = [outs[at], ins[assigned?.column ?? -1]];
    if (!out || !into || !assigned) continue;
    const isCertain = assigned.margin >= CERTAIN_MARGIN && (names(out, into) || names(into, out));
    found.set(out.line.id, { other: into.line, isCertain });
    found.set(into.line.id, { other: out.line, isCertain });
  }
  return found;
}

/** Whether two lines in different currencies are worth nearly the same. */
function isNear(out: ReadLine, into: ReadLine | undefined): boolean {
  if (!into || into.line.currency === out.line.currency) return false;
  const [paid, came] = [out.line.worth ?? null, into.line.worth ?? null];
  return paid !== null && came !== null && isWithin(-paid, came, NEAR_WORTH);
}

/** An own account that a wording names in full, by its name or the end of its number. */
const IN_FULL = 0.9;

/**
 * The other own account that a line's wording names, and nobody else.
 *
 * @returns by the line's id the bank account's; nothing for lines that name none, or their own
 */
export function accountsNamed(
  lines: readonly PairLine[],
  own: readonly NamedPayee[],
  payees: readonly NamedPayee[],
): ReadonlyMap<string, string> {
  const read = lineReader([...own, ...payees]);
  const ownIds = new Set(own.map(({ id }) => id));
  return new Map(
    lines.flatMap((line) => {
      const full = [...read(line).names].filter(([, share]) => share >= IN_FULL);
      const [only] = full.filter(([id]) => id !== line.bankAccountId);
      const isOwn = only !== undefined && ownIds.has(only[0]);
      return isOwn && full.length === 1 ? [[line.id, only[0]] as const] : [];
    }),
  );
}

function halfOdds(out: ReadLine, into: ReadLine): number {
  const there = readCandidate(asCandidate(into.line, out.line.amount));
  const back = readCandidate(asCandidate(out.line, into.line.amount));
  const { odds } = weighPair(out, there, false);
  // The days count once; what the other wording says counts as well.
  const said = weighPair(into, { ...back, day: into.day }, false).odds;
  const silent = weighPair(
    into,
    { ...back, day: into.day, candidate: { ...back.candidate, payeeId: null } },
    false,
  );
  return odds + said - silent.odds;
}

/** Whether a wording names the other account. Halves that do not are worth a look, no more. */
function names(read: ReadLine, other: ReadLine): boolean {
  return isTracedTo(read, other.line.bankAccountId);
}

function asCandidate(line: PairLine, amount: number): Candidate {
  // Wordings name own accounts as they name payees.
  const named: string = line.bankAccountId;
  return {
    id: line.id,
    kind: 'transfer',
    bankAccountId: null,
    date: line.date,
    dueDate: null,
    amount,
    payeeId: named,
    payee: null,
    number: null,
    pays: [],
  };
}
