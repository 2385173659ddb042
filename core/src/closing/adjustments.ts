import { addDays, daysBetween } from '../dates/calendarDate.ts';
import { groupBy, putInto } from '../groupBy.ts';
import type { Minor } from '../money/minor.ts';
import { isTransposed } from '../pair/explainDifference.ts';
import { wordingLikeness } from '../text/likeness.ts';
import type { CauseReason, EdgeMove, SingleCause } from './causes.ts';
import type { Checked, Gap } from './checkpoints.ts';
import type { StatementFacts, StatementLine } from './statementFacts.ts';

/** A single cause with how much speaks for it, as log odds. */
export interface Adjustment extends SingleCause {
  readonly score: number;
  /** Where it is among the lines that count; null where it isn't a line that does. */
  readonly place: number | null;
  /** The days that it may lie on. */
  readonly days: readonly [string, string];
}

/** How often each kind happens, as log odds against the others. */
const USUAL = {
  sameTwice: -1.4,
  signTurned: -2.2,
  digitsSwapped: -2.4,
  lineMissing: -1.9,
  keptOut: -1.6,
  overEdge: -2,
  announcedBooked: -2.4,
  opening: -2.6,
  closingMistyped: -2.8,
} as const;

/** Copies come so many days apart at most. */
const COPY_DAYS = 10;
/** So many days around an edge lines may belong to the other side. */
export const EDGE_DAYS = 5;
/** An announced amount may differ from the booked one by this share. */
const ANNOUNCED_SHARE = 0.3;

/** What may be wrong with a statement whatever the difference, each with how likely it is by itself. */
export function adjustmentsOf(facts: StatementFacts, known: Earlier): Adjustment[] {
  return [
    ...copies(facts, known),
    ...turned(facts, known),
    ...swapped(facts, known),
    ...usualPayments(facts, known),
    ...keptOut(facts),
    ...overEdge(facts),
    ...announced(facts, known),
    ...otherOpening(facts),
  ];
}

/** The account's earlier lines by stem, to tell what is usual. */
export type Earlier = ReadonlyMap<
  string,
  readonly { readonly date: string; readonly amount: Minor }[]
>;

export function earlierOf({ earlier }: StatementFacts): Earlier {
  return groupBy(earlier, ({ stem }) => stem);
}

function adjustment(
  kind: SingleCause['kind'],
  amount: Minor,
  score: number,
  {
    line,
    place = null,
    ...more
  }: Partial<SingleCause> & { readonly line: StatementLine | null; readonly place?: number | null },
): Adjustment {
  return {
    kind,
    amount,
    lineIds: line ? [line.id] : [],
    instead: null,
    move: null,
    from: null,
    to: null,
    reasons: [],
    ...more,
    score: USUAL[kind] + score,
    place,
    days: [line?.date ?? more.from ?? '', line?.date ?? more.to ?? ''],
  };
}

/** Reasons with what each says, added up. */
function weigh(said: readonly (readonly [boolean, CauseReason | null, number])[]): {
  readonly score: number;
  readonly reasons: CauseReason[];
} {
  const holding = said.filter(([holds]) => holds);
  return {
    score: holding.reduce((sum, [, , weight]) => sum + weight, 0),
    reasons: holding.flatMap(([, reason]) => reason ?? []),
  };
}

/** One of two lines of the same amount. */
function copies({ lines }: StatementFacts, known: Earlier): Adjustment[] {
  const found: Adjustment[] = [];
  const byAmount = groupBy(lines.entries(), ([, { amount }]) => amount);
  for (const [amount, same] of byAmount) {
    for (const [at, [place, line]] of same.entries()) {
      // The most alike before it: of three alike, one too many is one of the two later ones.
      const [, other] = same
        .slice(0, at)
        .filter(([, each]) => daysBetween(each.date, line.date) <= COPY_DAYS)
        .sort(
          ([, a], [, b]) =>
            wordingLikeness(b.wording, line.wording) - wordingLikeness(a.wording, line.wording),
        )[0] ?? [0, null];
      if (!other) continue;
      const isLater = line.isDoubted || !other.isDoubted;
      const [copy, original] = isLater ? [line, other] : [other, line];
      const days = daysBetween(other.date, line.date);
      const likeness = wordingLikeness(other.wording, line.wording);
      const isSame = likeness === 1 || (other.stem === line.stem && line.stem !== '');
      const { score, reasons } = weigh([
        [isSame, 'sameWording', 2.6],
        [!isSame && likeness >= 0.5, 'likeWording', 1.2],
        [likeness < 0.5 && !isSame, null, -2.2],
        [days === 0, 'sameDay', 0.3],
        [days > 0, 'daysApart', days <= 3 ? 0.6 : -0.6],
        [line.isDoubted || other.isDoubted, 'doubted', 2],
        [comesAsOften(known.get(line.stem) ?? [], amount, days), 'oftenAlike', -2.4],
      ]);
      found.push(
        adjustment('sameTwice', -amount, score, {
          line: copy,
          lineIds: [copy.id, original.id],
          place: isLater ? place : lines.indexOf(other),
          reasons,
        }),
      );
    }
  }
  return found;
}

