import type { RecordKind } from './recordKinds.ts';

/** What is told of a record beside when and by whom. */
export interface ToldRecord {
  readonly kind: RecordKind;
  /** Whom it concerns, where that is somebody else. */
  readonly about: string | null;
  /** A name that was given with it. */
  readonly name: string | null;
  readonly details: Readonly<Record<string, string | number | boolean | null>>;
  /** What the step says of itself by which it was done. */
  readonly words: string | null;
}

/** What roles may do, as the interface says it. */
export type RoleWords = Readonly<Record<string, string>>;

const EXPORTS: Readonly<Record<string, string>> = {
  rules: 'rules',
  coding: 'the coding record',
  report: 'a report',
  records: 'the access record',
  chart: 'the chart of accounts',
  archive: 'an archive of the books',
};

/**
 * What a record says, without who did it.
 *
 * @example recordWords({ kind: 'invited', name: 'Ida', details: { role: 'client' }, … }, roles)
 * // 'Invited Ida as client'
 */
export function recordWords(record: ToldRecord, roles: RoleWords): string {
  const { about, name, details, words } = record;
  const role = (key: string) => roles[String(details[key])] ?? String(details[key]);
  const whom = about ?? 'somebody';
  const told: Readonly<Record<RecordKind, () => string>> = {
    signedIn: () => 'Signed in',
    signedOut: () => 'Signed out',
    sessionsEnded: () => 'Signed out in other browsers',
    passwordChanged: () => 'Changed their password',
    passwordReset: () => `A new password was set for ${whom} by a link`,
    secondFactorOn: () => 'Turned a second factor on',
    secondFactorOff: () => 'Turned the second factor off',
    recoveryCodeUsed: () => 'Used a recovery code to sign in',
    recoveryCodesMade: () => 'Created new recovery codes',
    passkeyAdded: () => 'Added a passkey',
    passkeyRemoved: () => 'Removed a passkey',
    passkeyUsed: () => 'Used a passkey to sign in',
    refused: () => refusedWords(record),
    firstUserMade: () => 'Became the first user',
    booksMade: () => 'Created these books',
    invited: () => `Invited ${name ?? 'somebody'} as ${role('role')}`,
    invitationWithdrawn: () => `Withdrew the invitation of ${name ?? 'somebody'}`,
    joined: () => `${about ?? 'Somebody'} joined as ${role('role')}`,
    roleChanged: () => `Changed the role of ${whom} from ${role('from')} to ${role('to')}`,
    memberRemoved: () => `Removed the access of ${whom}, who was ${role('from')}`,
    otherBooksLet: () =>
      details.seesOtherBooks === true
        ? `Let ${whom} see proposals from other books`
        : `No longer lets ${whom} see proposals from other books`,
    resetLinkMade: () =>
      `Created a link for ${whom} to set a new password${
        details.endsSecondFactor === true ? ', without the second factor' : ''
      }${details.byOperator === true ? ', where the server runs' : ''}`,
    userErased: () => `Erased the account of ${whom}`,
    settingsChanged: () => words ?? 'Changed settings',
    consentGiven: () => `Gave a consent of ${String(details.bank)}`,
    feedChanged: () => `Changed the feed ${String(details.feed)}`,
    feedEnded: () => `Ended the feed ${String(details.feed)}`,
    folderWatched: () => 'Turned on the watched folder',
    folderLeft: () => 'Turned off the watched folder',
    exported: () => `Exported ${EXPORTS[String(details.what)] ?? String(details.what)}`,
  };
  return told[record.kind]();
}

/** What was refused, why, and how often more in the same minute. */
function refusedWords({ about, details }: ToldRecord): string {
  const { code, route, more } = details;
  const reason = REASONS[String(code)] ?? `Was refused (${String(code)})`;
  const whom = about === null ? '' : `, as ${about}`;
  const where =
    code === 'SIGN_IN_WRONG' || code === 'SIGN_IN_TOO_OFTEN' ? '' : `: ${String(route)}`;
  const often = typeof more === 'number' ? ` (${more} more before it)` : '';
  return `${reason}${whom}${where}${often}`;
}

const REASONS: Readonly<Record<string, string>> = {
  SIGN_IN_WRONG: 'Tried to sign in with a wrong address or password',
  SIGN_IN_TOO_OFTEN: 'Tried to sign in too often',
  SECOND_FACTOR_WRONG: 'Gave a wrong code of the second factor',
  PASSKEY_WRONG: 'Tried to sign in with a passkey that is not accepted',
  PASSWORD_WRONG: 'Gave a wrong current password',
  SET_UP_CODE_WRONG: 'Gave a wrong set-up code',
  INVITATION_UNKNOWN: 'Opened an invitation that is no more',
  RESET_UNKNOWN: 'Opened a link for a new password that is no more',
  BOOKS_UNKNOWN: 'Asked for books that are not theirs',
  ROLE_TOO_LOW: 'Asked for what their role does not allow',
  ORIGIN_FOREIGN: 'A page of another site asked for a change',
};
