import type { AccountTotals } from '@zubrell/contract/reports';
import type { ReportTable } from '@zubrell/core/reports/reportTable';
import { t } from '@zubrell/core/words/t';
import { DateField } from '../../ui/DateField.tsx';
import { Picker } from '../../ui/Picker.tsx';
import { OpenLines } from './OpenLines.tsx';
import { comparisons } from './reportPeriod.ts';
import { SaveWays } from './SaveWays.tsx';
import { useReportPeriod } from './useReportPeriod.ts';

/** The period of a report, what it is compared with, what is still open in it, and ways to save it. */
export function ReportBar({
  table,
  open,
  isOnDay = false,
  isCompared = true,
  loadWhole,
}: {
  /** What is saved; null while it is read. */
  readonly table: ReportTable | null;
  readonly open: AccountTotals['open'] | null;
  /** The report is of a day, not of a period. */
  readonly isOnDay?: boolean;
  readonly isCompared?: boolean;
  /** Where the screen shows a part only: reads all that is to be saved. */
  readonly loadWhole?: () => Promise<ReportTable>;
}) {
  const { period, comparison, set } = useReportPeriod();
  return (
    <header className="report-bar">
      {!isOnDay && (
        <DateField
          labelled="beside"
          isNeeded
          label={t`From`}
          value={period.from}
          onChange={(from) => set({ from })}
        />
      )}
      <DateField
        labelled="beside"
        isNeeded
        label={isOnDay ? t`On` : t`To`}
        value={period.to}
        onChange={(to) => set({ to })}
      />
      {isCompared && (
        <Picker
          label={t`Compared with`}
          value={comparison}
          all={null}
          choices={Object.entries(comparisons)}
          onChange={(compared) => set({ compared: compared ?? 'none' })}
        />
      )}
      <OpenLines open={open} />
      <SaveWays table={table} {...(loadWhole ? { loadWhole } : {})} />
    </header>
  );
}
