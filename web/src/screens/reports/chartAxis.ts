import { formatMonth } from '@zubrell/core/dates/calendarDate';
import type { ChartColors } from './recordShown.ts';

/** How the axes of charts look. */
export const chartAxis = (colors: Pick<ChartColors, 'ink' | 'hairline'>) => ({
  axisLine: { lineStyle: { color: colors.hairline } },
  axisTick: { show: false },
  axisLabel: { color: colors.ink, fontFamily: 'inherit' },
});

/** What charts of money by month have in common. @param months how they are called */
export function moneyByMonth(
  months: readonly string[],
  { colors, show }: { readonly colors: ChartColors; readonly show: (minor: number) => string },
) {
  return {
    animation: false,
    tooltip: { trigger: 'axis', valueFormatter: (value: unknown) => show(Number(value)) },
    xAxis: { type: 'category', data: [...months], ...chartAxis(colors) },
    yAxis: { type: 'value', show: false },
  };
}

/** @example shortMonth('2026-03') // 'Mar'; January carries its year */
export function shortMonth(month: string): string {
  const name = formatMonth(month).slice(0, 3);
  return month.endsWith('-01') ? `${name} ${month.slice(0, 4)}` : name;
}
