import { type ReportTable, reportCsv, reportXlsx } from '@zubrell/core/reports/reportTable';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import { toast } from 'sonner';
import { shownProblem } from '../../app/problem.ts';
import { useBooks } from '../../app/useBooks.ts';
import { useExport } from '../../app/useExport.ts';

/** Ways to save and print a report; `table` is what is saved, null while it is read. */
export function SaveWays({ table }: { readonly table: ReportTable | null }) {
  const { setup } = useBooks();
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
    <span className="ways">
      <Button
        variant="plain"
        disabled={table === null}
        onClick={() => table && void save('report', reportCsv(table), fileName('csv'))}
      >
        Save CSV
      </Button>
      <Button variant="plain" disabled={table === null || isSaving} onClick={() => void saveXlsx()}>
        Save XLSX
      </Button>
      <Button variant="plain" disabled={table === null} onClick={() => window.print()}>
        Print
      </Button>
    </span>
  );
}
