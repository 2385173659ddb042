import { t } from '@zubrell/core/words/t';
import { useNavigate } from 'react-router';
import { linesApi } from '../../api/lines.ts';
import { toast } from '../../app/toast.ts';
import { useBooks } from '../../app/useBooks.ts';
import type { DeskRow } from './rows.ts';
import { useDeskScope } from './useDeskScope.ts';

/** Opens the pairing view for a line, for ticked lines, or for the one line of a stack. */
export function useOpenPairing(): (row: DeskRow | null) => void {
  const { booksId } = useBooks();
  const { lane, scope } = useDeskScope();
  const navigate = useNavigate();
  const [fetchLines] = linesApi.useLazyStackLinesQuery();

  async function linesOf(row: DeskRow): Promise<readonly string[]> {
    if (row.kind === 'line') return row.line.decision === null ? [row.id] : [];
    if (row.kind === 'lane' || lane === 'decided') return [];
    if (row.kind === 'ticked') return row.lineIds;
    const { grouping, key, direction, count } = row.stack;
    if (count > 1) return [];
    const stack = { grouping, key, direction };
    const { data } = await fetchLines({ booksId, ...scope, lane, ...stack }, true);
    return data?.lines.map(({ id }) => id) ?? [];
  }

  return (row) => {
    if (row === null) return;
    void linesOf(row).then((ids) => {
      if (ids.length === 0) {
        toast(t`Open the stack and choose a line, or tick some, to pair them.`);
        return;
      }
      const query = new URLSearchParams(ids.map((id) => ['line', id]));
      void navigate(`/books/${booksId}/desk/pairing?${query}`);
    });
  };
}
