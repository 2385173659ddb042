import type { CalendarDate } from '../dates/calendarDate.ts';
import type { Minor } from '../money/minor.ts';
import { plainWording } from '../text/plainWording.ts';

/** What two sightings of one line have in common. */
export interface LineFacts {
  readonly date: CalendarDate;
  readonly amount: Minor;
  readonly description: string;
  readonly reference: string | null;
  readonly bankId: string | null;
}

/**
 * Finds which lines of a source are here already. Lines match by bank id with date and amount
 * first; those left over are counted by date, amount and wording: what is here twice and comes
 * twice is two lines, not four.
 *
 * @param here lines of the same bank account, as far as the source reaches in time
 * @param incoming the source's lines, in its order
 * @returns for each incoming line its match's index in `here`, or null where it is new
 * @example matchLines([coffee], [coffee, coffee]) // [0, null]
 */
export function matchLines(
  here: readonly LineFacts[],
  incoming: readonly LineFacts[],
): (number | null)[] {
  const isMatched = new Set<number>();
  const matches: (number | null)[] = incoming.map(() => null);
  const pass = (keyOf: (line: LineFacts) => string | null) => {
    const waiting = new Map<string, number[]>();
    for (const [index, line] of here.entries()) {
      const key = isMatched.has(index) ? null : keyOf(line);
      if (key === null) continue;
      const queue = waiting.get(key);
      if (queue) queue.push(index);
      else waiting.set(key, [index]);
    }
    for (const queue of waiting.values()) queue.reverse();
    for (const [index, line] of incoming.entries()) {
      const key = matches[index] === null ? keyOf(line) : null;
      const found = key === null ? undefined : waiting.get(key)?.pop();
      if (found === undefined) continue;
      matches[index] = found;
      isMatched.add(found);
    }
  };
  pass((line) => line.bankId && `${line.bankId}|${line.date}|${line.amount}`);
  pass((line) => `${line.date}|${line.amount}|${plainWording(line.description)}`);
  return matches;
}
