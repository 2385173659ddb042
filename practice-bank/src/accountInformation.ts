import type { BankLine } from '@zubrell/core/formats/bankFile';
import { toDecimal } from '@zubrell/core/money/formatAmount';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { z } from 'zod';
import type { Bank } from './bank.ts';
import { wordsPage } from './pages.ts';
import type { Account, Consent } from './records.ts';
import { cutOff } from './report.ts';

/** Where the open account-information interface is served. */
export const STANDARD = '/psd2/';

/** So many transactions are on a page. */
const A_PAGE = 25;
const Day = z.string().regex(/^\d{4}-\d\d-\d\d$/);
const ById = z.object({ id: z.string() });
const Asked = z.object({
  dateFrom: Day,
  dateTo: Day,
  bookingStatus: z.enum(['booked', 'pending', 'both']),
  page: z.coerce.number().int().min(1).default(1),
});
const AskConsent = z.object({
  access: z.object({ allPsd2: z.literal('allAccounts') }),
  recurringIndicator: z.boolean(),
  validUntil: Day,
  frequencyPerDay: z.number().int().min(1),
  combinedServiceIndicator: z.boolean(),
});

/** An error as the interface says it. */
export function tppMessage(code: string) {
  return { tppMessages: [{ category: 'ERROR', code }] };
}

/**
 * The banks' open account-information interface: consents with redirect, accounts, balances, and transactions by date,
 * booked and pending, page by page.
 *
 * @see NextGenPSD2 XS2A Framework, Implementation Guidelines 1.3, sections 5 and 6
 */
export function addAccountInformation(app: FastifyInstance, bank: Bank): void {
  const refuse = (reply: FastifyReply, status: number, code: string) =>
    reply.status(status).send(tppMessage(code));
  const statusOf = (id: string): string | null => {
    if (bank.requestOf(id)) return 'received';
    const consent = bank.answerTo(id);
    if (!consent) return null;
    return bank.consentOf(consent.token) ? 'valid' : 'expired';
  };
  /** The consent that a request shows, where it holds. */
  const shown = (request: FastifyRequest): Consent | null => {
    const consent = bank.answerTo(String(request.headers['consent-id'] ?? ''));
    return consent && bank.consentOf(consent.token);
  };
  const accountOf = (request: FastifyRequest, consent: Consent): Account | null => {
    const { id } = ById.parse(request.params);
    return bank.accountsOf(consent).find((each) => each.id === id) ?? null;
  };

  app.addHook('preHandler', async (request, reply) => {
    const isAsked = request.url.startsWith(STANDARD) && !request.headers['x-request-id'];
    if (isAsked) await refuse(reply, 400, 'FORMAT_ERROR');
  });

  app.post('/psd2/v1/consents', (request, reply) => {
    const wanted = AskConsent.safeParse(request.body);
    const { 'tpp-redirect-uri': allowed, 'tpp-nok-redirect-uri': refused } = request.headers;
    if (!wanted.success || typeof allowed !== 'string') return refuse(reply, 400, 'FORMAT_ERROR');
    const { id } = bank.ask({
      app: 'Zubrell',
      back: (code) => (code === null ? String(refused ?? allowed) : allowed),
    });
    return reply.status(201).send({
      consentStatus: 'received',
      consentId: id,
      _links: {
        scaRedirect: { href: `${request.protocol}://${request.host}/consents/${id}` },
        status: { href: `/psd2/v1/consents/${id}/status` },
      },
    });
  });

  app.get('/psd2/v1/consents/:id', (request, reply) => {
    const { id } = ById.parse(request.params);
    const consentStatus = statusOf(id);
    if (consentStatus === null) return refuse(reply, 403, 'CONSENT_UNKNOWN');
    const validUntil = bank.answerTo(id)?.expires;
    return reply.send({ consentStatus, ...(validUntil === undefined ? {} : { validUntil }) });
  });

  app.get('/psd2/v1/accounts', (request, reply) => {
    const consent = shown(request);
    if (!consent) return refuse(reply, 401, 'CONSENT_EXPIRED');
    const accounts = bank.accountsOf(consent).map(({ id, name, number, currency }) => ({
      resourceId: id,
      bban: number,
      currency,
      name,
    }));
    return reply.send({ accounts });
  });

  app.get('/psd2/v1/accounts/:id/balances', (request, reply) => {
    const consent = shown(request);
    if (!consent) return refuse(reply, 401, 'CONSENT_EXPIRED');
    const account = accountOf(request, consent);
    if (!account) return refuse(reply, 404, 'RESOURCE_UNKNOWN');
    const { closing } = bank.statement(account, bank.today, bank.today);
    return reply.send({ balances: [balanceOf(account, 'closingBooked', closing, bank.today)] });
  });

  app.get('/psd2/v1/accounts/:id/transactions', (request, reply) => {
    const consent = shown(request);
    if (!consent) return refuse(reply, 401, 'CONSENT_EXPIRED');
    const account = accountOf(request, consent);
    if (!account) return refuse(reply, 404, 'RESOURCE_UNKNOWN');
    const asked = Asked.safeParse(request.query);
    if (!asked.success) return refuse(reply, 400, 'FORMAT_ERROR');
    const { dateFrom, dateTo, page } = asked.data;
    if (dateFrom > dateTo) return refuse(reply, 400, 'PERIOD_INVALID');
    if (bank.troubles.has('garbage')) {
      const words = wordsPage(bank.records.bankName, 'News', 'New opening hours.');
      return reply.type('text/html').send(words);
    }
    const answer = JSON.stringify(transactions(bank, account, { dateFrom, dateTo, page }));
    const text = bank.troubles.has('cutOff') ? cutOff(answer) : answer;
    return reply.type('application/json').send(text);
  });
}

/** A page of transactions, with the balances before and after on the first. */
function transactions(
  bank: Bank,
  account: Account,
  { dateFrom, dateTo, page }: { dateFrom: string; dateTo: string; page: number },
) {
  const { lines, opening, closing, closingDate } = bank.statement(account, dateFrom, dateTo);
  const told = lines.slice((page - 1) * A_PAGE, page * A_PAGE);
  const of = (isPending: boolean) =>
    told.filter((line) => line.isPending === isPending).map((line) => transactionOf(line, account));
  const next = new URLSearchParams({
    dateFrom,
    dateTo,
    bookingStatus: 'both',
    page: String(page + 1),
  });
  const isLast = page * A_PAGE >= lines.length;
  return {
    account: { bban: account.number },
    transactions: {
      booked: of(false),
      pending: of(true),
      _links: {
        account: { href: `/psd2/v1/accounts/${account.id}` },
        ...(isLast
          ? {}
          : { next: { href: `/psd2/v1/accounts/${account.id}/transactions?${next}` } }),
      },
    },
    balances: [
      balanceOf(account, 'openingBooked', opening, dateFrom),
      balanceOf(account, 'closingBooked', closing, closingDate ?? dateTo),
    ],
  };
}

function transactionOf(
  { bankId, date, amount, description, reference }: BankLine,
  { currency }: Account,
) {
  return {
    ...(bankId === null ? {} : { transactionId: bankId }),
    bookingDate: date,
    transactionAmount: { currency, amount: toDecimal(amount, currency) },
    remittanceInformationUnstructured: description,
    ...(reference === null ? {} : { endToEndId: reference }),
  };
}

function balanceOf(
  { currency }: Account,
  balanceType: 'openingBooked' | 'closingBooked',
  amount: number | null,
  referenceDate: string,
) {
  return {
    balanceType,
    balanceAmount: { currency, amount: toDecimal(amount ?? 0, currency) },
    referenceDate,
  };
}
