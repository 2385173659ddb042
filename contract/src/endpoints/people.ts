import { BooksParams, Id, Nothing, SecretParams, UserId } from '../common.ts';
import { endpoints } from '../endpoint.ts';
import {
  InvitationShown,
  Invite,
  Invited,
  Join,
  LetSeeOtherBooks,
  MakeResetLink,
  People,
  ResetLink,
  SetRole,
} from '../people.ts';
import { Session } from '../session.ts';

const MemberParams = BooksParams.extend({ userId: UserId });

/** Who works with books: members, their roles, invitations. */
export const peopleEndpoints = endpoints({
  people: {
    method: 'GET',
    path: '/books/:booksId/people',
    access: 'reviewer',
    params: BooksParams,
    answer: People,
    reads: ['people'],
  },
  invite: {
    method: 'POST',
    path: '/books/:booksId/invitations',
    access: 'owner',
    params: BooksParams,
    body: Invite,
    answer: Invited,
    touches: ['member'],
  },
  withdrawInvitation: {
    method: 'POST',
    path: '/books/:booksId/invitations/:invitationId/withdraw',
    access: 'owner',
    params: BooksParams.extend({ invitationId: Id }),
    answer: Nothing,
    touches: ['member'],
  },
  setRole: {
    method: 'PATCH',
    path: '/books/:booksId/people/:userId',
    access: 'owner',
    params: MemberParams,
    body: SetRole,
    answer: Nothing,
    touches: ['member'],
  },
  letSeeOtherBooks: {
    method: 'PATCH',
    path: '/books/:booksId/people/:userId/other-books',
    access: 'owner',
    params: MemberParams,
    body: LetSeeOtherBooks,
    answer: Nothing,
    touches: ['member', 'proposals'],
  },
  makeResetLink: {
    method: 'POST',
    path: '/books/:booksId/people/:userId/reset-link',
    access: 'owner',
    params: MemberParams,
    body: MakeResetLink,
    answer: ResetLink,
    touches: [],
  },
  eraseMember: {
    method: 'POST',
    path: '/books/:booksId/people/:userId/erase',
    access: 'owner',
    params: MemberParams,
    answer: Nothing,
    touches: ['member'],
  },
  invitation: {
    method: 'GET',
    path: '/invitations/:secret',
    access: 'anyone',
    params: SecretParams,
    answer: InvitationShown,
    reads: [],
  },
  join: {
    method: 'POST',
    path: '/invitations/:secret/join',
    access: 'anyone',
    params: SecretParams,
    body: Join,
    answer: Session,
    touches: ['session', 'listing'],
  },
});
