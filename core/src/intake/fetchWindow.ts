import { addDays, type CalendarDate } from '../dates/calendarDate.ts';

/** What decides which days a feed asks for. */
export interface FeedState {
  readonly today: CalendarDate;
  /** How many days it looks back; null: from the last closed statement, or {@link usualLookBack}. */
  readonly lookBackDays: number | null;
  /** The day of the opening balance: what lies before it is in it. */
  readonly opened: CalendarDate | null;
  /** Statements are closed up to this day. */
  readonly closedTo: CalendarDate | null;
  /** The last day that was asked for with success. */
  readonly knownTo: CalendarDate | null;
  /** The last fetches failed, so that days may be missing. */
  readonly isMending: boolean;
}

/** Days a feed looks back where nothing else is said. */
export const usualLookBack = 60;
/** Banks book some lines late: so many days are always asked for again. */
const OVERLAP = 3;
/** After trouble, rather more. */
const MENDING_OVERLAP = 10;

/**
 * The days to ask a bank for: as far back as the feed looks, further where the last success lies further
 * back, never before the day after the opening balance.
 *
 * @example 60 days, last success on 1 March, today 8 April: from 7 February
 */
export function fetchWindow(state: FeedState): {
  readonly from: CalendarDate;
  readonly to: CalendarDate;
} {
  const { today, lookBackDays, opened, closedTo, knownTo, isMending } = state;
  const wanted =
    lookBackDays === null && closedTo !== null
      ? addDays(closedTo, 1)
      : addDays(today, -(lookBackDays ?? usualLookBack));
  const again = knownTo && addDays(knownTo, isMending ? -MENDING_OVERLAP : -OVERLAP);
  const reached = again !== null && again < wanted ? again : wanted;
  const first = opened && addDays(opened, 1);
  const from = first !== null && first > reached ? first : reached;
  return { from: from > today ? today : from, to: today };
}
