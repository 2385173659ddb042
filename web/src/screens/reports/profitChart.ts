import { t } from '@zubrell/core/words/t';
import type { EChartsCoreOption } from 'echarts/core';
import { moneyByMonth } from './chartAxis.ts';
import type { ChartColors } from './recordShown.ts';

/** A chart of the result by month. @param amounts in minor units, one for each month */
export function profitChart(
  months: readonly string[],
  amounts: readonly number[],
  { colors, show }: { readonly colors: ChartColors; readonly show: (minor: number) => string },
): EChartsCoreOption {
  return {
    ...moneyByMonth(months, { colors, show }),
    grid: { left: 4, right: 4, top: 8, bottom: 22 },
    series: [
      {
        name: t`Result`,
        type: 'bar',
        barCategoryGap: '40%',
        itemStyle: { color: colors.habit },
        data: [...amounts],
      },
    ],
  };
}
