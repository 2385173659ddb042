/** What is on record beside steps, by the groups in which it is shown. */
export const recordKindsByGroup = {
  signingIn: [
    'signedIn',
    'signedOut',
    'sessionsEnded',
    'passwordChanged',
    'passwordReset',
    'secondFactorOn',
    'secondFactorOff',
    'recoveryCodeUsed',
    'recoveryCodesMade',
    'passkeyAdded',
    'passkeyRemoved',
    'passkeyUsed',
  ],
  refusals: ['refused'],
  people: [
    'firstUserMade',
    'booksMade',
    'invited',
    'invitationWithdrawn',
    'joined',
    'roleChanged',
    'memberRemoved',
    'otherBooksLet',
    'resetLinkMade',
    'userErased',
  ],
  settings: [
    'settingsChanged',
    'consentGiven',
    'feedChanged',
    'feedEnded',
    'folderWatched',
    'folderLeft',
  ],
  exports: ['exported'],
} as const;

/** A group of kinds of records. */
export type RecordGroup = keyof typeof recordKindsByGroup;

/** What is on record. */
export type RecordKind = (typeof recordKindsByGroup)[RecordGroup][number];

/** The groups of kinds of records. */
export const recordGroups = Object.keys(recordKindsByGroup) as [RecordGroup, ...RecordGroup[]];

/** All kinds of records. */
export const recordKinds = Object.values(recordKindsByGroup).flat() as [
  RecordKind,
  ...RecordKind[],
];
