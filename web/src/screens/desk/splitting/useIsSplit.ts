import { useAppSelector } from '../../../app/store.ts';
import type { DeskRow } from '../rows.ts';

/** A row whose coding can be split. */
export type SplitRow = Extract<DeskRow, { kind: 'line' | 'stack' }>;

/** Whether a row is open, and goes to several accounts as it stands. */
export function useIsSplit(row: DeskRow | null): boolean {
  const typed = useAppSelector((state) => (row ? state.desk.edits[row.id] : undefined));
  if (row?.kind !== 'line' && row?.kind !== 'stack') return false;
  if (row.kind === 'line' && row.line.decision !== null) return false;
  const { draft, proposal } = row.kind === 'line' ? row.line : row.stack;
  if (typed) return typed.parts !== null;
  if (draft) return draft.parts !== null;
  return proposal?.kind === 'post' && proposal.coding.parts.length > 1;
}
