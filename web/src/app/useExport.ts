import type { Exported } from '@zubrell/contract/audit';
import { auditApi } from '../api/audit.ts';
import { shownProblem } from './problem.ts';
import { saveText } from './saveText.ts';
import { toast } from './toast.ts';
import { useBooksId } from './useBooks.ts';

const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

/** Saves what comes from the books where the browser saves, once that is on record. */
export function useExport(): (
  what: Exported['what'],
  content: string | Uint8Array,
  fileName: string,
) => Promise<void> {
  const booksId = useBooksId();
  const [record] = auditApi.useRecordExportMutation();
  return async (what, content, fileName) => {
    const { error } = await record({ booksId, what });
    if (error) toast.error(shownProblem(error).message);
    else saveText(content, fileName, typeof content === 'string' ? 'text/csv' : XLSX);
  };
}
