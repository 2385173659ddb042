import { createContext, useContext } from 'react';
import { formatDate } from './formats.ts';

/** The day it is, given once for all that show dates. */
export const TodayContext = createContext('');

/** The day it is for the server, which is the day it is for the books. */
export function useToday(): string {
  return useContext(TodayContext);
}

/** Shows dates as 03 Mar, with the year where it is not the current one. */
export function useShowDate(): (date: string) => string {
  const year = Number(useToday().slice(0, 4));
  return (date) => formatDate(date, year);
}

/** Shows moments as 03 Mar 14:05, by this machine's clock. */
export function useShowMoment(): (at: string) => string {
  const showDate = useShowDate();
  return (at) => {
    const moment = new Date(at);
    const two = (number: number) => String(number).padStart(2, '0');
    const date = `${moment.getFullYear()}-${two(moment.getMonth() + 1)}-${two(moment.getDate())}`;
    return `${showDate(date)} ${two(moment.getHours())}:${two(moment.getMinutes())}`;
  };
}
