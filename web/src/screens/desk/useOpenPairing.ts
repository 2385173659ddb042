import { t } from '@zubrell/core/words/t';
import { useNavigate } from 'react-router';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import type { DeskRow } from './rows.ts';
import { useDeskScope } from './useDeskScope.ts';
import { useStackLines } from './useStackLines.ts';

/** Opens the pairing view for a line, for ticked lines, or for the one line of a stack. */
export function useOpenPairing(): (row: DeskRow | null) => void {
  const { booksId } = useBooks();
  const { lane } = useDeskScope();
  const navigate = useNavigate();
  const linesOfStack = useStackLines();

  /** Null where they can't be had, which has been said. */
  async function linesOf(row: DeskRow): Promise<readonly string[] | null> {
    if (row.kind === 'line') return row.line.decision === null ? [row.id] : [];
    if (row.kind === 'lane' || lane === 'decided') return [];
    if (row.kind === 'ticked') return row.lineIds;
    if (row.stack.count > 1) return [];
    const lines = await linesOfStack(row.stack, true);
    return lines?.map(({ id }) => id) ?? null;
  }

  return (row) => {
    if (row === null) return;
    void linesOf(row).then((ids) => {
      if (ids === null) return;
      if (ids.length === 0) {
        toast(t`Open the stack and choose a line, or tick some, to pair them.`);
        return;
      }
      const query = new URLSearchParams(ids.map((id) => ['line', id]));
      void navigate(`/books/${booksId}/desk/pairing?${query}`);
    });
  };
}
