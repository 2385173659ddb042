import { z } from 'zod';
import { Role } from './books.ts';
import { BooksId, Id, neededText, UserId } from './common.ts';
import { FirstUser } from './session.ts';

/** Somebody who works with books. */
export const Member = z.object({
  userId: UserId,
  name: z.string(),
  email: z.string(),
  role: Role,
  /** Whether they may see what comes from the owner's other books; owners always do. */
  seesOtherBooks: z.boolean(),
});
export type Member = z.infer<typeof Member>;

/** An invitation that nobody has taken up yet. */
export const Invitation = z.object({
  id: Id,
  name: z.string(),
  role: Role,
  invitedBy: z.string(),
  expiresAt: z.string(),
});
export type Invitation = z.infer<typeof Invitation>;

export const People = z.object({
  members: z.array(Member),
  invitations: z.array(Invitation),
});
export type People = z.infer<typeof People>;

export const Invite = z.object({
  /** Whom it is for: questions to this name become theirs. */
  name: neededText(100, 'say who is invited'),
  role: Role,
});
export type Invite = z.infer<typeof Invite>;

/** The secret is shown this once; whoever has it can join. */
export const Invited = z.object({ id: Id, secret: z.string() });
export type Invited = z.infer<typeof Invited>;

/** Another role for somebody, or none any more. */
export const SetRole = z.object({ role: Role.nullable() });
export type SetRole = z.infer<typeof SetRole>;

/** A link by which somebody sets a new password; the second factor goes too where its device is lost. */
export const MakeResetLink = z.object({ endsSecondFactor: z.boolean() });
export type MakeResetLink = z.infer<typeof MakeResetLink>;

/** The secret is shown this once; whoever has it can set the password. */
export const ResetLink = z.object({ secret: z.string() });
export type ResetLink = z.infer<typeof ResetLink>;

/** Lets somebody see what comes from the owner's other books, or no longer. */
export const LetSeeOtherBooks = z.object({ seesOtherBooks: z.boolean() });
export type LetSeeOtherBooks = z.infer<typeof LetSeeOtherBooks>;

/** What somebody with the link is invited to. */
export const InvitationShown = z.object({
  booksId: BooksId,
  booksName: z.string(),
  name: z.string(),
  role: Role,
  invitedBy: z.string(),
});
export type InvitationShown = z.infer<typeof InvitationShown>;

/** Takes an invitation up: who is signed in already, or a new user. */
export const Join = z.object({ newUser: FirstUser.nullable() });
export type Join = z.infer<typeof Join>;
