import { doneBy, doneNames, type MonthDone } from './recordShown.ts';
import { useChartColors } from './useChartColors.ts';

/** What the parts of a chart of how lines got done stand for; ways that never were are left out. */
export function DoneLegend({ done }: { readonly done: readonly MonthDone[] }) {
  const colors = useChartColors();
  return (
    <ul>
      {doneBy
        .filter((by) => done.some((month) => month[by] > 0))
        .map((by) => (
          <li key={by}>
            <i style={{ background: colors[by] }} />
            {doneNames[by]}
          </li>
        ))}
    </ul>
  );
}
