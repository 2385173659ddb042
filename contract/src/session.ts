import { z } from 'zod';
import { Id, neededText, text } from './common.ts';

export const User = z.object({ id: Id, name: z.string(), email: z.string() });
export type User = z.infer<typeof User>;

/** Who is signed in here, and what the sign-in page can offer. */
export const Session = z.object({
  user: User.nullable(),
  isDemo: z.boolean(),
  needsFirstUser: z.boolean(),
  today: z.iso.date(),
});
export type Session = z.infer<typeof Session>;

export const SignIn = z.object({
  email: z.email({ error: 'an e-mail address is needed' }).max(254),
  password: text(200).min(1, { error: 'a password is needed' }),
});
export type SignIn = z.infer<typeof SignIn>;

export const FirstUser = z.object({
  name: neededText(100, 'a name is needed'),
  email: z.email({ error: 'an e-mail address is needed' }).max(254),
  password: text(200).min(10, { error: 'ten characters or more are needed' }),
});
export type FirstUser = z.infer<typeof FirstUser>;
