import { type ReportTable, reportCsv, reportXlsx } from '@zubrell/core/reports/reportTable';
import { t } from '@zubrell/core/words/t';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { shownProblem } from '../../app/problem.ts';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useExport } from '../../app/useExport.ts';

/** Ways to save and print a report. */
export function SaveWays({
  table,
  loadWhole,
}: {
  /** What is shown, and saved; null while it is read. */
  readonly table: ReportTable | null;
  /** Where the screen shows a part only: reads all that is to be saved. */
  readonly loadWhole?: () => Promise<ReportTable>;
}) {
  const { setup } = useBooks();
  const save = useExport();
  const [isSaving, setIsSaving] = useState(false);

  async function saveAs(ending: 'csv' | 'xlsx'): Promise<void> {
    if (!table) return;
    setIsSaving(true);
    try {
      const whole = (await loadWhole?.()) ?? table;
      const data = ending === 'csv' ? reportCsv(whole) : await reportXlsx(whole);
      await save('report', data, t`${table.title} of ${setup.books.name}.${ending}`);
    } catch (error) {
      toast.error(shownProblem(error).message);
    }
    setIsSaving(false);
  }

  return (
    <span className="ways">
      {(['csv', 'xlsx'] as const).map((ending) => (
        <Button
          key={ending}
          variant="plain"
          disabled={table === null || isSaving}
          onClick={() => void saveAs(ending)}
        >
          {t`Save ${ending.toUpperCase()}`}
        </Button>
      ))}
      <Button variant="plain" disabled={table === null} onClick={() => window.print()}>
        {t`Print`}
      </Button>
    </span>
  );
}
