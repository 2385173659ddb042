import type { Feed } from '@zubrell/contract/feeds';

/** A feed that was never fetched. */
export const testFeed = (change: Partial<Feed> = {}): Feed => ({
  id: 'feed',
  connector: 'practice',
  bankName: 'Wick & Alder',
  remoteName: 'Everyday',
  remoteNumber: null,
  bankAccountId: null,
  isDaily: true,
  lookBackDays: null,
  isFetching: false,
  lastAt: null,
  lastGoodAt: null,
  lastFrom: null,
  lastTo: null,
  result: null,
  callsLeft: null,
  nextAt: null,
  failures: 0,
  consentExpires: null,
  announced: [],
  ...change,
});

/** What a fetch brought: three new lines of twelve. */
export const testFetched = {
  kind: 'fetched',
  lineCount: 12,
  newCount: 3,
  doubtfulCount: 0,
  batchId: null,
  difference: 0,
} as const;
