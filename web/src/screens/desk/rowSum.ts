import type { DeskRow } from './rows.ts';

/** How many lines a row stands for, and what they come to. */
export function rowSum(row: DeskRow): { readonly total: number; readonly count: number } {
  switch (row.kind) {
    case 'stack':
      return { total: row.stack.total, count: row.stack.count };
    case 'ticked':
      return { total: row.total, count: row.lineIds.length };
    case 'lane':
      return { total: row.total, count: row.count };
    case 'line':
      return { total: row.line.amount, count: 1 };
  }
}
