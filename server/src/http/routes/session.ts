import { sessionEndpoints } from '@zubrell/contract/endpoints/session';
import type { Session } from '@zubrell/contract/session';
import type { RecordKind } from '@zubrell/core/audit/recordKinds';
import { fail } from '@zubrell/core/errors';
import type { UserId } from '@zubrell/core/ids';
import type { FastifyReply, FastifyRequest } from 'fastify';
import { recordAccess } from '../../modules/audit/recordAccess.ts';
import { eraseUser } from '../../modules/people/eraseUser.ts';
import { resetLinkOf, resetPassword } from '../../modules/session/resetLinks.ts';
import {
  beginSecondFactor,
  checkSecondFactor,
  confirmSecondFactor,
  endSecondFactor,
  makeRecoveryCodes,
  secondFactorState,
} from '../../modules/session/secondFactor.ts';
import {
  changePassword,
  checkCredentials,
  chooseLocale,
  closeSession,
  endOthers,
  hasUsers,
  openSession,
  sessionCookie,
  sessionDays,
  sessionsOf,
  userByEmail,
} from '../../modules/session/sessions.ts';
import { makeFirstUser } from '../../modules/session/setUp.ts';
import { beginAttempt } from '../../modules/session/signInAttempts.ts';
import { openedFrom } from '../../openedFrom.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { recordRequest } from '../recordRequest.ts';
import { serve } from '../serve.ts';

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

/** What routes of sessions are made with. */
interface SessionParts {
  readonly services: Services;
  readonly options: SessionOptions;
}

/** A request and its answer. */
interface Exchange {
  readonly request: FastifyRequest;
  readonly reply: FastifyReply;
}

/**
 * Opens a session for a user, puts its cookie on the answer, and tells who is signed in. The browser's session before
 * ends.
 *
 * @param also what is on record beside the sign-in
 */
