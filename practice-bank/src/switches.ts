/** What can be made to go wrong at the practice bank, in words for its page. */
export const switchWords = {
  slow: 'Answers take a long time',
  down: 'The bank is down',
  refuseSignIn: 'Signing in is refused',
  expireConsents: 'Consents have expired',
  resend: 'Lines are sent twice, and older ones again',
  newIds: 'Every answer gives the lines other ids',
  holdBack: 'Some lines of the last days come late',
  changeAnnounced: 'Announced amounts differ from the booked ones',
  garbage: 'A page of words comes instead of lines',
  cutOff: 'Answers break off in the middle',
  tooMany: 'Too many requests',
  fewCalls: 'The day’s allowance is nearly used',
} as const;

/** One kind of trouble. */
export type Switch = keyof typeof switchWords;

/** Every kind of trouble, in the order of the page. */
export const switchNames = Object.keys(switchWords) as readonly Switch[];
