import formBody from '@fastify/formbody';
import Fastify, { type FastifyInstance, type FastifyReply, type FastifyRequest } from 'fastify';
import { z } from 'zod';
import { addAccountInformation, STANDARD, tppMessage } from './accountInformation.ts';
import type { Bank, ConsentRequest } from './bank.ts';
import { choosePage, signInPage, switchesPage, wordsPage } from './pages.ts';
import type { Consent } from './records.ts';
import { switchNames } from './switches.ts';

/** How the bank is served. */
export interface BankOptions {
  /** How long an answer takes while the switch `slow` is on, in milliseconds. */
  readonly slowFor: number;
}

/** What is left of the day's allowance: shown to whoever asks. */
const CALLS = { plenty: 40, few: 1 };
const RETRY_SECONDS = 1_800;
const Day = z.string().regex(/^\d{4}-\d\d-\d\d$/);
const Asked = z.object({ from: Day, to: Day });
const AskConsent = z.object({
  app: z.string(),
  state: z.string(),
  returnTo: z.url({ protocol: /^https?$/ }),
});
const ById = z.object({ id: z.string() });
const list = z
  .union([z.string(), z.array(z.string())])
  .optional()
  .transform((value) => [value ?? []].flat());

/** The bank's pages for customers, and its API for programs that have their consent. */
export function buildBank(bank: Bank, { slowFor }: BankOptions): FastifyInstance {
  const app = Fastify({ forceCloseConnections: true });
  app.register(formBody);
  addTroubles(app, bank, slowFor);
  addPages(app, bank);
  addApi(app, bank);
  addAccountInformation(app, bank);
  return app;
}

/** Whatever is switched on befalls the API; the pages go on, so that it can be switched off. */
function addTroubles(app: FastifyInstance, bank: Bank, slowFor: number): void {
  app.addHook('onRequest', async (request, reply) => {
    const isStandard = request.url.startsWith(STANDARD);
    if (!request.url.startsWith('/api/') && !isStandard) return;
    if (bank.troubles.has('slow')) await new Promise((done) => setTimeout(done, slowFor));
    if (bank.troubles.has('down'))
      await reply
        .status(503)
        .send(isStandard ? tppMessage('SERVICE_UNAVAILABLE') : { error: 'down' });
    else if (bank.troubles.has('tooMany')) {
      await reply
        .status(429)
        .header('retry-after', RETRY_SECONDS)
        .send(isStandard ? tppMessage('ACCESS_EXCEEDED') : { error: 'too-many-requests' });
    }
  });
}

function addPages(app: FastifyInstance, bank: Bank): void {
  const { bankName, customers } = bank.records;
  const html = (reply: FastifyReply, text: string) => reply.type('text/html').send(text);
  const gone = (reply: FastifyReply) =>
    html(
      reply.status(404),
      wordsPage(bankName, 'Nothing to answer', 'This request was answered, or never made.'),
    );
  const requestOf = (request: FastifyRequest): ConsentRequest | null =>
    bank.requestOf(ById.parse(request.params).id);

  app.get('/', (_request, reply) => reply.redirect('/switches'));

  app.get('/consents/:id', (request, reply) => {
    const asked = requestOf(request);
    if (!asked) return gone(reply);
    return html(reply, signInPage(bankName, asked, customers[0] ?? null, null));
  });

  app.post('/consents/:id/sign-in', (request, reply) => {
    const asked = requestOf(request);
    if (!asked) return gone(reply);
    const { user, secret } = z.object({ user: z.string(), secret: z.string() }).parse(request.body);
    const customer = bank.signIn(asked, user, secret);
    if (customer) return html(reply, choosePage(bankName, asked, customer));
    const wrong = 'Customer and secret do not fit, or signing in is refused just now.';
    return html(reply.status(403), signInPage(bankName, asked, customers[0] ?? null, wrong));
  });

  app.post('/consents/:id/answer', (request, reply) => {
    const asked = requestOf(request);
    if (!asked?.user) return gone(reply);
    const { account, answer } = z
      .object({ account: list, answer: z.enum(['allow', 'refuse']) })
      .parse(request.body);
    const isAllowed = answer === 'allow' && account.length > 0;
    if (!isAllowed) bank.refuse(asked);
    return reply.redirect(asked.back(isAllowed ? bank.allow(asked, account) : null), 303);
  });

  app.get('/switches', (_request, reply) => html(reply, switchesPage(bankName, bank.troubles)));

  app.post('/switches', (request, reply) => {
    const { on } = z.object({ on: list }).parse(request.body ?? {});
    bank.troubles.clear();
    for (const name of switchNames) if (on.includes(name)) bank.troubles.add(name);
    return reply.redirect('/switches', 303);
  });
}

function addApi(app: FastifyInstance, bank: Bank): void {
  const consentOf = (request: FastifyRequest): Consent | null =>
    bank.consentOf((request.headers.authorization ?? '').replace(/^Bearer /, ''));
  const expired = (reply: FastifyReply) => reply.status(401).send({ error: 'consent-expired' });

  app.get('/api/health', () => ({ bank: bank.records.bankName }));

  app.post('/api/consents', (request, reply) => {
    const { app: asking, state, returnTo } = AskConsent.parse(request.body);
    const back = (code: string | null) => {
      const place = new URL(returnTo);
      place.searchParams.set('state', state);
      if (code === null) place.searchParams.set('error', 'refused');
      else place.searchParams.set('code', code);
      return place.href;
    };
    const { id } = bank.ask({ app: asking, back });
    return reply.status(201).send({ id, page: `/consents/${id}` });
  });

  app.post('/api/tokens', (request, reply) => {
    const { code } = z.object({ code: z.string() }).parse(request.body);
    const consent = bank.redeem(code);
    if (!consent) return reply.status(400).send({ error: 'code-unknown' });
    return reply.send({ token: consent.token, expires: consent.expires });
  });

  app.get('/api/accounts', (request, reply) => {
    const consent = consentOf(request);
    if (!consent) return expired(reply);
    const accounts = bank
      .accountsOf(consent)
      .map(({ id, name, number, kind, currency }) => ({ id, name, number, kind, currency }));
    return reply.send({ accounts });
  });

  app.get('/api/accounts/:id/lines', (request, reply) => {
    const consent = consentOf(request);
    if (!consent) return expired(reply);
    const { id } = ById.parse(request.params);
    const account = bank.accountsOf(consent).find((each) => each.id === id);
    if (!account) return reply.status(404).send({ error: 'account-unknown' });
    const { from, to } = Asked.parse(request.query);
    reply.header('x-calls-left', bank.troubles.has('fewCalls') ? CALLS.few : CALLS.plenty);
    if (bank.troubles.has('garbage')) {
      return reply
        .type('text/html')
        .send(wordsPage(bank.records.bankName, 'News', 'New opening hours.'));
    }
    const type = account.format === 'ofx' ? 'application/x-ofx' : 'application/xml';
    return reply.type(type).send(bank.report(account, from, to));
  });
}
