import type { Pattern } from './business.ts';

const MARCH = '2026-03';

/** One line of March 2026. */
function once(
  day: number,
  amount: number,
  wording: string,
  truth: Pick<Pattern, 'payee' | 'payeeKind' | 'account' | 'tax'>,
): Pattern {
  return {
    bank: 'everyday',
    ...truth,
    perMonth: [1, 1],
    day: [day, day],
    amount: [amount, amount],
    from: MARCH,
    to: MARCH,
    wording: () => wording,
  };
}

const sale = (payee: string) =>
  ({ payee, payeeKind: 'customer', account: '4010', tax: '20 %' }) as const;
const cost = (payee: string, account: string, tax = '20 %') =>
  ({ payee, payeeKind: 'supplier', account, tax }) as const;

/** Lines of March 2026 that stand in the books already, as `seedAttachments.ts` enters them. */
export const BOOKED_BEFORE: readonly Pattern[] = [
  once(23, 64_000, 'FPI NETTLE THREAD LTD INV 1042 AND 1039', sale('Nettle and Thread')),
  once(19, 148_000, 'FT HARROWGATE TABLE SHOP 771204', sale('Harrowgate Table Shop')),
  once(4, 26_800, 'FT HARROWGATE TABLE SHOP 1098', sale('Harrowgate Table Shop')),
  once(12, -26_800, 'RETURNED UNPAID HARROWGATE TABLE SHOP 1098', sale('Harrowgate Table Shop')),
  once(18, 44_670, 'HEDGEROW CARDS PAYOUT FAIR 77310442', sale('Hedgerow Cards')),
  once(11, -12_840, 'CHEQUE 000416', cost('Tallow Press', '5030')),
  once(20, -9_600, 'FT THORNBY WHEEL REPAIR', cost('Thornby Wheel Repair', '6090')),
  once(24, -31_240, 'PENHALLOW CLAY SUP 2093 GARRAN', cost('Penhallow Clay', '5020')),
  once(27, -28_950, 'DD GORSEFIELD GAS 300417725', cost('Gorsefield Gas', '5010', '5 %')),
  once(31, -18_000, 'CARD PAYMENT STUDIO CARD 0916', {
    payee: null,
    account: 'bank:card',
    tax: null,
  }),
];
