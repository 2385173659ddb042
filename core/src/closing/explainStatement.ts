import { addDays } from '../dates/calendarDate.ts';
import { groupBy, putInto } from '../groupBy.ts';
import type { Minor } from '../money/minor.ts';
import {
  type Adjustment,
  adjustmentsOf,
  type EdgeLine,
  earlierOf,
  edgeAmount,
  edgeLines,
  missingAt,
  mistyped,
  swappedBy,
  swapsOf,
  withBalances,
} from './adjustments.ts';
import type { Explanation, Likelihood, SingleCause } from './causes.ts';
import { type Checked, checkBalances } from './checkpoints.ts';
import { differenceOf, type StatementFacts } from './statementFacts.ts';

/** More explanations are of no use to anybody. */
const MOST = 8;
/** Two causes together are tried where each is at least so likely by itself, as log odds. */
const WORTH_A_PAIR = -2.2;
/** How much less likely two causes are than one. */
const TWO = 2.2;
/** Of lines near an edge so many at most are tried in pairs and threes. */
const MOST_IN_SETS = 28;
/** Lines that went over an edge together are of so many days at most. */
const SET_DAYS = 3;
/** What speaks for a cause that is none of these. */
const ANOTHER = -2.6;

/**
 * What would explain why a statement is not what opening and lines add up to: single causes, lines over the edge that
 * add up, and two causes together, each with how likely it is.
 *
 * @returns the likeliest first; nothing where it adds up, or nothing explains it
 */
export function explainStatement(facts: StatementFacts): Explanation[] {
  const difference = differenceOf(facts);
  if (difference === 0) return [];
  const checked = checkBalances(
    facts.lines,
    { date: addDays(facts.period.from, -1), amount: facts.opening },
    { date: facts.period.to, amount: facts.closing },
    facts.stated,
  );
  const known = earlierOf(facts);
  const swaps = swapsOf(facts.lines);
  const sets = setsBySum(facts);
  const fitted = (all: readonly Adjustment[]) =>
    all.map((each) => withBalances(each, checked, facts.lines.length));
  const all = fitted([...adjustmentsOf(facts, known), ...missing(checked)]);
  const making = (rest: Minor) =>
    fitted([
      ...mistyped(facts, rest),
      ...swappedBy(swaps, known, rest),
      ...setsOverEdge(sets, rest),
    ]);
  const single = [...all.filter(({ amount }) => amount === difference), ...making(difference)];
  const found = [
    ...single.map((each) => ({ causes: [each], score: each.score })),
    ...pairsOf(all, difference, making),
  ];
  return ranked(found);
}

/** Where balances break and nothing else is known, a line is missing, or several. */
function missing({ gaps, count }: Checked): Adjustment[] {
  return count < 2 ? [] : gaps.map(missingAt);
}

interface Found {
  readonly causes: readonly Adjustment[];
  readonly score: number;
}

function ranked(found: readonly Found[]): Explanation[] {
  const best = new Map<string, Found>();
  for (const each of found) {
    const key = each.causes
      .map(({ kind, lineIds, move, from }) => `${kind} ${[...lineIds].sort()} ${move} ${from}`)
      .sort()
      .join();
    if ((best.get(key)?.score ?? Number.NEGATIVE_INFINITY) < each.score) best.set(key, each);
  }
  const sorted = [...best.values()].sort((a, b) => b.score - a.score);
  const total = sorted.reduce((sum, { score }) => sum + Math.exp(score), Math.exp(ANOTHER));
  return sorted.slice(0, MOST).map(({ causes, score }) => ({
    causes: causes.map(causeOf),
    likelihood: likelihoodOf(Math.exp(score) / total),
  }));
}

function causeOf({ score: _, place: __, days: ___, ...cause }: Adjustment): SingleCause {
  return cause;
}

/**
 * What a share of all scores is called. Scores are too cautious, so it is called as it was right on planted faults
 * (`npm run bench -- statements`): very likely in more than nine of ten, likely in about half, possible in one of ten.
 */
