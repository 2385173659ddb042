import type { DraftCoding } from '@zubrell/contract/coding';
import { useAppSelector } from '../../app/store.ts';
import { type DeskRow, rowCoding, tickState } from './rows.ts';

/** What stands in a row's fields; only this row is drawn anew when it is typed into. */
export function useRowCoding(row: DeskRow): DraftCoding {
  const typed = useAppSelector((state) => state.desk.edits[row.id]);
  return typed ?? rowCoding(row, {});
}

/** Whether a row is ticked, wholly or in part. */
export function useTickState(row: DeskRow): 'on' | 'some' | 'off' {
  return useAppSelector((state) => tickState(row, state.desk.ticked));
}
