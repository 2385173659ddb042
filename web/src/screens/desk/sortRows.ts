import type { DeskLine, Stack } from '@zubrell/contract/desk';

/** By what stacks and lines can be sorted; `usual` is as the lane has them. */
export const sortKeys = ['usual', 'date', 'name', 'count', 'amount'] as const;
export type SortKey = (typeof sortKeys)[number];

/** An order of the list. */
export interface Sorting {
  readonly by: SortKey;
  /** Whether the oldest, last in the alphabet, fewest or smallest come first. */
  readonly isTurned: boolean;
}

/** The order that an address says. @example sortingOf('amount-turned') // { by: 'amount', isTurned: true } */
export function sortingOf(text: string | null): Sorting {
  const [name, turned] = (text ?? '').split('-');
  const by = sortKeys.find((key) => key === name) ?? 'usual';
  return { by, isTurned: by !== 'usual' && turned === 'turned' };
}

/** As the address says it; null for the usual order. */
export function sortingText({ by, isTurned }: Sorting): string | null {
  if (by === 'usual') return null;
  return isTurned ? `${by}-turned` : by;
}

/** The order after the head of a column was pressed: by it, the other way round, as usual. */
export function nextSorting(now: Sorting, by: SortKey): Sorting {
  if (now.by !== by) return { by, isTurned: false };
  return now.isTurned ? { by: 'usual', isTurned: false } : { by, isTurned: true };
}

/** Stacks in an order: the newest, largest, fullest or first in the alphabet first. */
export function sortStacks(stacks: readonly Stack[], { by, isTurned }: Sorting): readonly Stack[] {
  if (by === 'usual') return stacks;
  return sorted(stacks, isTurned, (a, b) => {
    switch (by) {
      case 'date':
        return compare(b.lastDate, a.lastDate);
      case 'name':
        return a.title.localeCompare(b.title);
      case 'count':
        return b.count - a.count;
      case 'amount':
        return Math.abs(b.total) - Math.abs(a.total);
    }
  });
}

/** Lines of a stack in an order; their number says nothing about them. */
export function sortLines(
  lines: readonly DeskLine[],
  { by, isTurned }: Sorting,
): readonly DeskLine[] {
  if (by === 'usual' || by === 'count') return lines;
  return sorted(lines, isTurned, (a, b) => {
    switch (by) {
      case 'date':
        return compare(b.date, a.date);
      case 'name':
        return a.description.localeCompare(b.description);
      case 'amount':
        return Math.abs(b.amount) - Math.abs(a.amount);
    }
  });
}

function sorted<Row>(
  rows: readonly Row[],
  isTurned: boolean,
  order: (a: Row, b: Row) => number,
): readonly Row[] {
  return [...rows].sort((a, b) => (isTurned ? order(b, a) : order(a, b)));
}

const compare = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);
