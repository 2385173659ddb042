import { randomUUID } from 'node:crypto';
import { addDays, type CalendarDate } from '@zubrell/core/dates/calendarDate';
import { fail } from '@zubrell/core/errors';
import { type BankLine, type BankStatement, bankLine } from '@zubrell/core/formats/bankFile';
import { writeCamt } from '@zubrell/core/formats/write/writeCamt';
import { parseAmount } from '@zubrell/core/money/parseAmount';
import { Agent, fetch, type RequestInit, type Response } from 'undici';
import { z } from 'zod';
import type { BankConnector } from './connector.ts';

/** A bank that is spoken to by the banks' open account-information interface. */
export interface StandardBank {
  readonly bankName: string;
  /** Where its interface begins: `v1/consents` and the others follow. @example 'https://bank.example/psd2/' */
  readonly url: string;
  /** What this server shows that it may ask, in PEM; banks want a certificate for that. */
  readonly certificate?: string;
  readonly key?: string;
  /** Who the bank's own certificate is from, where that is not known everywhere. */
  readonly authority?: string;
}

/** How long a bank may take to answer, in milliseconds. */
const PATIENCE = 20_000;
/** A consent is asked for so many days, and to be used so often in one. */
const CONSENT_DAYS = 90;
const A_DAY = 4;
/** No answer has more pages: one that goes on for ever is none. */
const MOST_PAGES = 2_000;
/** What the customer is sent back with: the consent has a name already. */
const GIVEN = 'given';

const Asked = z.object({
  consentId: z.string().min(1),
  _links: z.object({ scaRedirect: z.object({ href: z.string() }) }),
});
const Status = z.object({ consentStatus: z.string(), validUntil: z.iso.date().optional() });
const Account = z.object({
  resourceId: z.string(),
  iban: z.string().optional(),
  bban: z.string().optional(),
  maskedPan: z.string().optional(),
  name: z.string().optional(),
  product: z.string().optional(),
});
const Amount = z.object({ currency: z.string(), amount: z.string() });
const Transaction = z.object({
  transactionId: z.string().optional(),
  entryReference: z.string().optional(),
  bookingDate: z.iso.date().optional(),
  valueDate: z.iso.date().optional(),
  transactionAmount: Amount,
  creditorName: z.string().optional(),
  debtorName: z.string().optional(),
  remittanceInformationUnstructured: z.string().optional(),
  remittanceInformationUnstructuredArray: z.array(z.string()).optional(),
  additionalInformation: z.string().optional(),
  endToEndId: z.string().optional(),
});
const Balance = z.object({
  balanceType: z.string(),
  balanceAmount: Amount,
  referenceDate: z.iso.date().optional(),
});
const Page = z.object({
  transactions: z.object({
    booked: z.array(Transaction).default([]),
    pending: z.array(Transaction).default([]),
    _links: z.object({ next: z.object({ href: z.string() }).optional() }).optional(),
  }),
  balances: z.array(Balance).default([]),
});

/** What the interface's own error codes are for whoever reads of them; others go by the status. */
const CODES = new Map([
  ['CONSENT_EXPIRED', 'FEED_CONSENT_EXPIRED'],
  ['CONSENT_INVALID', 'FEED_CONSENT_EXPIRED'],
  ['CONSENT_UNKNOWN', 'FEED_CONSENT_EXPIRED'],
  ['TOKEN_EXPIRED', 'FEED_CONSENT_EXPIRED'],
  ['RESOURCE_UNKNOWN', 'FEED_ACCOUNT_GONE'],
  ['ACCESS_EXCEEDED', 'FEED_TOO_MANY'],
] as const);
const Trouble = z.object({ tppMessages: z.array(z.object({ code: z.string() })).min(1) });

/**
 * Speaks the banks' open account-information interface: a real bank needs an address and certificates, and no program
 * of its own.
 *
 * @param today by which consents are asked for
 * @param patience how long the bank may take to answer, in milliseconds
 * @see NextGenPSD2 XS2A Framework, Implementation Guidelines 1.3, sections 5 and 6
 */