function likelihoodOf(share: number): Likelihood {
  if (share >= 0.4) return 'very likely';
  if (share >= 0.1) return 'likely';
  return share >= 0.02 ? 'possible' : 'unlikely';
}

/**
 * Two causes that add up to the difference, each likely enough by itself.
 *
 * @param making what would make up the rest that one cause leaves of the difference
 */
function pairsOf(
  all: readonly Adjustment[],
  difference: Minor,
  making: (rest: Minor) => readonly Adjustment[],
): Found[] {
  const strong = all.filter((each) => isWorthAPair(each) && each.amount !== difference);
  const byAmount = groupBy(strong.entries(), ([, { amount }]) => amount);
  const ofRest = new Map<Minor, readonly Adjustment[]>();
  return [...strong.entries()].flatMap(([at, one]) => {
    const rest = difference - one.amount;
    if (!ofRest.has(rest)) ofRest.set(rest, making(rest));
    const twos = [
      ...(byAmount.get(rest) ?? []).flatMap(([other, two]) => (other > at ? [two] : [])),
      ...(ofRest.get(rest) ?? []),
    ];
    return twos
      .filter((two) => areApart(one, two))
      .map((two) => ({ causes: [one, two], score: one.score + two.score - TWO }));
  });
}

const isWorthAPair = ({ score }: Adjustment) => score >= WORTH_A_PAIR;

/** Whether two causes are about different things. */
function areApart(one: Adjustment, two: Adjustment): boolean {
  if (one.lineIds.some((id) => two.lineIds.includes(id))) return false;
  const isSameGap =
    one.kind === 'lineMissing' && two.kind === 'lineMissing' && one.from === two.from;
  const isSameBalance =
    one.kind === two.kind && (one.kind === 'opening' || one.kind === 'closingMistyped');
  return !isSameGap && !isSameBalance;
}

/** Lines to be moved over an edge together, and how many other lines are as near to it as they. */
interface EdgeSet {
  readonly lines: readonly EdgeLine[];
  readonly isAll: boolean;
}

/** Two or three lines near an edge, all to be moved the same way, by what that changes. */
function setsBySum(facts: StatementFacts): ReadonlyMap<Minor, readonly EdgeSet[]> {
  const sets = new Map<Minor, EdgeSet[]>();
  const add = (near: readonly EdgeLine[], lines: readonly EdgeLine[]) => {
    const sum = lines.reduce((all, { line, move }) => all + edgeAmount(line, move), 0);
    const farthest = Math.max(...lines.map(({ days }) => days));
    const asNear = near.filter(({ days }) => days <= farthest).length;
    putInto(sets, sum, { lines, isAll: asNear === lines.length });
  };
  for (const lines of groupBy(edgeLines(facts), ({ move }) => move).values()) {
    const near = [...lines].sort((a, b) => a.days - b.days).slice(0, MOST_IN_SETS);
    for (const [at, one] of near.entries()) {
      const others = near.slice(at + 1).filter(({ days }) => days - one.days <= SET_DAYS);
      for (const [second, two] of others.entries()) {
        add(near, [one, two]);
        for (const three of others.slice(second + 1)) add(near, [one, two, three]);
      }
    }
  }
  return sets;
}

function setsOverEdge(
  sets: ReadonlyMap<Minor, readonly EdgeSet[]>,
  difference: Minor,
): Adjustment[] {
  const found = sets.get(difference) ?? [];
  return found.map(({ lines, isAll }): Adjustment => {
    const [first] = lines as readonly [EdgeLine, ...EdgeLine[]];
    const farthest = Math.max(...lines.map(({ days }) => days));
    const dates = lines.map(({ line }) => line.date).sort();
    return {
      kind: 'overEdge',
      amount: difference,
      lineIds: lines.map(({ line }) => line.id),
      instead: null,
      move: first.move,
      from: null,
      to: null,
      reasons: ['atEdge', ...(isAll ? (['allFromDay'] as const) : [])],
      score: -3 - farthest / 2 - Math.log(found.length) + (isAll ? 2 : 0) - (lines.length - 2) / 2,
      place: first.place,
      days: [dates[0] ?? '', dates.at(-1) ?? ''],
    };
  });
}
