import type { AccountTotals } from '@zubrell/contract/reports';
import { type ReportTable, reportCsv, reportXlsx } from '@zubrell/core/reports/reportTable';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { shownProblem } from '../../app/problem.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useExport } from '../../app/useExport.ts';
import { Picker } from '../../ui/Picker.tsx';
import { comparisons } from './reportPeriod.ts';
import { useReportPeriod } from './useReportPeriod.ts';

/** The period of a report, what it is compared with, what is still open in it, and ways to save it. */
export function ReportBar({
  table,
  open,
  isOnDay = false,
  isCompared = true,
}: {
  /** What is saved; null while it is read. */
  readonly table: ReportTable | null;
  readonly open: AccountTotals['open'] | null;
  /** The report is of a day, not of a period. */
  readonly isOnDay?: boolean;
  readonly isCompared?: boolean;
}) {
  const { booksId, amount, setup } = useBooks();
  const { period, comparison, set } = useReportPeriod();
  const save = useExport();
  const [isSaving, setIsSaving] = useState(false);
  const fileName = (end: string) => `${table?.title} of ${setup.books.name}.${end}`;

  async function saveXlsx(): Promise<void> {
    if (!table) return;
    setIsSaving(true);
    try {
      await save('report', await reportXlsx(table), fileName('xlsx'));
    } catch (error) {
      toast.error(shownProblem(error).message);
    }
    setIsSaving(false);
  }

  return (
    <header className="report-bar">
      {!isOnDay && <DayField label="From" value={period.from} onChange={(from) => set({ from })} />}
      <DayField label={isOnDay ? 'On' : 'To'} value={period.to} onChange={(to) => set({ to })} />
      {isCompared && (
        <Picker
          id="report-compared"
          label="Compared with"
          value={comparison}
          all={null}
          choices={Object.entries(comparisons)}
          onChange={(compared) => set({ compared: compared ?? 'none' })}
        />
      )}
      {open !== null && open.count > 0 && (
        <Link className="doubt" to={`/books/${booksId}/desk`}>
          {open.count === 1 ? '1 open line' : `${open.count} open lines`}, {amount(open.amount)}
        </Link>
      )}
      <span className="ways">
        <Button
          variant="plain"
          disabled={table === null}
          onClick={() => table && void save('report', reportCsv(table), fileName('csv'))}
        >
          Save CSV
        </Button>
        <Button
          variant="plain"
          disabled={table === null || isSaving}
          onClick={() => void saveXlsx()}
        >
          Save XLSX
        </Button>
        <Button variant="plain" disabled={table === null} onClick={() => window.print()}>
          Print
        </Button>
      </span>
    </header>
  );
}

function DayField({
  label,
  value,
  onChange,
}: {
  readonly label: string;
  readonly value: string;
  readonly onChange: (day: string) => void;
}) {
  return (
    <label className="day-field">
      <span className="quiet">{label}</span>
      <input
        key={value}
        type="date"
        className="form-control"
        defaultValue={value}
        // Only a whole date is taken: years pass through 0002 and 0020 as they are typed.
        onBlur={({ target }) => {
          if (target.value !== '' && target.value !== value) onChange(target.value);
        }}
      />
    </label>
  );
}
