import { BarChart, LineChart } from 'echarts/charts';
import { GridComponent, LegendComponent, TooltipComponent } from 'echarts/components';
import { type EChartsType, init, use } from 'echarts/core';
import { SVGRenderer } from 'echarts/renderers';

use([BarChart, LineChart, GridComponent, LegendComponent, TooltipComponent, SVGRenderer]);

/** Opens a chart in an element. */
export function openChart(element: HTMLElement): EChartsType {
  return init(element, null, { renderer: 'svg' });
}
