import { addDays } from '@zubrell/core/dates/calendarDate';
import { buildBank } from '@zubrell/practice-bank/app';
import { openBank } from '@zubrell/practice-bank/bank';
import type { Account } from '@zubrell/practice-bank/records';
import { machineClock } from '@zubrell/server/clock';
import { BANK_NAME } from './brokenServers.ts';

/** A bank that is there all the time, whose only account gets new lines. */
export interface FaultBank {
  readonly url: string;
  /** Books some lines. */
  book(count: number, no: number): void;
  /** Answers a request for a consent at the bank's own pages, as its customer. @returns what comes back */
  allow(page: string): Promise<{ readonly state: string | null; readonly code: string | null }>;
  close(): Promise<void>;
}

/** The number by which the bank account in the books is known as the fed one. */
export const FED_NUMBER = '8802';

/** Opens the bank. */
export async function openFaultBank(): Promise<FaultBank> {
  const today = machineClock.today();
  const account: Account = {
    id: 'studio',
    name: 'Studio card',
    number: FED_NUMBER,
    kind: 'current',
    currency: 'EUR',
    opening: 0,
    format: 'camt053',
    items: [],
  };
  const customer = { user: 'mo', secret: 'clay', name: 'Mo Oakes', accounts: [account] };
  const bank = openBank({ bankName: BANK_NAME, customers: [customer], consents: [] }, today);
  const app = buildBank(bank, { slowFor: 1_000 });
  const url = await app.listen({ port: 0, host: '127.0.0.1' });
  const form = (values: Record<string, string>): RequestInit => ({
    method: 'POST',
    redirect: 'manual',
    body: new URLSearchParams(values),
  });
  return {
    url,
    book(count, no) {
      for (let at = 0; at < count; at += 1) {
        account.items.push({
          id: `F${no}-${at}`,
          date: addDays(today, -1),
          amount: -(100 * (no + 1) + at),
          wording: `SALTMARSH MARKET ${no}`,
          announced: null,
          announcedAmount: null,
          reference: null,
        });
      }
    },
    async allow(page) {
      await fetch(`${page}/sign-in`, form({ user: customer.user, secret: customer.secret }));
      const back = await fetch(`${page}/answer`, form({ account: account.id, answer: 'allow' }));
      const { searchParams } = new URL(back.headers.get('location') ?? '');
      return { state: searchParams.get('state'), code: searchParams.get('code') };
    },
    close: () => app.close(),
  };
}