/** Whether lines of one stem and amount used to come again after as few days. */
function comesAsOften(
  earlier: readonly { readonly date: string; readonly amount: Minor }[],
  amount: Minor,
  days: number,
): boolean {
  const dates = earlier.flatMap((each) => (each.amount === amount ? [each.date] : [])).sort();
  return dates.some((date, at) => {
    const before = dates[at - 1];
    return before !== undefined && daysBetween(before, date) <= days + 1;
  });
}

/** A line that should have the other sign. */
function turned({ lines }: StatementFacts, known: Earlier): Adjustment[] {
  const here = groupBy(lines, ({ stem }) => stem);
  const share = lines.filter(({ amount }) => amount > 0).length / Math.max(lines.length, 1);
  return lines.map((line, place) => {
    const others = [
      ...(here.get(line.stem) ?? []).filter((other) => other !== line),
      ...(known.get(line.stem) ?? []),
    ];
    const sameWay = others.filter(({ amount }) => amount > 0 === line.amount > 0).length;
    const otherWay = others.length - sameWay;
    const isRareWay = line.amount > 0 ? share < 0.3 : share > 0.7;
    const { score, reasons } = weigh([
      [otherWay > 0 && sameWay === 0, 'othersOtherWay', otherWay > 1 ? 3.2 : 2.4],
      [sameWay > 0 && otherWay > 0, null, otherWay > sameWay ? 1 : -1],
      [otherWay === 0 && sameWay > 0, 'othersSameWay', sameWay > 2 ? -3.5 : -2.2],
      [others.length === 0, null, isRareWay ? 1 : -0.6],
      [otherWay > 0 && others.some(({ amount }) => amount === -line.amount), 'usualAmount', 1],
      [line.isTyped, 'typed', 1],
    ]);
    return adjustment('signTurned', -2 * line.amount, score, {
      line,
      place,
      instead: -line.amount,
      reasons,
    });
  });
}

/** A line with two digits the wrong way round, that should have been what look-alikes usually are. */
function swapped({ lines }: StatementFacts, known: Earlier): Adjustment[] {
  return lines.flatMap((line, place) => {
    const usual = new Set((known.get(line.stem) ?? []).map(({ amount }) => amount));
    return [...usual]
      .filter((instead) => isTransposed(line.amount, instead))
      .map((instead) => {
        const { score, reasons } = weigh([
          [true, 'usualAmount', usual.has(line.amount) ? 0.5 : 3.4],
          [line.isTyped, 'typed', 1.5],
        ]);
        const by = instead - line.amount;
        return adjustment('digitsSwapped', by, score, { line, place, instead, reasons });
      });
  });
}

/** Lines by what it would change to swap two of their digits back. */
export type Swaps = ReadonlyMap<Minor, readonly SwappedLine[]>;

interface SwappedLine {
  readonly line: StatementLine;
  readonly place: number;
}

/** What swapping two neighbouring digits of each line would change. */
export function swapsOf(lines: readonly StatementLine[]): Swaps {
  const swaps = new Map<Minor, SwappedLine[]>();
  for (const [place, line] of lines.entries()) {
    const digits = `0${Math.abs(line.amount)}`;
    for (let at = 0; at + 1 < digits.length; at += 1) {
      const [one = '', two = ''] = [digits[at], digits[at + 1]];
      if (one === two) continue;
      const instead = Number(`${digits.slice(0, at)}${two}${one}${digits.slice(at + 2)}`);
      putInto(swaps, Math.sign(line.amount) * instead - line.amount, { line, place });
    }
  }
  return swaps;
}

