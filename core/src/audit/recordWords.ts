import { t } from '../words/t.ts';
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
  rules: t`rules`,
  coding: t`the coding record`,
  report: t`a report`,
  records: t`the access record`,
  chart: t`the chart of accounts`,
  archive: t`an archive of the books`,
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
    signedIn: () => t`Signed in`,
    signedOut: () => t`Signed out`,
    sessionsEnded: () => t`Signed out in other browsers`,
    passwordChanged: () => t`Changed their password`,
    passwordReset: () => t`A new password was set for ${whom} by a link`,
    secondFactorOn: () => t`Turned a second factor on`,
    secondFactorOff: () => t`Turned the second factor off`,
    recoveryCodeUsed: () => t`Used a recovery code to sign in`,
    recoveryCodesMade: () => t`Created new recovery codes`,
    passkeyAdded: () => t`Added a passkey`,
    passkeyRemoved: () => t`Removed a passkey`,
    passkeyUsed: () => t`Used a passkey to sign in`,
    refused: () => refusedWords(record),
    firstUserMade: () => t`Became the first user`,
    booksMade: () => t`Created these books`,
    invited: () => t`Invited ${name ?? t`somebody`} as ${role('role')}`,
    invitationWithdrawn: () => t`Withdrew the invitation of ${name ?? t`somebody`}`,
    joined: () => t`${about ?? t`Somebody`} joined as ${role('role')}`,
    roleChanged: () => t`Changed the role of ${whom} from ${role('from')} to ${role('to')}`,
    memberRemoved: () => t`Removed the access of ${whom}, who was ${role('from')}`,
    otherBooksLet: () =>
      details.seesOtherBooks === true
        ? t`Let ${whom} see proposals from other books`
        : t`No longer lets ${whom} see proposals from other books`,
    resetLinkMade: () =>
      t`Created a link for ${whom} to set a new password${details.endsSecondFactor === true ? t`, without the second factor` : ''}${details.byOperator === true ? t`, where the server runs` : ''}`,
    userErased: () => t`Erased the account of ${whom}`,
    settingsChanged: () => words ?? t`Changed settings`,
    consentGiven: () => t`Gave a consent of ${String(details.bank)}`,
    feedChanged: () => t`Changed the feed ${String(details.feed)}`,
    feedEnded: () => t`Ended the feed ${String(details.feed)}`,
    folderWatched: () => t`Turned on the watched folder`,
    folderLeft: () => t`Turned off the watched folder`,
    exported: () => t`Exported ${EXPORTS[String(details.what)] ?? String(details.what)}`,
  };
  return told[record.kind]();
}

/** What was refused, why, and how often more in the same minute. */
function refusedWords({ about, details }: ToldRecord): string {
  const { code, route, more } = details;
  const reason = REASONS[String(code)] ?? t`Was refused (${String(code)})`;
  const whom = about === null ? '' : t`, as ${about}`;
  const where =
    code === 'SIGN_IN_WRONG' || code === 'SIGN_IN_TOO_OFTEN' ? '' : `: ${String(route)}`;
  const often = typeof more === 'number' ? t` (${more} more before it)` : '';
  return `${reason}${whom}${where}${often}`;
}

const REASONS: Readonly<Record<string, string>> = {
  SIGN_IN_WRONG: t`Tried to sign in with a wrong address or password`,
  SIGN_IN_TOO_OFTEN: t`Tried to sign in too often`,
  SECOND_FACTOR_WRONG: t`Gave a wrong code of the second factor`,
  PASSKEY_WRONG: t`Tried to sign in with a passkey that is not accepted`,
  PASSWORD_WRONG: t`Gave a wrong current password`,
  SET_UP_CODE_WRONG: t`Gave a wrong set-up code`,
  INVITATION_UNKNOWN: t`Opened an invitation that is no more`,
  RESET_UNKNOWN: t`Opened a link for a new password that is no more`,
  BOOKS_UNKNOWN: t`Asked for books that are not theirs`,
  ROLE_TOO_LOW: t`Asked for what their role does not allow`,
  ORIGIN_FOREIGN: t`A page of another site asked for a change`,
};
