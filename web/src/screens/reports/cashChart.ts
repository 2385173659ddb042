import { t } from '@zubrell/core/words/t';
import type { EChartsCoreOption } from 'echarts/core';
import { moneyByMonth } from './chartAxis.ts';
import type { ChartColors } from './recordShown.ts';

/**
 * A chart of money in and out as bars, and of what stood on the bank accounts as a line.
 *
 * @param figures money in, money out and the balance, in minor units, one for each month
 */
export function cashChart(
  months: readonly string[],
  [moneyIn, moneyOut, balance]: readonly (readonly number[] | null)[],
  { colors, show }: { readonly colors: ChartColors; readonly show: (minor: number) => string },
): EChartsCoreOption {
  const bar = (name: string, color: string, data: readonly number[]) => ({
    name,
    type: 'bar',
    stack: 'flow',
    barCategoryGap: '55%',
    itemStyle: { color },
    data: [...data],
  });
  return {
    ...moneyByMonth(months, { colors, show }),
    grid: { left: 4, right: 4, top: 28, bottom: 22 },
    legend: { top: 0, left: 0, textStyle: { color: colors.ink, fontFamily: 'inherit' } },
    series: [
      bar(t`Money in`, colors.habit, moneyIn ?? []),
      bar(t`Money out`, colors.hairline, moneyOut ?? []),
      {
        name: t`On the bank accounts`,
        type: 'line',
        symbolSize: 5,
        itemStyle: { color: colors.ink },
        data: [...(balance ?? [])],
      },
    ],
  };
}
