import { useMemo } from 'react';
import { useIsDark } from '../../app/useIsDark.ts';
import type { ChartColors } from './recordShown.ts';

/** The colours of charts in the theme that is shown. */
export function useChartColors(): ChartColors {
  const isDark = useIsDark();
  // biome-ignore lint/correctness/useExhaustiveDependencies: the colours are read from the page, which has the theme
  return useMemo(() => {
    const style = getComputedStyle(document.documentElement);
    const token = (name: string) => style.getPropertyValue(`--${name}`).trim();
    return {
      habit: token('mulberry'),
      rule: token('chart-rule'),
      pair: token('iris'),
      transfer: token('slate'),
      other: token('half-moon'),
      hand: token('rule-strong'),
      ink: token('ink-2'),
      hairline: token('rule'),
    };
  }, [isDark]);
}
