import type { Explanation, StatementCauseKind } from '@zubrell/core/closing/causes';
import { explainStatement } from '@zubrell/core/closing/explainStatement';
import { type Dice, dice } from '@zubrell/core/testing/dice';
import { businesses } from '../accuracy/businesses.ts';
import type { Benchmark } from '../ratio.ts';
import { isTiny, sized } from '../sized.ts';
import {
  accountsOf,
  type Fault,
  type FaultKind,
  faultKinds,
  type Planted,
  plantedIn,
} from './planted.ts';

const OF_KIND = sized(12, 1);
const OF_TWO = sized(60, 2);
const MOST_LINES = 400;

/** What each fault is called where it is found. */
const FOUND_AS: Readonly<Record<FaultKind, StatementCauseKind>> = {
  twice: 'sameTwice',
  turned: 'signTurned',
  swapped: 'digitsSwapped',
  missing: 'lineMissing',
  keptOut: 'keptOut',
  overEdge: 'overEdge',
  set: 'overEdge',
  announced: 'announcedBooked',
  opening: 'opening',
  closing: 'closingMistyped',
};

/** Where among the explanations the planted faults are; −1 where they aren't. */
export function placeOf(found: readonly Explanation[], faults: readonly Fault[]): number {
  return found.findIndex(
    ({ causes }) =>
      causes.length === faults.length &&
      faults.every((fault) => causes.some((cause) => isFault(cause, fault))),
  );
}

function isFault(cause: Explanation['causes'][number], fault: Fault): boolean {
  if (cause.kind !== FOUND_AS[fault.kind] || cause.amount !== fault.amount) return false;
  // Of three lines that are the same, any one of them may go.
  if (fault.kind === 'twice') return cause.lineIds.some((id) => fault.lineIds.includes(id));
  if (fault.kind === 'announced') return cause.lineIds[0] === fault.lineIds[0];
  if (fault.kind === 'missing') {
    const { date } = fault;
    return date !== null && (cause.from ?? '') <= date && date <= (cause.to ?? '');
  }
  return [...cause.lineIds].sort().join() === [...fault.lineIds].sort().join();
}

interface Tally {
  count: number;
  first: number;
  three: number;
  five: number;
}

/** How often what was planted in statements is found, and how long that takes for many lines. */
export const statements: Benchmark = async () => {
  const single = new Map<string, Tally>();
  const two = new Map<string, Tally>();
  const times: number[] = [];
  /** How often what was called so was right, of all explanations. */
  const called = new Map<string, { count: number; right: number }>();
  const explained = ({ facts, faults }: Planted, group: string): number => {
    const began = performance.now();
    const found = explainStatement(facts);
    if (facts.lines.length >= MOST_LINES * 0.75) times.push(performance.now() - began);
    const place = placeOf(found, faults);
    for (const [at, { likelihood }] of found.entries()) {
      const name = `${likelihood}, ${group}`;
      const said = called.get(name) ?? { count: 0, right: 0 };
      called.set(name, { count: said.count + 1, right: said.right + Number(at === place) });
    }
    return place;
  };
  const count = (into: Map<string, Tally>, name: string, place: number) => {
    const tally = into.get(name) ?? { count: 0, first: 0, three: 0, five: 0 };
    into.set(name, tally);
    tally.count += 1;
    if (place === 0) tally.first += 1;
    if (place >= 0 && place < 3) tally.three += 1;
    if (place >= 0 && place < 5) tally.five += 1;
  };
  for (const [variant, business] of businesses.entries()) {
    const group = business.isKeptAside ? 'kept aside' : 'others';
    const accounts = accountsOf(business, 700 + variant);
    const throws = dice(business.seed * 7_919);
    for (const kind of faultKinds) {
      for (const planted of plantedIn(accounts, throws, () => [kind], OF_KIND)) {
        const place = explained(planted, group);
        count(single, group, place);
        count(single, `  ${kind}, ${group}`, place);
      }
    }
    for (const planted of plantedIn(accounts, throws, pairOfKinds, OF_TWO)) {
      count(two, group, explained(planted, group));
    }
  }
  const shown = (tallies: Map<string, Tally>) =>
    [...tallies]
      .sort(([a], [b]) => (a < b ? 1 : -1))
      .map(([name, tally]) => shownAs(name, tally))
      .join('');
  const slowest = Math.max(0, ...times);
  return (
    `statements with one planted fault (aim: first 90 %, within three 98 %)\n${shown(single)}` +
    `statements with two (aim: within five 70 %)\n${shown(two)}` +
    `explanations by how likely they are called\n${calledShown(called)}` +
    `  the slowest of ${times.length} with ${MOST_LINES * 0.75} lines or more: ${slowest.toFixed(0)} ms ` +
    `(aim: 300)  ${isTiny || slowest <= 300 ? 'met' : 'NOT MET'}\n`
  );
};

function pairOfKinds(throws: Dice): FaultKind[] {
  const one = throws.pick(faultKinds);
  return [one, throws.pick(faultKinds.filter((kind) => kind !== one || isOfLines(kind)))];
}

/** Whether it can happen twice in one statement. */
const isOfLines = (kind: FaultKind) => kind !== 'opening' && kind !== 'closing';

function calledShown(
  called: ReadonlyMap<string, { readonly count: number; readonly right: number }>,
): string {
  return [...called]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([name, { count, right }]) => {
      const share = ((100 * right) / count).toFixed(1);
      return `  ${name}: ${count} explanations, right in ${share} %\n`;
    })
    .join('');
}

function shownAs(name: string, { count, first, three, five }: Tally): string {
  const percent = (part: number) => `${((100 * part) / Math.max(count, 1)).toFixed(1)} %`;
  return `  ${name}: ${count} statements, first ${percent(first)}, within three ${percent(three)}, within five ${percent(five)}\n`;
}
