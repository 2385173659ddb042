import type { DraftCoding, DraftPart } from '@zubrell/contract/coding';
import { describe, expect, it } from 'vitest';
import { testBooks } from '../../../testing/testBooks.ts';
import { completeCoding, draftOf, isSameCoding } from '../rows.ts';
import { endSplit, splitPrivately, splitState, startSplit } from './split.ts';

const setup = testBooks();
const whole: DraftCoding = {
  payeeId: 'payee',
  accountId: '6010',
  taxCodeId: '20',
  note: null,
  tax: null,
  parts: null,
};
const part = (accountId: string | null, share: DraftPart['share']): DraftPart => ({
  accountId,
  taxCodeId: null,
  share,
  tax: null,
});

describe('splitting a line', () => {
  it('starts with what it was coded to as the rest, and goes back to it', () => {
    const split = startSplit(whole);
    expect(split.parts).toMatchObject([
      { accountId: null, share: { kind: 'fixed', amount: 0 } },
      { accountId: '6010', taxCodeId: '20', share: { kind: 'rest' } },
    ]);
    expect(endSplit(split)).toEqual(whole);
  });

  it('takes half as private by one press, with what it was coded to as the other half', () => {
    const { parts } = splitPrivately({ ...whole, costCentreId: 'studio' }, 'drawings');
    expect(parts).toMatchObject([
      { accountId: 'drawings', taxCodeId: null, share: { kind: 'percent', basisPoints: 5_000 } },
      { accountId: '6010', taxCodeId: '20', costCentreId: 'studio' },
    ]);
    expect(splitState(-4_851, parts ?? [])).toEqual({ kind: 'whole', amounts: [-2_426, -2_425] });
  });

  it('works out every part, or says what is left', () => {
    const parts = [part('a', { kind: 'fixed', amount: -100 }), part('b', { kind: 'rest' })];
    expect(splitState(-4_850, parts)).toEqual({ kind: 'whole', amounts: [-100, -4_750] });
    const short = [part('a', { kind: 'fixed', amount: -100 })];
    expect(splitState(-4_850, short)).toMatchObject({ kind: 'open', left: -4_750 });
    const percent = [part('a', { kind: 'percent', basisPoints: 4_000 })];
    expect(splitState(-4_850, percent)).toMatchObject({ kind: 'open', left: 0 });
  });

  it('is complete when every part has its account', () => {
    const parts = [part(null, { kind: 'fixed', amount: -100 }), part('b', { kind: 'rest' })];
    expect(completeCoding({ ...whole, parts }, setup)).toEqual({
      missing: 'the account of each part',
    });
    const named = parts.map((each) => ({ ...each, accountId: each.accountId ?? 'a' }));
    const complete = completeCoding({ ...whole, parts: named }, setup);
    expect(complete).toMatchObject({ coding: { parts: named } });
    const draft = 'coding' in complete ? draftOf(complete.coding) : whole;
    expect(isSameCoding(draft, { ...whole, parts: named })).toBe(true);
    expect(isSameCoding(draft, whole)).toBe(false);
  });
});
