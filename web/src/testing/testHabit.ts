import type { Habit } from '@zubrell/contract/habits';

/** What was learned of five lines without a payee. */
export const testHabit = (change: Partial<Habit> = {}): Habit => ({
  key: '· TIDEMARK FRT',
  payeeId: null,
  name: 'Tidemark Freight',
  stems: ['TIDEMARK FRT'],
  accounts: [{ accountId: '6010', times: 5 }],
  times: 5,
  separators: [],
  kept: 0,
  looked: 0,
  unread: 0,
  open: 0,
  lastDate: null,
  markId: null,
  ...change,
});
