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
  const withoutDoubtful = standing + sumOf('new');
  const doubtful = sumOf('doubtful');
  const isCopies = withoutDoubtful === closing;
  const isReal = withoutDoubtful + doubtful === closing;
  if (isCopies === isReal) return [...sightings];
  return sightings.map((sighting, index) => {
    if (sighting.kind !== 'doubtful' || (incoming[index]?.date ?? '') > date) return sighting;
    return isReal ? { kind: 'new' } : { kind: 'already', index: sighting.index };
  });
}
