import type { Proof, ProofCause } from '@zubrell/contract/desk';

/** A proof to the end of March that a stated balance proves. */
export const testProof = (change: Partial<Proof> = {}): Proof => ({
  date: '2026-03-31',
  currency: 'EUR',
  otherCount: 0,
  bank: 10_000,
  isStated: true,
  statedDate: '2026-03-31',
  accountCount: 1,
  statedCount: 1,
  open: 0,
  openCount: 0,
  keptOut: 0,
  keptOutCount: 0,
  outstanding: 0,
  outstandingCount: 0,
  shouldSay: 10_000,
  books: 10_000,
  unexplained: 0,
  causes: [],
  ...change,
});

/** Why 48.50 of a proof are unexplained. */
export const testCause = (change: Partial<ProofCause> = {}): ProofCause => ({
  kind: 'unknown',
  amount: 4_850,
  bankAccountId: 'everyday',
  date: '2026-03-20',
  lineId: null,
  entryId: null,
  text: null,
  since: null,
  likely: null,
  ...change,
});
