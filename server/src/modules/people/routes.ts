import { BooksParams, Id, text } from '@zubrell/contract/common';
import {
  InvitationShown,
  Invite,
  Invited,
  Join,
  LetSeeOtherBooks,
  People,
  SetRole,
} from '@zubrell/contract/people';
import { Session } from '@zubrell/contract/session';
import { fail } from '@zubrell/core/errors';
import { z } from 'zod';
import type { Api } from '../../app.ts';
import { inBooks } from '../../db/database.ts';
import { actorOf, query } from '../../http/command.ts';
import type { Services } from '../../services.ts';
import { ATTEMPTS, type SessionOptions, shownSession, signInAnswer } from '../session/routes.ts';
import { createUser, userByEmail } from '../session/sessions.ts';
import { invitationOf, invite, join, withdrawInvitation } from './invitations.ts';
import { letSeeOtherBooks, peopleOf, setRole } from './queries.ts';

const Secret = z.object({ secret: text(100).min(10) });
const nothing = z.object({});

/** Who works with books: members, their roles, invitations. */
export function peopleRoutes(api: Api, services: Services, options: SessionOptions): void {
  const { database, clock } = services;

  api.get(
    '/api/books/:booksId/people',
    {
      config: { access: 'reviewer' },
      schema: { params: BooksParams, response: { 200: People } },
    },
    (request) => query(services, request, (tx, booksId) => peopleOf(tx, booksId, clock.now())),
  );

  api.post(
    '/api/books/:booksId/invitations',
    {
      config: { access: 'owner' },
      schema: { params: BooksParams, body: Invite, response: { 200: Invited } },
    },
    (request) =>
      query(services, request, (tx, booksId) =>
        invite(tx, services, booksId, actorOf(request), request.body),
      ),
  );

  api.post(
    '/api/books/:booksId/invitations/:invitationId/withdraw',
    {
      config: { access: 'owner' },
      schema: {
        params: BooksParams.extend({ invitationId: Id }),
        response: { 200: nothing },
      },
    },
    (request) =>
      query(services, request, async (tx, booksId) => {
        await withdrawInvitation(tx, booksId, request.params.invitationId);
        return {};
      }),
  );

  api.patch(
    '/api/books/:booksId/people/:userId',
    {
      config: { access: 'owner' },
      schema: {
        params: BooksParams.extend({ userId: Id }),
        body: SetRole,
        response: { 200: nothing },
      },
    },
    (request) =>
      query(services, request, async (tx, booksId) => {
        await setRole(tx, booksId, request.params.userId, request.body.role);
        return {};
      }),
  );

  api.patch(
    '/api/books/:booksId/people/:userId/other-books',
    {
      config: { access: 'owner' },
      schema: {
        params: BooksParams.extend({ userId: Id }),
        body: LetSeeOtherBooks,
        response: { 200: nothing },
      },
    },
    (request) =>
      query(services, request, async (tx, booksId) => {
        await letSeeOtherBooks(tx, booksId, request.params.userId, request.body);
        return {};
      }),
  );

  api.get(
    '/api/invitations/:secret',
    {
      config: { access: 'anyone', rateLimit: ATTEMPTS },
      schema: { params: Secret, response: { 200: InvitationShown } },
    },
    (request) => invitationOf(database, services, request.params.secret),
  );

  api.post(
    '/api/invitations/:secret/join',
    {
      config: { access: 'anyone', rateLimit: ATTEMPTS },
      schema: { params: Secret, body: Join, response: { 200: Session } },
    },
    async (request, reply) => {
      const { secret } = request.params;
      const shown = await invitationOf(database, services, secret);
      const { newUser } = request.body;
      const user = await inBooks(database, shown.booksId, async (tx) => {
        if (newUser && (await userByEmail(tx, newUser.email))) fail('EMAIL_TAKEN');
        const joining = newUser ? await createUser(tx, services, newUser) : request.user;
        if (joining === null) fail('SIGN_IN_NEEDED');
        await join(tx, shown, secret, joining.id);
        return joining;
      });
      // Whoever is signed in already stays so.
      return request.user?.id === user.id
        ? shownSession(services, options, user)
        : signInAnswer(services, options, request, reply, user);
    },
  );
}
