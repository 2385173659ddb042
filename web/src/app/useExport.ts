import type { Exported } from '@zubrell/contract/audit';
import { toast } from 'sonner';
import { auditApi } from '../api/audit.ts';
import { shownProblem } from './problem.ts';
import { saveText } from './saveText.ts';
import { useBooksId } from './useBooks.ts';

/** Saves what comes from the books where the browser saves, once that is on record. */
export function useExport(): (
  what: Exported['what'],
  text: string,
  fileName: string,
) => Promise<void> {
  const booksId = useBooksId();
  const [record] = auditApi.useRecordExportMutation();
  return async (what, text, fileName) => {
    const { error } = await record({ booksId, what });
    if (error) toast.error(shownProblem(error).message);
    else saveText(text, fileName, 'text/csv');
  };
}
