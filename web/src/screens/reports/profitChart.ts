import type { EChartsCoreOption } from 'echarts/core';
import type { ChartColors } from './recordShown.ts';

/** A chart of the result by month. @param amounts in minor units, one for each month */
export function profitChart(
  months: readonly string[],
  amounts: readonly number[],
  { colors, show }: { readonly colors: ChartColors; readonly show: (minor: number) => string },
): EChartsCoreOption {
  return {
    animation: false,
    grid: { left: 4, right: 4, top: 8, bottom: 22 },
    tooltip: { trigger: 'axis', valueFormatter: (value: unknown) => show(Number(value)) },
    xAxis: {
      type: 'category',
      data: [...months],
      axisLine: { lineStyle: { color: colors.hairline } },
      axisTick: { show: false },
      axisLabel: { color: colors.ink, fontFamily: 'inherit' },
    },
    yAxis: { type: 'value', show: false },
    series: [
      {
        name: 'Result',
        type: 'bar',
        barCategoryGap: '40%',
        itemStyle: { color: colors.habit },
        data: [...amounts],
      },
    ],
  };
}
