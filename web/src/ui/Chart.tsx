import type { EChartsCoreOption, EChartsType } from 'echarts/core';
import { useEffect, useRef } from 'react';

/** A chart. The library that draws it is fetched with the first one; what it shows stands in words beside it. */
export function Chart({
  option,
  label,
  height,
}: {
  readonly option: EChartsCoreOption;
  /** What it shows, for those who can't see it. */
  readonly label: string;
  readonly height: number;
}) {
  const box = useRef<HTMLDivElement>(null);
  const chart = useRef<EChartsType | null>(null);
  const latest = useRef(option);
  latest.current = option;

  useEffect(() => {
    let isGone = false;
    const watch = new ResizeObserver(() => chart.current?.resize());
    void import('./drawChart.ts').then(({ openChart }) => {
      if (isGone || !box.current) return;
      chart.current = openChart(box.current);
      chart.current.setOption(latest.current);
      watch.observe(box.current);
    });
    return () => {
      isGone = true;
      watch.disconnect();
      chart.current?.dispose();
      chart.current = null;
    };
  }, []);
  useEffect(() => chart.current?.setOption(option, true), [option]);

  return <div ref={box} role="img" aria-label={label} style={{ height }} />;
}