export function accountInformationConnector(
  { bankName, url, certificate, key, authority }: StandardBank,
  today: () => CalendarDate,
  patience = PATIENCE,
): BankConnector {
  const bank = bankName;
  const base = url.endsWith('/') ? url : `${url}/`;
  const dispatcher = new Agent({
    connect: {
      ...(certificate === undefined ? {} : { cert: certificate }),
      ...(key === undefined ? {} : { key }),
      ...(authority === undefined ? {} : { ca: authority }),
    },
  });

  async function call(
    place: string,
    init: RequestInit & { consent?: string } = {},
  ): Promise<unknown> {
    const { consent, ...rest } = init;
    const response = await fetch(placeAt(place), {
      ...rest,
      dispatcher,
      redirect: 'error',
      signal: AbortSignal.timeout(patience),
      headers: {
        accept: 'application/json',
        'x-request-id': randomUUID(),
        ...(consent === undefined ? {} : { 'consent-id': consent }),
        ...(rest.headers as Record<string, string> | undefined),
      },
    }).catch(() => fail('FEED_BANK_DOWN', { bank }));
    const body = await response.text().catch(() => fail('FEED_BANK_DOWN', { bank }));
    return response.ok ? parsed(body) : refused(response, body);
  }

  /** An address at the bank, and at no other: what it links to is followed there alone. */
  function placeAt(place: string): URL {
    const found = new URL(place, base);
    if (found.origin === new URL(base).origin) return found;
    return fail('FEED_GARBAGE', { bank, detail: 'it links to another server' });
  }

  function parsed(body: string): unknown {
    try {
      return JSON.parse(body);
    } catch {
      return fail('FEED_GARBAGE', { bank, detail: 'its answer can’t be read' });
    }
  }

  function refused({ status, headers }: Response, body: string): never {
    const said = Trouble.safeParse(jsonOrNull(body)).data?.tppMessages[0]?.code ?? '';
    const byCode = [...CODES].find(([code]) => code === said)?.[1];
    const code =
      byCode ??
      (status === 401 ? 'FEED_CONSENT_EXPIRED' : status === 404 ? 'FEED_ACCOUNT_GONE' : null);
    if (code === 'FEED_TOO_MANY' || status === 429) {
      const seconds = Number(headers.get('retry-after')) || 600;
      return fail('FEED_TOO_MANY', { bank, minutes: Math.ceil(seconds / 60) });
    }
    if (code === 'FEED_ACCOUNT_GONE') return fail(code, { bank, name: 'this account' });
    if (code !== null) return fail(code, { bank });
    return fail(status >= 500 ? 'FEED_BANK_DOWN' : 'FEED_REFUSED', { bank });
  }

  function as<T>(schema: z.ZodType<T>, answer: unknown): T {
    const found = schema.safeParse(answer);
    if (found.success) return found.data;
    return fail('FEED_GARBAGE', { bank, detail: 'its answer can’t be read' });
  }

  return {
    bankName,
    async askConsent(state, returnTo) {
      const back = (values: Record<string, string>) => {
        const place = new URL(returnTo);
        for (const [name, value] of Object.entries({ state, ...values })) {
          place.searchParams.set(name, value);
        }
        return place.href;
      };
      const answer = await call('v1/consents', {
        method: 'POST',
        headers: {
          'content-type': 'application/json',
          'tpp-redirect-preferred': 'true',
          'tpp-redirect-uri': back({ code: GIVEN }),
          'tpp-nok-redirect-uri': back({ error: 'refused' }),
        },
        body: JSON.stringify({
          access: { allPsd2: 'allAccounts' },
          recurringIndicator: true,
          validUntil: addDays(today(), CONSENT_DAYS),
          frequencyPerDay: A_DAY,
          combinedServiceIndicator: false,
        }),
      });
      const { consentId, _links } = as(Asked, answer);
      return { page: placeAt(_links.scaRedirect.href).href, name: consentId };
    },
    async finishConsent(_code, name) {
      if (name === null) return fail('FEED_REFUSED', { bank });
      const answer = await call(`v1/consents/${encodeURIComponent(name)}`);
      const { consentStatus, validUntil } = as(Status, answer);
      if (consentStatus !== 'valid') return fail('FEED_REFUSED', { bank });
      return { token: name, expires: validUntil ?? null };
    },
    async accounts(consent) {
      const { accounts } = as(
        z.object({ accounts: z.array(Account) }),
        await call('v1/accounts', { consent }),
      );
      return accounts.map(({ resourceId, iban, bban, maskedPan, name, product }) => {
        const number = iban ?? bban ?? maskedPan ?? null;
        return { id: resourceId, name: name ?? product ?? number ?? resourceId, number };
      });
    },
    async fetchLines(consent, accountId, from, to) {
      const query = new URLSearchParams({
        dateFrom: from,
        dateTo: to,
        bookingStatus: 'both',
        withBalance: 'true',
      });
      const path = `v1/accounts/${encodeURIComponent(accountId)}/transactions?${query}`;
      const pages: z.infer<typeof Page>[] = [];
      for (let next: string | undefined = path; next !== undefined; ) {
        if (pages.length === MOST_PAGES) fail('FEED_GARBAGE', { bank, detail: 'it has no end' });
        const page: z.infer<typeof Page> = as(Page, await call(next, { consent }));
        pages.push(page);
        next = page.transactions._links?.next?.href;
      }
      const statement = statementOf(pages, { bank, from, to });
      return { bytes: once(writeCamt([statement], statement.currency ?? 'EUR')), callsLeft: null };
    },
  };
}

