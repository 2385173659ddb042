import type { MonthWork } from '@zubrell/contract/habits';
import { t } from '@zubrell/core/words/t';
import type { EChartsCoreOption } from 'echarts/core';
import { chartAxis, shortMonth } from '../reports/chartAxis.ts';
import type { ChartColors } from '../reports/recordShown.ts';

/** A chart of how much work the lines of months were: a bar a month, and above it how many presses each line took. */
export function workChart(work: readonly MonthWork[], colors: ChartColors): EChartsCoreOption {
  const bar = { type: 'bar', stack: 'lines', barCategoryGap: '18%' } as const;
  return {
    animation: false,
    grid: { left: 4, right: 4, top: 18, bottom: 22, containLabel: false },
    tooltip: { trigger: 'axis', axisPointer: { type: 'shadow' } },
    xAxis: {
      type: 'category',
      data: work.map(({ month }) => shortMonth(month)),
      ...chartAxis(colors),
    },
    yAxis: [
      { type: 'value', show: false },
      { type: 'value', show: false, min: 0 },
    ],
    series: [
      {
        ...bar,
        name: t`Without a touch`,
        itemStyle: { color: colors.habit },
        data: work.map(({ untouched }) => untouched),
      },
      {
        ...bar,
        name: t`Looked at`,
        itemStyle: { color: colors.hand },
        data: work.map(({ lines, untouched }) => lines - untouched),
      },
      {
        type: 'line',
        name: t`Presses per line`,
        yAxisIndex: 1,
        symbolSize: 7,
        connectNulls: true,
        lineStyle: { color: colors.ink },
        itemStyle: { color: colors.ink },
        data: work.map(({ presses }) =>
          presses === null ? null : Math.round(100 * presses) / 100,
        ),
      },
    ],
  };
}
