import type { CalendarDate } from '../dates/calendarDate.ts';
import type { Minor } from '../money/minor.ts';
import type { Sighting, SourceLine } from './matchSources.ts';

/** What is known of a bank account's balance on the day a source states it. */
export interface BalanceCheck {
  /** The balance by what is here already, before the source's lines, at the end of the day. */
  readonly standing: Minor;
  /** The balance the source states for the end of the day. */
  readonly closing: Minor;
  readonly date: CalendarDate;
}

/**
 * Lets a stated balance decide about doubtful lines: if it holds with all of them, they are payments of
 * their own; if it holds without them, they are second copies. That proves their sum; where neither
 * holds, they stay doubtful.
 *
 * @param sightings what the lines are, as `matchSources` gives it
 * @param incoming the same lines, in the same order
 */
export function settleByBalance(
  sightings: readonly Sighting[],
  incoming: readonly SourceLine[],
  { standing, closing, date }: BalanceCheck,
): Sighting[] {
  const sumOf = (kind: Sighting['kind']) =>
    incoming.reduce(
      (sum, line, index) =>
        sum + (sightings[index]?.kind === kind && line.date <= date ? line.amount : 0),
      0,
    );
  const verdict = balanceVerdict(standing + sumOf('new'), sumOf('doubtful'), closing);
  if (verdict === null) return [...sightings];
  return sightings.map((sighting, index) => {
    if (sighting.kind !== 'doubtful' || (incoming[index]?.date ?? '') > date) return sighting;
    return verdict === 'real' ? { kind: 'new' } : { kind: 'already', index: sighting.index };
  });
}

/**
 * What a stated balance says of doubtful lines: all real, all second copies, or nothing.
 *
 * @param without the balance if they are copies
 * @param doubtful their sum
 */
export function balanceVerdict(
  without: Minor,
  doubtful: Minor,
  closing: Minor,
): 'real' | 'copies' | null {
  const isCopies = without === closing;
  const isReal = without + doubtful === closing;
  if (isCopies === isReal) return null;
  return isReal ? 'real' : 'copies';
}
