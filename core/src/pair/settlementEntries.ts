import type { AccountId } from '../ids.ts';
import type { Leg } from '../ledger/buildLegs.ts';
import { type Minor, sumOf } from '../money/minor.ts';

/** A line that is paired. */
export interface SettledLine {
  readonly date: string;
  readonly amount: Minor;
}

/** An entry that a pairing makes. Its first leg is the bank's, unless no money is left to book. */
export interface SettlementEntry {
  readonly date: string;
  readonly legs: readonly Leg[];
}

/**
 * Shares out what a pairing posts among its lines, so that each part is dated by the line that paid it.
 *
 * What lines are by entries that stand in the books is taken off them first: from a line of the same amount, or else
 * from the earliest. What is left of each line takes its part of the legs in their order; legs that no line is left
 * for, such as a fee kept back, go with the last. Where lines go both ways, what they leave to each other goes
 * through the first control account among the legs; without one, all is posted with the last line.
 *
 * @param lines in the order of time
 * @param known the entries that stand in the books, among what the lines are
 * @param legs all that is posted beside the bank; with the lines less the entries it adds up to zero
 * @example lines of 50.00 and 48.60, legs −100.00 on receivables and +1.40 on charges: +50.00, −50.00 with the first;
 * +48.60, −50.00, +1.40 with the second
 */
export function settlementEntries(
  lines: readonly SettledLine[],
  known: readonly { readonly amount: Minor }[],
  legs: readonly Leg[],
  bankLedgerId: AccountId,
): readonly SettlementEntry[] {
  const left = withoutKnown(lines, known);
  const pool = legs.filter(({ amount }) => amount !== 0).map((leg) => ({ ...leg }));
  const shares = left.map(({ amount }) => take(pool, -amount));
  const needs = left.map(({ amount }, at) => -amount - sumOf(shares[at] ?? []));
  const last = left.length - 1;
  const spare = pool.filter(({ amount }) => amount !== 0);
  const clearing = legs.find(({ role }) => role === 'control');
  const isApart = needs.some((need, at) => at !== last && need !== 0);
  if (isApart && clearing === undefined) {
    return entryOf(lines.at(-1)?.date ?? '', sumOf(left), legs, bankLedgerId);
  }
  return left.flatMap(({ date, amount }, at) => {
    const own = [...(shares[at] ?? []), ...(at === last ? spare : [])];
    const rest = -amount - sumOf(own);
    const through = rest !== 0 && clearing ? [{ ...clearing, amount: rest }] : [];
    return entryOf(date, amount, [...own, ...through], bankLedgerId);
  });
}

/** What is left of lines once they are less what stands in the books. */
function withoutKnown(
  lines: readonly SettledLine[],
  known: readonly { readonly amount: Minor }[],
): readonly SettledLine[] {
  const left = lines.map((line) => ({ ...line }));
  const others: Minor[] = [];
  for (const { amount } of known) {
    const same = left.find((line) => line.amount === amount && amount !== 0);
    if (same) same.amount = 0;
    else others.push(amount);
  }
  for (const other of others) {
    let rest = other;
    for (const line of left) {
      const used = Math.sign(line.amount) !== Math.sign(rest) ? 0 : nearerNil(line.amount, rest);
      line.amount -= used;
      rest -= used;
    }
    const last = left.at(-1);
    if (last) last.amount -= rest;
  }
  return left;
}

/** Takes legs of an amount's sign from a pool, in their order, up to the amount. */
function take(pool: { amount: Minor }[] & Leg[], wanted: Minor): Leg[] {
  const taken: Leg[] = [];
  let rest = wanted;
  for (const leg of pool) {
    if (rest === 0) break;
    if (leg.amount === 0 || Math.sign(leg.amount) !== Math.sign(rest)) continue;
    const used = nearerNil(leg.amount, rest);
    taken.push({ ...leg, amount: used });
    leg.amount -= used;
    rest -= used;
  }
  return taken;
}

/** Of two amounts of one sign, the smaller one. */
const nearerNil = (a: Minor, b: Minor): Minor => (Math.abs(a) <= Math.abs(b) ? a : b);

/** An entry with legs of one account put together, if there is anything to post. */
function entryOf(
  date: string,
  bank: Minor,
  others: readonly Leg[],
  bankLedgerId: AccountId,
): readonly SettlementEntry[] {
  const bankLeg: Leg = { accountId: bankLedgerId, amount: bank, taxCodeId: null, role: 'bank' };
  const legs = [bankLeg, ...together(others)].filter(({ amount }) => amount !== 0);
  return legs.length === 0 ? [] : [{ date, legs }];
}

function together(legs: readonly Leg[]): readonly Leg[] {
  const found = new Map<string, Leg>();
  for (const leg of legs) {
    const { amount, ...rest } = leg;
    const key = JSON.stringify(rest);
    found.set(key, { ...leg, amount: (found.get(key)?.amount ?? 0) + amount });
  }
  return [...found.values()];
}
