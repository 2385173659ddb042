import { describe, expect, it } from 'vitest';
import { towards } from './NudgeActions.tsx';
import { emptyCoding } from './rows.ts';

const phones = { ...emptyCoding, payeeId: 'orrin', accountId: '6030', taxCodeId: '20', tax: 120 };

describe('coding to where a nudge points', () => {
  it.each(['fixedAsset', 'refund'] as const)('keeps the tax of a %s', (nudge) => {
    expect(towards(phones, { kind: 'nudge', nudge, accountId: '1500' })).toEqual({
      ...phones,
      accountId: '1500',
    });
  });

  it.each(['loan', 'owner', 'deposit'] as const)('has no tax towards %s', (nudge) => {
    expect(towards(phones, { kind: 'nudge', nudge, accountId: '3020' })).toEqual({
      ...phones,
      accountId: '3020',
      taxCodeId: null,
      tax: null,
    });
  });
});
