import type { PairingView } from '@zubrell/contract/pairing';
import { testBill } from './testBill.ts';

/** What a line of −81.00 could be: two bills that add up to it, and one that is nearly it. */
export const testPairing = (change: Partial<PairingView> = {}): PairingView => ({
  lines: [
    {
      id: 'line',
      date: '2026-03-09',
      amount: -8_100,
      description: 'TIDEMARK FRT 2093 2094',
      bankAccountId: 'everyday',
      reference: null,
    },
  ],
  proposed: [],
  isCertain: false,
  sets: [],
  fits: [testBill('2093'), testBill('2094')],
  nearMisses: [testBill('2051', { amount: -8_000, likeness: 2 })],
  found: [],
  together: [],
  cancelling: [],
  seenStep: 17,
  ...change,
});