function jsonOrNull(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

async function* once(text: string): AsyncGenerator<Uint8Array> {
  yield new TextEncoder().encode(text);
}

/** All pages as one statement of an account: what is booked, what is announced, and the balances that the bank states. */
function statementOf(
  pages: readonly z.infer<typeof Page>[],
  {
    bank,
    from,
    to,
  }: { readonly bank: string; readonly from: CalendarDate; readonly to: CalendarDate },
): BankStatement {
  const minor = ({ amount, currency }: z.infer<typeof Amount>): number => {
    try {
      return parseAmount(amount, '.', currency);
    } catch {
      return fail('FEED_GARBAGE', { bank, detail: 'an amount can’t be read' });
    }
  };
  const balances = pages.flatMap((page) => page.balances);
  const balance = (type: string) => balances.find(({ balanceType }) => balanceType === type);
  const [opening, closing] = [balance('openingBooked'), balance('closingBooked')];
  const lines = pages.flatMap(({ transactions: { booked, pending } }) => [
    ...booked.map((each) => lineOf(each, minor(each.transactionAmount), to, false)),
    ...pending.map((each) => lineOf(each, minor(each.transactionAmount), to, true)),
  ]);
  const [first] = pages.flatMap(({ transactions: { booked, pending } }) => [...booked, ...pending]);
  return {
    account: null,
    bank: null,
    kind: null,
    currency: (first?.transactionAmount ?? closing?.balanceAmount)?.currency ?? null,
    from,
    to,
    opening: opening ? minor(opening.balanceAmount) : null,
    closing: closing ? minor(closing.balanceAmount) : null,
    closingDate: closing ? (closing.referenceDate ?? to) : null,
    dayBalances: [],
    lines,
  };
}

function lineOf(
  transaction: z.infer<typeof Transaction>,
  amount: number,
  to: CalendarDate,
  isPending: boolean,
): BankLine {
  const { creditorName, debtorName, remittanceInformationUnstructuredArray: parts } = transaction;
  const payee = (amount < 0 ? creditorName : debtorName) ?? null;
  const said =
    transaction.remittanceInformationUnstructured ??
    parts?.join(' ') ??
    transaction.additionalInformation ??
    '';
  return bankLine({
    place: 0,
    date: transaction.bookingDate ?? transaction.valueDate ?? to,
    valueDate: transaction.valueDate ?? null,
    amount,
    description: said || (payee ?? ''),
    payee,
    bankId: transaction.transactionId ?? transaction.entryReference ?? null,
    reference: transaction.endToEndId ?? null,
    isPending,
  });
}
