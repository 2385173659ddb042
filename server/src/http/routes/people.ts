import { peopleEndpoints } from '@zubrell/contract/endpoints/people';
import { fail } from '@zubrell/core/errors';
import type { BooksId, UserId } from '@zubrell/core/ids';
import type { FastifyRequest } from 'fastify';
import { inBooks, type Tx } from '../../db/database.ts';
import { checkOwnsAllOf, eraseUser } from '../../modules/people/eraseUser.ts';
import {
  invitationOf,
  invite,
  join,
  withdrawInvitation,
} from '../../modules/people/invitations.ts';
import { checkMember, letSeeOtherBooks, peopleOf, setRole } from '../../modules/people/queries.ts';
import { makeResetLink } from '../../modules/session/resetLinks.ts';
import { createUser, userByEmail } from '../../modules/session/sessions.ts';
import type { Services } from '../../services.ts';
import type { Api } from '../api.ts';
import { actorOf, query } from '../command.ts';
import { recordRequest } from '../recordRequest.ts';
import { serve } from '../serve.ts';
import { ATTEMPTS, type SessionOptions, shownSession, signInAnswer } from './session.ts';

/** Who works with books: members, their roles, invitations. */
export function peopleRoutes(api: Api, services: Services, options: SessionOptions): void {
  const { database, clock } = services;

  serve(api, peopleEndpoints.people, (request) =>
    query(services, request, (tx, booksId) => peopleOf(tx, booksId, clock.now())),
  );

  serve(api, peopleEndpoints.invite, (request) =>
    query(services, request, async (tx, booksId) => {
      const invited = await invite({ tx, booksId, clock, actor: actorOf(request) }, request.body);
      const { name, role } = request.body;
      await recordRequest(tx, request, {
        kind: 'invited',
        booksId,
        details: { role, invitation: invited.id },
        personal: { name },
      });
      return invited;
    }),
  );

  serve(api, peopleEndpoints.withdrawInvitation, (request) =>
    query(services, request, async (tx, booksId) => {
      const name = await withdrawInvitation(tx, booksId, request.params.invitationId);
      if (name === null) return {};
      await recordRequest(tx, request, {
        kind: 'invitationWithdrawn',
        booksId,
        personal: { name },
      });
      return {};
    }),
  );

  serve(api, peopleEndpoints.setRole, (request) =>
    query(services, request, async (tx, booksId) => {
      const { userId: subjectId } = request.params;
      const { role: to } = request.body;
      const from = await setRole(tx, booksId, subjectId, to);
      await recordRequest(tx, request, {
        kind: to === null ? 'memberRemoved' : 'roleChanged',
        booksId,
        subjectId,
        details: { from, to },
      });
      return {};
    }),
  );

  serve(api, peopleEndpoints.letSeeOtherBooks, (request) =>
    query(services, request, async (tx, booksId) => {
      const { userId: subjectId } = request.params;
      await letSeeOtherBooks(tx, booksId, subjectId, request.body);
      const record = {
        kind: 'otherBooksLet',
        booksId,
        subjectId,
        details: request.body,
      } as const;
      await recordRequest(tx, request, record);
      return {};
    }),
  );

  serve(api, peopleEndpoints.makeResetLink, (request) =>
    query(services, request, async (tx, booksId) => {
      const { userId: subjectId } = request.params;
      const { endsSecondFactor } = request.body;
      await checkMayDecideOn(tx, request, booksId, subjectId);
      const secret = await makeResetLink(tx, services, subjectId, endsSecondFactor);
      const record = {
        kind: 'resetLinkMade',
        booksId,
        subjectId,
        details: request.body,
      } as const;
      await recordRequest(tx, request, record);
      return { secret };
    }),
  );

  serve(api, peopleEndpoints.eraseMember, async (request) => {
    const { booksId, userId: subjectId } = request.params;
    await eraseUser(database, subjectId, async (tx) => {
      await checkMayDecideOn(tx, request, booksId, subjectId);
      await recordRequest(tx, request, { kind: 'userErased', booksId, subjectId });
    });
    return {};
  });

  serve(
    api,
    peopleEndpoints.invitation,
    (request) => invitationOf(database, services, request.params.secret),
    { rateLimit: ATTEMPTS },
  );

  serve(
    api,
    peopleEndpoints.join,
    async (request, reply) => {
      const { secret } = request.params;
      const shown = await invitationOf(database, services, secret);
      const { newUser } = request.body;
      const user = await inBooks(database, shown.booksId, async (tx) => {
        if (newUser && (await userByEmail(tx, newUser.email))) fail('EMAIL_TAKEN');
        const joining = newUser ? await createUser(tx, services, newUser) : request.user;
        if (joining === null) fail('SIGN_IN_NEEDED');
        const invitation = await join(tx, shown, secret, joining.id);
        const { booksId, role } = shown;
        const record = {
          kind: 'joined',
          booksId,
          subjectId: joining.id,
          details: { role, invitation },
        } as const;
        await recordRequest(tx, request, record);
        return joining;
      });
      // Whoever is signed in already stays so.
      return request.user?.id === user.id
        ? shownSession(services, options, user)
        : signInAnswer({ services, options }, { request, reply }, user);
    },
    { rateLimit: ATTEMPTS },
  );
}

/** @throws {ZubrellError} RESET_OWN, MEMBER_UNKNOWN, MEMBER_ELSEWHERE */
async function checkMayDecideOn(
  tx: Tx,
  request: FastifyRequest,
  booksId: BooksId,
  userId: UserId,
): Promise<void> {
  const { userId: ownerId } = actorOf(request);
  if (ownerId === userId) fail('RESET_OWN');
  await checkMember(tx, booksId, userId);
  await checkOwnsAllOf(tx, ownerId, userId);
}