export async function signInAnswer(
  { services, options }: SessionParts,
  { request, reply }: Exchange,
  user: NonNullable<Session['user']>,
  also: RecordKind | null = null,
): Promise<Session> {
  const before = request.cookies[sessionCookie];
  if (before !== undefined) await closeSession(services.database, before);
  const id = await openSession(services.database, services, user.id, openedFrom(request));
  if (also !== null) {
    const record = { kind: also, booksId: null };
    await recordAccess(services.database, id, openedFrom(request), record);
  }
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
    also: RecordKind | null = null,
  ) => signInAnswer({ services, options }, { request, reply }, user, also);

  serve(api, sessionEndpoints.session, (request) => shown(request.user));

  serve(api, sessionEndpoints.signIn, async (request, reply) => {
    const attempt = await beginAttempt(database, request.body.email, request.ip);
    const user = await checkCredentials(database, request.body);
    const factor = await checkSecondFactor(database, services, user.id, request.body.code ?? null);
    await attempt.succeeded();
    return signIn(request, reply, user, factor === 'recovery' ? 'recoveryCodeUsed' : null);
  });

  serve(api, sessionEndpoints.signInDemo, async (request: FastifyRequest, reply) => {
    if (options.demoEmail === null) fail('DEMO_ONLY');
    const user = (await userByEmail(database, options.demoEmail)) ?? fail('DEMO_ONLY');
    return signIn(request, reply, user);
  });

  serve(
    api,
    sessionEndpoints.makeFirstUser,
    async (request, reply) =>
      signIn(
        request,
        reply,
        await makeFirstUser(database, services, request.body),
        'firstUserMade',
      ),
    { rateLimit: ATTEMPTS },
  );

  serve(api, sessionEndpoints.signOut, async (request, reply) => {
    const id = request.cookies[sessionCookie];
    if (request.user) {
      await recordRequest(database, request, { kind: 'signedOut', booksId: null });
    }
    if (id !== undefined) await closeSession(database, id);
    reply.clearCookie(sessionCookie, { path: '/' });
    return shown(null);
  });

  serve(api, sessionEndpoints.openSessions, async (request) => {
    const { userId, own } = whoAsks(request);
    return { sessions: await sessionsOf(database, services, userId, own) };
  });

  serve(api, sessionEndpoints.endSessions, async (request) => {
    const { userId, own } = whoAsks(request);
    await database.transaction(async (tx) => {
      await endOthers(tx, userId, own, request.body.id);
      await recordRequest(tx, request, { kind: 'sessionsEnded', booksId: null });
    });
    return {};
  });

  serve(api, sessionEndpoints.chooseLocale, async (request) => {
    await chooseLocale(database, whoAsks(request).userId, request.body.locale);
    return {};
  });

  serve(api, sessionEndpoints.changePassword, async (request) => {
    const { userId, own } = whoAsks(request);
    const attempt = await beginAttempt(database, request.user?.email ?? '', request.ip);
    await changePassword(database, { userId, session: own }, request.body, (tx) =>
      recordRequest(tx, request, { kind: 'passwordChanged', booksId: null }),
    );
    await attempt.succeeded();
    return {};
  });

  serve(api, sessionEndpoints.secondFactor, (request) =>
    secondFactorState(database, whoAsks(request).userId),
  );

  serve(api, sessionEndpoints.beginSecondFactor, (request) =>
    beginSecondFactor(database, services, request.user ?? fail('SIGN_IN_NEEDED')),
  );

  serve(
    api,
    sessionEndpoints.confirmSecondFactor,
    (request) =>
      database.transaction(async (tx) => {
        const { userId } = whoAsks(request);
        const codes = await confirmSecondFactor(tx, services, userId, request.body.code);
        await recordRequest(tx, request, { kind: 'secondFactorOn', booksId: null });
        return { codes };
      }),
    { rateLimit: ATTEMPTS },
  );

  serve(
    api,
    sessionEndpoints.makeRecoveryCodes,
    async (request) => {
      const { userId } = whoAsks(request);
      await checkSecondFactor(database, services, userId, request.body.code);
      return database.transaction(async (tx) => {
        await recordRequest(tx, request, { kind: 'recoveryCodesMade', booksId: null });
        return { codes: await makeRecoveryCodes(tx, userId) };
      });
    },
    { rateLimit: ATTEMPTS },
  );

  serve(
    api,
    sessionEndpoints.endSecondFactor,
    async (request) => {
      const { userId } = whoAsks(request);
      await checkSecondFactor(database, services, userId, request.body.code);
      await database.transaction(async (tx) => {
        await endSecondFactor(tx, userId);
        await recordRequest(tx, request, { kind: 'secondFactorOff', booksId: null });
      });
      return {};
    },
    { rateLimit: ATTEMPTS },
  );

  serve(api, sessionEndpoints.eraseAccount, async (request, reply) => {
    const { email } = request.user ?? fail('SIGN_IN_NEEDED');
    const { password } = request.body;
    const attempt = await beginAttempt(database, email, request.ip);
    const { id } = await checkCredentials(database, { email, password }).catch(() =>
      fail('PASSWORD_WRONG'),
    );
    await attempt.succeeded();
    await eraseUser(database, id, (tx) =>
      recordRequest(tx, request, { kind: 'userErased', booksId: null, subjectId: id }),
    );
    reply.clearCookie(sessionCookie, { path: '/' });
    return shown(null);
  });

  serve(
    api,
    sessionEndpoints.resetLink,
    (request) => resetLinkOf(database, services, request.params.secret),
    { rateLimit: ATTEMPTS },
  );

  serve(
    api,
    sessionEndpoints.resetPassword,
    async (request) => {
      await database.transaction(async (tx) => {
        const { secret } = request.params;
        const subjectId = await resetPassword(tx, services, secret, request.body.password);
        await recordRequest(tx, request, { kind: 'passwordReset', booksId: null, subjectId });
      });
      return {};
    },
    { rateLimit: ATTEMPTS },
  );
}

function whoAsks({ user, session }: FastifyRequest): {
  readonly userId: UserId;
  /** The id of the session in which it is asked. */
  readonly own: string;
} {
  return user && session ? { userId: user.id, own: session } : fail('SIGN_IN_NEEDED');
}