/** Lines with two digits the wrong way round that make up a difference, whatever is usual. */
export function swappedBy(swaps: Swaps, earlier: Earlier, difference: Minor): Adjustment[] {
  const fitting = swaps.get(difference) ?? [];
  return fitting.map(({ place, line }) => {
    const instead = line.amount + difference;
    const known = earlier.get(line.stem) ?? [];
    const sameWay = known.filter(({ amount }) => amount > 0 === instead > 0);
    const { score, reasons } = weigh([
      [true, null, -Math.log(fitting.length)],
      [known.some(({ amount }) => amount === line.amount), null, -2.5],
      [sameWay.length > 0, null, closeness(sameWay, instead, line.amount)],
      [line.isTyped, 'typed', 1.5],
      [!line.isTyped, null, -1],
    ]);
    return adjustment('digitsSwapped', difference, score, { line, place, instead, reasons });
  });
}

/** How much nearer to what is usual an amount is than another: between −1.5 and 1.5. */
function closeness(
  usual: readonly { readonly amount: Minor }[],
  amount: Minor,
  than: Minor,
): number {
  if (amount === 0) return -1.5;
  const distance = (to: Minor) =>
    Math.min(...usual.map((each) => Math.abs(Math.log(Math.abs(to / each.amount)))));
  return Math.max(-1.5, Math.min(1.5, 3 * (distance(than) - distance(amount))));
}

/** A payment that used to come and didn't. */
function usualPayments({ period, lines }: StatementFacts, known: Earlier): Adjustment[] {
  const here = groupBy(lines, ({ stem }) => stem);
  const found: Adjustment[] = [];
  for (const [stem, all] of known) {
    const past = [...all].sort((a, b) => (a.date < b.date ? -1 : 1)).slice(-6);
    const last = past.at(-1);
    const before = past.at(-2);
    if (!last || !before || past.length < 3 || last.amount !== before.amount) continue;
    const steps = past.slice(1).map(({ date }, at) => daysBetween(past[at]?.date ?? date, date));
    const rhythm = [...steps].sort((a, b) => a - b)[Math.floor(steps.length / 2)] ?? 0;
    if (rhythm < 6 || steps.some((step) => Math.abs(step - rhythm) > Math.max(2, rhythm / 7))) {
      continue;
    }
    for (
      let due = addDays(last.date, rhythm);
      due <= addDays(period.to, -1);
      due = addDays(due, rhythm)
    ) {
      if (due < period.from) continue;
      const slack = Math.max(2, Math.round(rhythm / 6));
      const came = (here.get(stem) ?? []).some(
        ({ date }) => Math.abs(daysBetween(due, date)) <= slack,
      );
      if (came) continue;
      const sameAmounts = past.filter(({ amount }) => amount === last.amount).length;
      found.push(
        adjustment('lineMissing', last.amount, sameAmounts > 3 ? 2.8 : 2, {
          line: null,
          from: addDays(due, -slack),
          to: addDays(due, slack),
          reasons: ['usualPayment'],
        }),
      );
    }
  }
  return found;
}

/** A line that is kept out although the bank moved the money. */
function keptOut({ keptOut: lines, lines: counted }: StatementFacts): Adjustment[] {
  return lines.map((line) => {
    const hasTwin = counted.some(
      (other) =>
        other.amount === line.amount && Math.abs(daysBetween(other.date, line.date)) <= COPY_DAYS,
    );
    return adjustment('keptOut', line.amount, hasTwin ? 1.6 : 3, { line });
  });
}

/** A line that the bank has in the statement before or after, or has in this one. */
function overEdge(facts: StatementFacts): Adjustment[] {
  return edgeLines(facts).map(({ line, place, move, days }) =>
    adjustment('overEdge', edgeAmount(line, move), 0.9 - days / 2, {
      line,
      place,
      move,
      reasons: ['atEdge'],
    }),
  );
}

/** What a line moved over an edge changes. */
export function edgeAmount({ amount }: { readonly amount: Minor }, move: EdgeMove): Minor {
  return move === 'toNext' || move === 'toPrevious' ? -amount : amount;
}

/** A line near an edge, and how many days from it. */
export interface EdgeLine {
  readonly line: StatementLine;
  readonly place: number | null;
  readonly move: EdgeMove;
  readonly days: number;
}

