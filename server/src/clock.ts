import type { CalendarDate } from '@zubrell/core/dates/calendarDate';

/** Where the server takes its time from; nothing else asks the machine. */
export interface Clock {
  now(): Date;
  today(): CalendarDate;
}

/** The machine's clock, in UTC. */
export const machineClock: Clock = {
  now: () => new Date(),
  today: () => new Date().toISOString().slice(0, 10),
};

/** A clock whose day never changes; its time of day is the machine's. */
export function clockFixedAt(today: CalendarDate): Clock {
  return {
    now: () => new Date(today + new Date().toISOString().slice(10)),
    today: () => today,
  };
}
