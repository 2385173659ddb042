import { addDays } from '@zubrell/core/dates/calendarDate';
import type { Account, BankRecords } from '@zubrell/practice-bank/records';
import { demoToday, firstMonth } from './files.ts';
import { larkmoor } from './larkmoor.ts';
import { makeLines } from './makeLines.ts';

/** The made-up bank of the demo. */
export const practiceBankName = 'Wick & Alder';
/** The bank knows what is to come up to this month. */
const BANK_TO = '2026-05';
/** Card payments are announced so many days before they are booked. */
const ANNOUNCED_DAYS = 2;
/** The consents that the demo begins with: one that holds, one that has run out. */
export const practiceConsents = {
  current: { token: 'demo-consent', accounts: ['everyday', 'taxPot'], expires: '2026-06-30' },
  expired: { token: 'demo-consent-of-january', accounts: ['card'], expires: '2026-04-05' },
} as const;
const USER = 'mo';

/** What the practice bank knows: Larkmoor's accounts, with the same lines as its files. */
export function practiceRecords(): BankRecords {
  const lines = makeLines(larkmoor, firstMonth, BANK_TO);
  const accounts = larkmoor.bankAccounts.flatMap(
    ({ key, name, number, kind, opening }): Account[] => {
      if (number === null || kind === 'cash') return [];
      const items = lines
        .filter(({ bank }) => bank === key)
        .map(({ id, date, amount, wording, reference }) => ({
          id,
          date,
          amount,
          wording,
          reference,
          announced: amount < 0 && date > demoToday ? addDays(date, -ANNOUNCED_DAYS) : null,
          announcedAmount: null,
        }));
      const format = kind === 'savings' ? 'ofx' : 'camt053';
      return [{ id: key, name, number, kind, currency: larkmoor.currency, opening, format, items }];
    },
  );
  return {
    bankName: practiceBankName,
    customers: [{ user: USER, secret: 'clay and glaze', name: 'Larkmoor Kiln Works', accounts }],
    consents: Object.values(practiceConsents).map(({ token, accounts: ids, expires }) => ({
      token,
      user: USER,
      accountIds: [...ids],
      expires,
    })),
  };
}
