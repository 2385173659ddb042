import { existsSync } from 'node:fs';
import { join } from 'node:path';
import cookie from '@fastify/cookie';
import helmet from '@fastify/helmet';
import rateLimit from '@fastify/rate-limit';
import staticFiles from '@fastify/static';
import swagger from '@fastify/swagger';
import { sql } from 'drizzle-orm';
import Fastify, {
  type FastifyBaseLogger,
  type FastifyInstance,
  type RawReplyDefaultExpression,
  type RawRequestDefaultExpression,
  type RawServerDefault,
} from 'fastify';
import {
  jsonSchemaTransform,
  serializerCompiler,
  validatorCompiler,
  type ZodTypeProvider,
} from 'fastify-type-provider-zod';
import { checkAccess } from './http/access.ts';
import { answerProblem, problemOf } from './http/problems.ts';
import { openUploads } from './http/uploads.ts';
import { recordRefusals } from './modules/audit/recordRefusals.ts';
import { auditRoutes } from './modules/audit/routes.ts';
import { boardRoutes } from './modules/board/routes.ts';
import { booksRoutes } from './modules/books/routes.ts';
import { documentRoutes } from './modules/documents/routes.ts';
import { openStepEvents } from './modules/events/stepEvents.ts';
import { feedRoutes } from './modules/feeds/routes.ts';
import { habitRoutes } from './modules/habits/routes.ts';
import { intakeRoutes } from './modules/intake/routes.ts';
import { jobRoutes } from './modules/jobs/routes.ts';
import { ledgerRoutes } from './modules/ledger/routes.ts';
import { lineRoutes } from './modules/lines/routes.ts';
import { pairingRoutes } from './modules/pairing/routes.ts';
import { peopleRoutes } from './modules/people/routes.ts';
import { questionRoutes } from './modules/questions/routes.ts';
import { ruleRoutes } from './modules/rules/routes.ts';
import { passkeyRoutes } from './modules/session/passkeyRoutes.ts';
import { type SessionOptions, sessionRoutes } from './modules/session/routes.ts';
import { openSessionsOf } from './modules/session/sessions.ts';
import { stepRoutes } from './modules/steps/routes.ts';
import type { Services } from './services.ts';

/** A Fastify instance whose routes are typed by Zod schemas. */
export type Api = FastifyInstance<
  RawServerDefault,
  RawRequestDefaultExpression,
  RawReplyDefaultExpression,
  FastifyBaseLogger,
  ZodTypeProvider
>;

/** How the application is to be served. */
export interface AppOptions extends SessionOptions {
  /** The built web, or null to serve the API alone. */
  readonly webFolder: string | null;
  /** Where faults of ours are logged to, if anywhere; wording, amounts and secrets never are. */
  readonly log: NodeJS.WritableStream | null;
  /** How long a file that comes in may bring nothing, in milliseconds; tests are less patient. */
  readonly stalled?: number;
}

/** A connection that is silent for so long is closed, and no request may take longer to come in, in milliseconds. */
const CONNECTION = 180_000;
const REQUEST = 600_000;

/** Builds the server: security, every route, the built web, problem details for errors. */
export async function buildApp(services: Services, options: AppOptions): Promise<Api> {
  const app = Fastify({
    logger: options.log === null ? false : { level: 'warn', stream: options.log },
    bodyLimit: 2 * 1024 * 1024,
    forceCloseConnections: true,
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
  app.get('/api/health', { config: { access: 'anyone' } }, async () => {
    await services.background.execute(sql`select 1`);
    return { ok: true };
  });
  app.get('/api/openapi.json', { config: { access: 'anyone' } }, () => app.swagger());
  sessionRoutes(app, services, options);
  passkeyRoutes(app, services, options);
  booksRoutes(app, services);
  lineRoutes(app, services);
  ruleRoutes(app, services);
  habitRoutes(app, services);
  stepRoutes(app, services, events);
  ledgerRoutes(app, services);
  documentRoutes(app, services);
  pairingRoutes(app, services);
  intakeRoutes(app, services, uploads);
  feedRoutes(app, services);
  questionRoutes(app, services, uploads);
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
    const isPage = request.method === 'GET' && !/^\/(api|assets)\//.test(request.url);
    if (isBuilt && isPage) return reply.type('text/html').sendFile('index.html');
    return reply.status(404).type('application/problem+json').send(problemOf('NOT_FOUND', {}));
  });
}