/** Lines near the edges, of both sides. */
export function edgeLines({ period, lines, before, after }: StatementFacts): EdgeLine[] {
  const near = (
    all: readonly StatementLine[],
    edge: string,
    move: EdgeMove,
    isIn: boolean,
  ): EdgeLine[] =>
    all.flatMap((line, place) => {
      const days = Math.abs(daysBetween(edge, line.date));
      return days <= EDGE_DAYS ? [{ line, place: isIn ? place : null, move, days }] : [];
    });
  return [
    ...near(lines, period.to, 'toNext', true),
    ...near(lines, period.from, 'toPrevious', true),
    ...near(after, addDays(period.to, 1), 'fromNext', false),
    ...near(before, addDays(period.from, -1), 'fromPrevious', false),
  ];
}

/** A line that was announced, and booked with another amount; or one that was announced and is on the statement. */
function announced({ lines, announced: waiting }: StatementFacts, known: Earlier): Adjustment[] {
  const here = groupBy(lines, ({ stem }) => stem);
  const booked = lines.flatMap((line, place) => {
    const [best] = (here.get(line.stem) ?? [])
      .filter((other) => {
        const share = Math.abs(other.amount / line.amount - 1);
        if (other === line || share === 0 || share > ANNOUNCED_SHARE) return false;
        const days = daysBetween(line.date, other.date);
        return days >= 0 && days <= COPY_DAYS;
      })
      .sort((a, b) => Math.abs(a.amount - line.amount) - Math.abs(b.amount - line.amount));
    if (!best) return [];
    const gaps = (known.get(line.stem) ?? []).map(({ date }) => date).sort();
    const isFrequent = gaps.some(
      (date, at) => at > 0 && daysBetween(gaps[at - 1] ?? date, date) <= COPY_DAYS,
    );
    const { score, reasons } = weigh([
      [true, 'otherAmount', 1.6],
      [daysBetween(line.date, best.date) <= 4, null, 0.4],
      [isFrequent, 'oftenAlike', -2],
      [line.isDoubted || best.isDoubted, 'doubted', 2],
    ]);
    const both = { line, lineIds: [line.id, best.id], place, reasons };
    return [adjustment('announcedBooked', -line.amount, score, both)];
  });
  return [
    ...booked,
    ...waiting.map((line) => {
      const { date: from } = line;
      return adjustment('announcedBooked', line.amount, 2, { line, lineIds: [], from, to: from });
    }),
  ];
}

/** An opening balance that is not what the statement before closed at. */
function otherOpening({ opening, statedOpening, period }: StatementFacts): Adjustment[] {
  if (statedOpening === null || statedOpening === opening) return [];
  return [
    adjustment('opening', statedOpening - opening, 6, {
      line: null,
      instead: statedOpening,
      from: period.from,
      to: period.from,
      reasons: ['stated'],
    }),
  ];
}

/** A closing balance that was mistyped by a difference. */
export function mistyped(
  { closing, isClosingTyped, period }: StatementFacts,
  difference: Minor,
): Adjustment[] {
  const instead = closing - difference;
  const isTurned = closing === -instead && instead !== 0;
  if (!isTurned && !isTransposed(closing, instead)) return [];
  const score = (isTurned ? 4 : 0.4) + (isClosingTyped ? 2.6 : -1);
  return [
    adjustment('closingMistyped', difference, score, {
      line: null,
      instead,
      from: period.to,
      to: period.to,
      reasons: isClosingTyped ? ['typed'] : [],
    }),
  ];
}

/** A line missing where balances break, of which nothing else is known. */
export function missingAt({ amount, from, to }: Gap): Adjustment {
  return adjustment('lineMissing', amount, -3, { line: null, from, to });
}

/** How an adjustment fits what the bank's balances say within the statement: better, worse, or nothing is known. */
export function withBalances(
  found: Adjustment,
  { gaps, count }: Checked,
  lineCount: number,
): Adjustment {
  if (count < 2 || gaps.length === 0) return found;
  const own = gaps.find(
    (gap) =>
      gap.amount === found.amount &&
      (found.place === null
        ? found.days[0] <= gap.to && found.days[1] >= gap.from
        : found.place >= gap.first && found.place < gap.end),
  );
  if (!own) {
    return { ...found, score: found.score - 4, reasons: [...found.reasons, 'balanceHolds'] };
  }
  const isNarrow = Math.log((lineCount + 1) / (own.end - own.first + 1));
  return {
    ...found,
    score: found.score + Math.max(0, isNarrow),
    reasons: [...found.reasons, 'balanceBreaks'],
  };
}
