import { FirstUser, Session, SignIn } from '@zubrell/contract/session';
import { fail } from '@zubrell/core/errors';
import type { FastifyReply, FastifyRequest } from 'fastify';
import type { Api } from '../../app.ts';
import type { Services } from '../../services.ts';
import {
  checkCredentials,
  closeSession,
  createUser,
  hasUsers,
  openSession,
  sessionCookie,
  sessionDays,
  userByEmail,
} from './sessions.ts';

/** Attempts to sign in from one address in a minute. */
export const ATTEMPTS = { max: 10, timeWindow: '1 minute' } as const;

export interface SessionOptions {
  /** The address of the user whom one press signs in, in the demo. */
  readonly demoEmail: string | null;
  /** Whether the cookie is for https only. */
  readonly isSecure: boolean;
}

/** Who is signed in, and what the sign-in page can offer. */
async function shownSession(
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

/** Opens a session for a user, puts its cookie on the answer, and tells who is signed in. */
export async function signInAnswer(
  services: Services,
  options: SessionOptions,
  reply: FastifyReply,
  user: NonNullable<Session['user']>,
): Promise<Session> {
  const id = await openSession(services.database, services, user.id);
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
  const signIn = (reply: FastifyReply, user: NonNullable<Session['user']>) =>
    signInAnswer(services, options, reply, user);

  api.get(
    '/api/session',
    { config: { access: 'anyone' }, schema: { response: { 200: Session } } },
    (request) => shown(request.user),
  );

  api.post(
    '/api/session',
    {
      config: { access: 'anyone', rateLimit: ATTEMPTS },
      schema: { body: SignIn, response: { 200: Session } },
    },
    async (request, reply) => signIn(reply, await checkCredentials(database, request.body)),
  );

  api.post(
    '/api/session/demo',
    { config: { access: 'anyone' }, schema: { response: { 200: Session } } },
    async (_request: FastifyRequest, reply) => {
      if (options.demoEmail === null) fail('DEMO_ONLY');
      const user = (await userByEmail(database, options.demoEmail)) ?? fail('DEMO_ONLY');
      return signIn(reply, user);
    },
  );

  api.post(
    '/api/session/first-user',
    {
      config: { access: 'anyone', rateLimit: ATTEMPTS },
      schema: { body: FirstUser, response: { 200: Session } },
    },
    async (request, reply) => {
      if (await hasUsers(database)) fail('SIGN_IN_NEEDED');
      return signIn(reply, await createUser(database, services, request.body));
    },
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
}
