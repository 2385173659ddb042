import type { PairRow } from '@zubrell/contract/pairing';

/** An open bill that could be paired with, of 40.50; its id is its number. */
export const testBill = (number: string, change: Partial<PairRow> = {}): PairRow => ({
  id: number,
  kind: 'bill',
  date: '2026-03-01',
  dueDate: '2026-03-15',
  amount: -4_050,
  payeeId: 'tidemark',
  payee: 'Tidemark Freight',
  number,
  entryId: `entry of ${number}`,
  side: 'payables',
  note: null,
  original: null,
  pays: [],
  likeness: 4,
  differences: [],
  named: [],
  pairedWith: null,
  ...change,
});
