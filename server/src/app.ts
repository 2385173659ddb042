import { randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import cookie from '@fastify/cookie';
import helmet from '@fastify/helmet';
import rateLimit from '@fastify/rate-limit';
import staticFiles from '@fastify/static';
import swagger from '@fastify/swagger';
import Fastify, { type FastifyBaseLogger, type FastifyInstance, LogController } from 'fastify';
import {
  jsonSchemaTransform,
  serializerCompiler,
  validatorCompiler,
  type ZodTypeProvider,
} from 'fastify-type-provider-zod';
import type { Logger } from 'pino';
import { checkAccess } from './http/access.ts';
import type { Api } from './http/api.ts';
import { healthRoutes, type OwnState } from './http/health.ts';
import { logRequests } from './http/logRequests.ts';
import { serveMetrics } from './http/metrics.ts';
import { answerProblem, problemOf } from './http/problems.ts';
import { recordRefusals } from './http/recordRefusals.ts';
import { auditRoutes } from './http/routes/audit.ts';
import { boardRoutes } from './http/routes/board.ts';
import { booksRoutes } from './http/routes/books.ts';
import { closingRoutes } from './http/routes/closing.ts';
import { currencyRoutes } from './http/routes/currencies.ts';
import { documentRoutes } from './http/routes/documents.ts';
import { feedRoutes } from './http/routes/feeds.ts';
import { habitRoutes } from './http/routes/habits.ts';
import { handoverRoutes } from './http/routes/handover.ts';
import { intakeRoutes } from './http/routes/intake.ts';
import { jobRoutes } from './http/routes/jobs.ts';
import { journalRoutes } from './http/routes/journals.ts';
import { ledgerRoutes } from './http/routes/ledger.ts';
import { lineRoutes } from './http/routes/lines.ts';
import { pairingRoutes } from './http/routes/pairing.ts';
import { passkeyRoutes } from './http/routes/passkeys.ts';
import { peopleRoutes } from './http/routes/people.ts';
import { questionRoutes } from './http/routes/questions.ts';
import { reportRoutes } from './http/routes/reports.ts';
import { ruleRoutes } from './http/routes/rules.ts';
import { type SessionOptions, sessionRoutes } from './http/routes/session.ts';
import { statementRoutes } from './http/routes/statements.ts';
import { stepRoutes } from './http/routes/steps.ts';
import { taxRoutes } from './http/routes/tax.ts';
import { openStepEvents } from './http/stepEvents.ts';
import { openUploads } from './http/uploads.ts';
import { openSessionsOf } from './modules/session/sessions.ts';
import type { Services } from './services.ts';

/** How the application is to be served. */
export interface AppOptions extends SessionOptions {
  /** The built web, or null to serve the API alone. */
  readonly webFolder: string | null;
  readonly log: Logger;
  /** What monitoring has to say to be told how the server does; null where it is not told. */
  readonly metricsToken: string | null;
  /** What the server knows of itself. */
  readonly own: OwnState;
  /** How long a file that comes in may bring nothing, in milliseconds; tests are less patient. */
  readonly stalled?: number;
}

/** A connection that is silent for so long is closed, and no request may take longer to come in, in milliseconds. */
const CONNECTION = 180_000;
const REQUEST = 600_000;

/** Builds the server: security, every route, the built web, problem details for errors. */
export async function buildApp(services: Services, options: AppOptions): Promise<Api> {
  const app = Fastify({
    loggerInstance: options.log as FastifyBaseLogger,
    logController: new LogController({
      disableRequestLogging: true,
      requestIdLogLabel: 'requestId',
    }),
    genReqId: () => randomUUID(),
    bodyLimit: 2 * 1024 * 1024,
    // What is being answered is answered to the end; who stops the server says how long that may take.
    forceCloseConnections: 'idle',
    connectionTimeout: CONNECTION,
    requestTimeout: REQUEST,
    trustProxy: options.trustedProxies.length > 0 ? [...options.trustedProxies] : false,
    // Addresses that can't be read at all are answered before any route is found.
    frameworkErrors: answerProblem,
  }).withTypeProvider<ZodTypeProvider>();
  app.setValidatorCompiler(validatorCompiler);
  app.setSerializerCompiler(serializerCompiler);
  app.setErrorHandler(answerProblem);
  await app.register(cookie);
  await app.register(helmet, {
    contentSecurityPolicy: {
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'"],
        // The interface sets sizes and places of virtual rows and menus as style attributes.
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:'],
        fontSrc: ["'self'"],
        connectSrc: ["'self'"],
        workerSrc: ["'self'"],
        objectSrc: ["'none'"],
        frameAncestors: ["'none'"],
        upgradeInsecureRequests: options.isSecure ? [] : null,
      },
    },
    strictTransportSecurity: options.isSecure,
  });
  await app.register(rateLimit, { global: false });
  await app.register(swagger, {
    openapi: { info: { title: 'Zubrell', version: '1' } },
    transform: jsonSchemaTransform,
  });
  checkAccess(app as unknown as FastifyInstance, services, options);
  recordRefusals(app as unknown as FastifyInstance, services);
  // Files are taken piece by piece, by the routes that want one.
  app.addContentTypeParser('application/octet-stream', (_request, payload, done) => {
    done(null, payload);
  });
  const uploads = openUploads(options.stalled);
  const events = await openStepEvents(services.background, (ids) =>
    openSessionsOf(services.background, services, ids),
  );
  app.addHook('preClose', () => events.close());
  logRequests(app as unknown as FastifyInstance);
  healthRoutes(app, services, options.own);
  if (options.metricsToken !== null) {
    serveMetrics(app as unknown as FastifyInstance, services, options.metricsToken);
  }
  app.get('/api/openapi.json', { config: { access: 'anyone' } }, () => app.swagger());
  sessionRoutes(app, services, options);
  passkeyRoutes(app, services, options);
  booksRoutes(app, services);
  lineRoutes(app, services);
  reportRoutes(app, services);
  ruleRoutes(app, services);
  habitRoutes(app, services);
  stepRoutes(app, services, events);
  journalRoutes(app, services);
  currencyRoutes(app, services);
  taxRoutes(app, services);
  ledgerRoutes(app, services, uploads);
  documentRoutes(app, services, uploads);
  closingRoutes(app, services);
  pairingRoutes(app, services);
  statementRoutes(app, services);
  intakeRoutes(app, services, uploads);
  feedRoutes(app, services);
  questionRoutes(app, services, uploads);
  handoverRoutes(app, services, uploads);
  peopleRoutes(app, services, options);
  jobRoutes(app, services);
  boardRoutes(app, services);
  auditRoutes(app, services);
  await serveWeb(app, options.webFolder);
  return app;
}

/** Serves the built web; any address that is not the API's gets its page. */
async function serveWeb(app: Api, folder: string | null): Promise<void> {
  const isBuilt = folder !== null && existsSync(join(folder, 'index.html'));
  if (isBuilt) {
    await app.register(staticFiles, {
      root: folder,
      preCompressed: true,
      setHeaders: (response, path) => {
        const isHashed = path.includes(`${join(folder, 'assets')}`);
        response.header(
          'cache-control',
          isHashed ? 'public, max-age=31536000, immutable' : 'no-cache',
        );
      },
    });
  }
  app.setNotFoundHandler((request, reply) => {
    const isPage =
      request.method === 'GET' && !/^\/(api|assets|health|metrics)\b/.test(request.url);
    if (isBuilt && isPage) return reply.type('text/html').sendFile('index.html');
    return reply.status(404).type('application/problem+json').send(problemOf('NOT_FOUND', {}));
  });
}
