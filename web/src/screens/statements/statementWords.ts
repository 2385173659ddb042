import type { Explanation, Statement } from '@zubrell/contract/statements';
import type { CauseReason, SingleCause, StatementCauseKind } from '@zubrell/core/closing/causes';
import { t } from '@zubrell/core/words/t';
import { countLines, formatCount, formatLongDate } from '../../app/formats.ts';

type Cause = Explanation['causes'][number];

/** A period as people say it. @example periodWords('2026-02-09', '2026-03-08') // '9 February to 8 March 2026' */
export function periodWords(from: string, to: string): string {
  const [first, last] = [formatLongDate(from), formatLongDate(to)];
  const isSameYear = from.slice(0, 4) === to.slice(0, 4);
  return t`${isSameYear ? first.slice(0, -5) : first} to ${last}`;
}

/** What a cause is called, over its card. */
export function causeTitle(cause: Cause, amount: (minor: number) => string): string {
  const size = amount(Math.abs(cause.instead ?? cause.amount));
  switch (cause.kind) {
    case 'sameTwice':
      return t`The same payment twice`;
    case 'signTurned':
      return t`A line of ${size} with its sign turned`;
    case 'digitsSwapped':
      return t`Two digits swapped: it should be ${size}`;
    case 'lineMissing':
      return t`A line of ${amount(Math.abs(cause.amount))} is missing`;
    case 'keptOut':
      return t`An excluded line is real`;
    case 'overEdge':
      return EDGES[cause.move ?? 'toNext'];
    case 'announcedBooked':
      return cause.lineIds.length > 0
        ? t`Announced, then booked with another amount`
        : t`An announced line was booked`;
    case 'opening':
      return t`The opening balance is another`;
    case 'closingMistyped':
      return t`The closing balance is mistyped: it would be ${amount(cause.instead ?? 0)}`;
  }
}

const EDGES = {
  toNext: t`Belongs to the next statement`,
  toPrevious: t`Belongs to the previous statement`,
  fromNext: t`In the next statement, and belongs here`,
  fromPrevious: t`In the previous statement, and belongs here`,
} as const;

const REASONS: Readonly<Record<CauseReason, string | null>> = {
  sameWording: t`The wording is the same.`,
  likeWording: t`The wording is alike.`,
  sameDay: t`Both are of the same day.`,
  daysApart: null,
  doubted: t`It was already marked as a possible second copy.`,
  oftenAlike: t`But the same often comes again after as few days.`,
  othersOtherWay: t`Others like it go the other way.`,
  othersSameWay: t`But others like it go the same way.`,
  usualAmount: t`Others like it have that amount.`,
  typed: t`It was typed by hand.`,
  balanceBreaks: t`The bank’s own balances break there.`,
  balanceHolds: t`But the bank’s own balances add up there.`,
  usualPayment: t`It came regularly until now.`,
  atEdge: null,
  allFromDay: t`It is everything from that day on.`,
  otherAmount: null,
  stated: t`The bank states it.`,
};

/** Why a cause is thought to be it, in sentences. */
export function causeReasons({ reasons }: Pick<SingleCause, 'reasons'>): string {
  return reasons.flatMap((reason) => REASONS[reason] ?? []).join(' ');
}

/** What else was looked for and not found, by name. */
const LOOKED_FOR: readonly (readonly [StatementCauseKind, string])[] = [
  ['sameTwice', t`copies`],
  ['signTurned', t`a turned sign`],
  ['digitsSwapped', t`swapped digits`],
  ['lineMissing', t`a missing line`],
  ['keptOut', t`excluded lines`],
  ['overEdge', t`lines over the edge, also two or three that add up`],
  ['announcedBooked', t`announced lines`],
  ['opening', t`the opening balance`],
  ['closingMistyped', t`a mistyped closing balance`],
];

/** What was looked for beside what was found, in a sentence; null where all kinds were found. */
export function alsoLookedFor(explanations: readonly Explanation[]): string | null {
  const found = new Set(explanations.flatMap(({ causes }) => causes.map(({ kind }) => kind)));
  const others = LOOKED_FOR.flatMap(([kind, name]) => (found.has(kind) ? [] : [name]));
  if (others.length === 0) return null;
  return `${found.size === 0 ? t`Looked for` : t`Also looked for`}: ${others.join(', ')}.`;
}

/** How the lines of a statement stand, in a few words. @example '71 decided, none open' */
export function standWords({
  lineCount,
  openCount,
  askedCount,
  isTicked,
}: Pick<Statement, 'lineCount' | 'openCount' | 'askedCount' | 'isTicked'>): string {
  const done = lineCount - openCount - askedCount;
  const shown = formatCount(done);
  return [
    done > 0 && (isTicked ? t`${shown} ticked` : t`${shown} decided`),
    askedCount > 0 && t`${formatCount(askedCount)} asked`,
    openCount === 0 ? t`none open` : t`${formatCount(openCount)} open`,
  ]
    .filter((said) => said !== false)
    .join(', ');
}

/** How a statement stands, in a few words. */
export function stateWords({
  state,
  off,
  closing,
  openCount,
}: Pick<Statement, 'state' | 'off' | 'closing' | 'openCount'>): string {
  if (state === 'agreed') return t`agreed`;
  if (closing === null) return t`no closing balance yet`;
  if (off !== 0) return t`off`;
  return openCount > 0 ? t`adds up, ${countLines(openCount)} open` : t`adds up, not agreed yet`;
}
