import { z } from 'zod';
import { Id } from './common.ts';

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
  email: z.email({ error: 'an e-mail address is needed' }),
  password: z.string().min(1, { error: 'a password is needed' }).max(200),
});
export type SignIn = z.infer<typeof SignIn>;

export const FirstUser = z.object({
  name: z.string().trim().min(1, { error: 'a name is needed' }).max(100),
  email: z.email({ error: 'an e-mail address is needed' }),
  password: z.string().min(10, { error: 'ten characters or more are needed' }).max(200),
});
export type FirstUser = z.infer<typeof FirstUser>;
