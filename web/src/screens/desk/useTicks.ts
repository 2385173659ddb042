import { api } from '../../app/api.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { useBooks } from '../../app/useBooks.ts';
import { linesTicked, ticksCleared } from './deskSlice.ts';
import type { DeskRow } from './rows.ts';
import { useDeskScope } from './useDeskScope.ts';

/** Ticking lines and stacks, to code them together. */
export interface Ticks {
  readonly count: number;
  readonly stateOf: (row: DeskRow) => 'on' | 'some' | 'off';
  readonly toggle: (row: DeskRow) => Promise<void>;
  readonly clear: () => void;
}

/** The ticks of the Desk; what was posted or excluded loses its tick. */
export function useTicks(openStack: string | null): Ticks {
  const { booksId } = useBooks();
  const { lane, scope } = useDeskScope();
  const dispatch = useAppDispatch();
  const ticked = useAppSelector((state) => state.desk.ticked);
  const [fetchLines] = api.useLazyStackLinesQuery();

  function stateOf(row: DeskRow): 'on' | 'some' | 'off' {
    if (row.kind !== 'stack') return row.id in ticked ? 'on' : 'off';
    const own = Object.values(ticked).filter(({ stack }) => stack === row.id).length;
    return own === 0 ? 'off' : own < row.stack.count ? 'some' : 'on';
  }

  return {
    count: Object.keys(ticked).length,
    stateOf,
    clear: () => dispatch(ticksCleared()),
    toggle: async (row) => {
      const isOn = stateOf(row) !== 'on';
      if (row.kind === 'line') {
        const stack = openStack ?? '';
        const lines = [{ id: row.id, amount: row.line.amount, stack }];
        dispatch(linesTicked({ lines, isOn }));
      } else if (row.kind === 'stack' && lane !== 'decided') {
        const { grouping, key, direction } = row.stack;
        const stack = { grouping, key, direction };
        const { data } = await fetchLines({ booksId, scope, lane, stack }, true);
        const lines = (data?.lines ?? []).map(({ id, amount }) => ({ id, amount, stack: row.id }));
        dispatch(linesTicked({ lines, isOn }));
      }
    },
  };
}
