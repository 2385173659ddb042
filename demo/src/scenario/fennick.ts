import type { Business } from './business.ts';

/** Fennick Canoe Hire: a small second client. */
export const fennick: Business = {
  name: 'Fennick Canoe Hire',
  currency: 'EUR',
  seed: 77_120,
  accounts: [{ code: '4040', name: 'Canoe hire', type: 'income', parent: '4000' }],
  bankAccounts: [
    {
      key: 'current',
      name: 'Hire account',
      kind: 'current',
      number: '41 0087 2215',
      opening: 184_250,
      format: 'ofx2',
    },
  ],
  patterns: [
    {
      bank: 'current',
      payee: 'Hedgerow Cards',
      payeeKind: 'customer',
      account: '4040',
      tax: '20 %',
      perMonth: [10, 16],
      amount: [3_000, 21_000],
      wording: (random) => `HEDGEROW CARDS PAYOUT ${random.between(10_000_000, 99_999_999)}`,
    },
    {
      bank: 'current',
      payee: 'Reedham Boatyard',
      payeeKind: 'supplier',
      account: '6040',
      tax: '20 %',
      perMonth: [1, 1],
      day: [1, 2],
      amount: [-42_000, -42_000],
      wording: () => 'SO REEDHAM BOATYARD MOORING',
    },
    {
      bank: 'current',
      payee: 'Willowbend Repairs',
      payeeKind: 'supplier',
      account: '6090',
      tax: '20 %',
      perMonth: [1, 3],
      amount: [-15_500, -3_800],
      wording: (random) => `WILLOWBEND REPAIRS ${random.between(100, 999)}`,
    },
    {
      bank: 'current',
      payee: 'Wick & Alder',
      payeeKind: 'other',
      account: '6900',
      tax: 'Exempt',
      perMonth: [1, 1],
      amount: [-850, -850],
      wording: () => 'ACCOUNT FEE WICK ALDER',
    },
  ],
};
