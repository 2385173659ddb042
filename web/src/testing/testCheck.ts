import type { ClosingCheck } from '@zubrell/contract/closing';

/** A check before a month is closed, of which nothing is known but this. */
export const testCheck = (
  kind: ClosingCheck['kind'],
  more: Partial<ClosingCheck> = {},
): ClosingCheck => ({
  kind,
  count: 0,
  amount: null,
  of: null,
  oldest: null,
  who: null,
  accountId: null,
  ...more,
});
