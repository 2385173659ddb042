import { Id } from '@zubrell/contract/common';
import { ChangePassword, OpenSessions, Session, SetUp, SignIn } from '@zubrell/contract/session';
import { fail } from '@zubrell/core/errors';
import type { FastifyReply, FastifyRequest } from 'fastify';
import { z } from 'zod';
import type { Api } from '../../app.ts';
import type { Services } from '../../services.ts';
import {
  changePassword,
  checkCredentials,
  closeSession,
  endOthers,
  hasUsers,
  openSession,
  sessionCookie,
  sessionDays,
  sessionsOf,
  userByEmail,
} from './sessions.ts';
import { makeFirstUser } from './setUp.ts';
import { beginAttempt } from './signInAttempts.ts';

/** Attempts to guess a secret from one address in a minute. */
export const ATTEMPTS = { max: 10, timeWindow: '1 minute' } as const;

export interface SessionOptions {
  /** The address of the user whom one press signs in, in the demo. */
  readonly demoEmail: string | null;
  /** Whether the cookie is for https only. */
  readonly isSecure: boolean;
  /** The names that this server goes by, beside loopback's. */
  readonly hosts: readonly string[];
  /** The addresses of proxies that are believed when they say whom they ask for. */
  readonly trustedProxies: readonly string[];
}

/** Who is signed in, and what the sign-in page can offer. */
export async function shownSession(
  { database, clock }: Services,
  { demoEmail }: SessionOptions,
  user: Session['user'],
): Promise<Session> {
  return {
    user,
    isDemo: demoEmail !== null,
    needsFirstUser: user === null && !(await hasUsers(database)),
    today: clock.today(),
  };
}

/** How much is kept of what a browser says of itself. */
const LONGEST_NAME = 200;

/**
 * Opens a session for a user, puts its cookie on the answer, and tells who is signed in. The browser's session before
 * ends.
 */
export async function signInAnswer(
  services: Services,
  options: SessionOptions,
  { cookies, headers, ip: address }: FastifyRequest,
  reply: FastifyReply,
  user: NonNullable<Session['user']>,
): Promise<Session> {
  const before = cookies[sessionCookie];
  if (before !== undefined) await closeSession(services.database, before);
  const browser = (headers['user-agent'] ?? '').slice(0, LONGEST_NAME);
  const id = await openSession(services.database, services, user.id, { address, browser });
  reply.setCookie(sessionCookie, id, {
    path: '/',
    httpOnly: true,
    sameSite: 'lax',
    secure: options.isSecure,
    maxAge: sessionDays * 86_400,
  });
  return shownSession(services, options, user);
}

/** Signing in and out, and what the sign-in page can offer. */
export function sessionRoutes(api: Api, services: Services, options: SessionOptions): void {
  const { database } = services;
  const shown = (user: Session['user']) => shownSession(services, options, user);
  const signIn = (
    request: FastifyRequest,
    reply: FastifyReply,
    user: NonNullable<Session['user']>,
  ) => signInAnswer(services, options, request, reply, user);

  api.get(
    '/api/session',
    { config: { access: 'anyone' }, schema: { response: { 200: Session } } },
    (request) => shown(request.user),
  );

  api.post(
    '/api/session',
    {
      config: { access: 'anyone' },
      schema: { body: SignIn, response: { 200: Session } },
    },
    async (request, reply) => {
      const attempt = await beginAttempt(database, request.body.email, request.ip);
      const user = await checkCredentials(database, request.body);
      await attempt.succeeded();
      return signIn(request, reply, user);
    },
  );

  api.post(
    '/api/session/demo',
    { config: { access: 'anyone' }, schema: { response: { 200: Session } } },
    async (request: FastifyRequest, reply) => {
      if (options.demoEmail === null) fail('DEMO_ONLY');
      const user = (await userByEmail(database, options.demoEmail)) ?? fail('DEMO_ONLY');
      return signIn(request, reply, user);
    },
  );

  api.post(
    '/api/session/first-user',
    {
      config: { access: 'anyone', rateLimit: ATTEMPTS },
      schema: { body: SetUp, response: { 200: Session } },
    },
    async (request, reply) =>
      signIn(request, reply, await makeFirstUser(database, services, request.body)),
  );

  api.delete(
    '/api/session',
    { config: { access: 'anyone' }, schema: { response: { 200: Session } } },
    async (request, reply) => {
      const id = request.cookies[sessionCookie];
      if (id !== undefined) await closeSession(database, id);
      reply.clearCookie(sessionCookie, { path: '/' });
      return shown(null);
    },
  );

  api.get(
    '/api/sessions',
    { config: { access: 'signedIn' }, schema: { response: { 200: OpenSessions } } },
    async (request) => {
      const { userId, own } = whoAsks(request);
      return { sessions: await sessionsOf(database, services, userId, own) };
    },
  );

  api.post(
    '/api/sessions/end',
    {
      config: { access: 'signedIn' },
      schema: { body: z.object({ id: Id.nullable() }), response: { 200: z.object({}) } },
    },
    async (request) => {
      const { userId, own } = whoAsks(request);
      await endOthers(database, userId, own, request.body.id);
      return {};
    },
  );

  api.post(
    '/api/session/password',
    {
      config: { access: 'signedIn' },
      schema: { body: ChangePassword, response: { 200: z.object({}) } },
    },
    async (request) => {
      const { userId, own } = whoAsks(request);
      const attempt = await beginAttempt(database, request.user?.email ?? '', request.ip);
      await changePassword(database, userId, own, request.body);
      await attempt.succeeded();
      return {};
    },
  );
}

function whoAsks({ user, session }: FastifyRequest): {
  readonly userId: string;
  /** The id of the session in which it is asked. */
  readonly own: string;
} {
  return user && session ? { userId: user.id, own: session } : fail('SIGN_IN_NEEDED');
}
