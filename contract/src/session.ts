import { locales } from '@zubrell/core/people/locales';
import { z } from 'zod';
import { Id, neededText, text } from './common.ts';

export const User = z.object({
  id: Id,
  name: z.string(),
  email: z.string(),
  /** How they read and write dates and amounts. */
  locale: z.enum(locales),
});
export type User = z.infer<typeof User>;

/** Who is signed in here, and what the sign-in page can offer. */
export const Session = z.object({
  user: User.nullable(),
  isDemo: z.boolean(),
  needsFirstUser: z.boolean(),
  today: z.iso.date(),
});
export type Session = z.infer<typeof Session>;

export const ChooseLocale = User.pick({ locale: true });
export type ChooseLocale = z.infer<typeof ChooseLocale>;

export const SignIn = z.object({
  email: z.email({ error: 'an e-mail address is needed' }).max(254),
  password: text(200).min(1, { error: 'a password is needed' }),
  /** Of the second factor's device, or a recovery code, where the account has one. */
  code: text(40).optional(),
});
export type SignIn = z.infer<typeof SignIn>;

/** Whether one has a second factor, and how many recovery codes are left. */
export const SecondFactor = z.object({ isOn: z.boolean(), codesLeft: z.number() });
export type SecondFactor = z.infer<typeof SecondFactor>;

/** What a device takes as a second factor: as text, and as the address that its camera reads. */
export const SecondFactorBegun = z.object({ secret: z.string(), uri: z.string() });
export type SecondFactorBegun = z.infer<typeof SecondFactorBegun>;

/** A code that the device shows, or a recovery code. */
export const SecondFactorCode = z.object({
  code: text(40).min(1, { error: 'a code is needed' }),
});
export type SecondFactorCode = z.infer<typeof SecondFactorCode>;

/** Codes that stand in for the device once each; they are shown this once. */
export const RecoveryCodes = z.object({ codes: z.array(z.string()) });
export type RecoveryCodes = z.infer<typeof RecoveryCodes>;

/** A passkey of who is signed in. */
export const Passkey = z.object({
  id: z.string(),
  name: z.string(),
  createdAt: z.string(),
  lastUsedAt: z.string().nullable(),
});
export type Passkey = z.infer<typeof Passkey>;
export const Passkeys = z.object({ passkeys: z.array(Passkey) });
export type Passkeys = z.infer<typeof Passkeys>;

/** What a device is asked to sign, as WebAuthn's JSON has it. */
export const PasskeyOptions = z.looseObject({ challenge: z.string() });
export type PasskeyOptions = z.infer<typeof PasskeyOptions>;

const bytes = text(20_000).regex(/^[\w-]*$/);
const signed = {
  id: bytes,
  rawId: bytes,
  type: z.literal('public-key'),
  clientExtensionResults: z.object({}),
};

/** A new passkey, as a device answers (WebAuthn, RegistrationResponseJSON), and what its user calls it. */
export const AddPasskey = z.object({
  name: neededText(60, 'a name is needed'),
  made: z.object({
    ...signed,
    response: z.object({
      clientDataJSON: bytes,
      attestationObject: bytes,
      transports: z.array(text(20)).max(10).optional(),
    }),
  }),
});
export type AddPasskey = z.infer<typeof AddPasskey>;

/** A signed challenge, as a device answers (WebAuthn, AuthenticationResponseJSON). */
export const SignInByPasskey = z.object({
  ...signed,
  response: z.object({
    clientDataJSON: bytes,
    authenticatorData: bytes,
    signature: bytes,
    userHandle: bytes.optional(),
  }),
});
export type SignInByPasskey = z.infer<typeof SignInByPasskey>;

/** The password, to have an account erased. */
export const EraseAccount = z.object({
  password: text(200).min(1, { error: 'the password is needed' }),
});
export type EraseAccount = z.infer<typeof EraseAccount>;

/** Whose password a link sets. */
export const ResetShown = z.object({ name: z.string(), email: z.string() });
export type ResetShown = z.infer<typeof ResetShown>;

export const ResetPassword = z.object({
  password: text(200).min(10, { error: 'ten characters or more are needed' }),
});
export type ResetPassword = z.infer<typeof ResetPassword>;

/** A browser in which somebody is signed in. */
export const OpenSession = z.object({
  id: Id,
  browser: z.string(),
  address: z.string(),
  createdAt: z.string(),
  lastSeenAt: z.string(),
  /** Whether it is the one that asks. */
  isThis: z.boolean(),
});
export type OpenSession = z.infer<typeof OpenSession>;
export const OpenSessions = z.object({ sessions: z.array(OpenSession) });

export const ChangePassword = z.object({
  present: text(200).min(1, { error: 'the present password is needed' }),
  fresh: text(200).min(10, { error: 'ten characters or more are needed' }),
});
export type ChangePassword = z.infer<typeof ChangePassword>;

export const FirstUser = z.object({
  name: neededText(100, 'a name is needed'),
  email: z.email({ error: 'an e-mail address is needed' }).max(254),
  password: text(200).min(10, { error: 'ten characters or more are needed' }),
});
export type FirstUser = z.infer<typeof FirstUser>;

/** The first user of an installation names the code that was printed where it was started. */
export const SetUp = FirstUser.extend({
  code: text(40).min(1, { error: 'the set-up code is needed' }),
});
export type SetUp = z.infer<typeof SetUp>;
