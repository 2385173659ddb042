import type { LedgerRow } from '@zubrell/contract/ledger';

/** A leg of 48.50 on freight, as a list of entries has it, made from a line of the bank. */
export const testLedgerRow = (change: Partial<LedgerRow> = {}): LedgerRow => ({
  legId: '1',
  entryId: 'entry',
  accountId: '6010',
  date: '2026-03-03',
  bankDate: null,
  turned: 0,
  payeeId: 'tidemark',
  text: 'CRD PUR TIDEMARK FRT',
  otherAccountIds: ['1010'],
  lineCount: 1,
  kind: 'line',
  number: null,
  reference: null,
  method: null,
  note: null,
  lineId: 'line',
  amount: 4_850,
  balance: 4_850,
  own: null,
  ownBalance: null,
  ...change,
});
