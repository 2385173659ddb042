import { describe, expect, it } from 'vitest';
import { type PastCoding, proposeFromHabit } from './habit/proposeFromHabit.ts';
import { laneOf } from './proposal.ts';
import { doubtLabel, doubtWords, groundWords } from './words.ts';

function past(accountId: string, times: number, change: Partial<PastCoding> = {}): PastCoding {
  return {
    accountId,
    payeeId: 'payee',
    taxCodeId: '20',
    times,
    largeTimes: 0,
    lastStep: 1,
    isAccountOn: true,
    ...change,
  };
}

const name = (id: string) => (id === '6010' ? '6010 Freight out' : '5000 Clay and glazes');

describe('the simplest habit', () => {
  it('is sure after three decisions, always to one account', () => {
    expect(laneOf(proposeFromHabit([]))).toBe('blank');
    expect(laneOf(proposeFromHabit([past('6010', 2)]))).toBe('check');
    const sure = proposeFromHabit([past('6010', 3)]);
    expect(laneOf(sure)).toBe('ready');
    expect(sure?.grounds.map((ground) => groundWords(ground, name))).toEqual([
      'All 3 look-alikes went to 6010 Freight out.',
    ]);
  });

  it('takes the newest payee and tax code, and doubts where tax codes differ', () => {
    const proposal = proposeFromHabit([
      past('6010', 5),
      past('6010', 1, { payeeId: 'renamed', lastStep: 9 }),
    ]);
    expect(proposal?.coding.payeeId).toBe('renamed');
    expect(laneOf(proposal)).toBe('ready');
    const mixed = proposeFromHabit([past('6010', 5), past('6010', 1, { taxCodeId: null })]);
    expect(mixed?.doubts).toEqual([{ kind: 'severalTaxCodes' }]);
  });

  it('never hides that look-alikes went to several accounts', () => {
    const proposal = proposeFromHabit([past('5000', 4), past('6010', 31)]);
    expect(laneOf(proposal)).toBe('check');
    const [doubt] = proposal?.doubts ?? [];
    expect(doubt && doubtLabel(doubt)).toBe('two usual accounts');
    expect(doubt && doubtWords(doubt, name)).toContain(
      '31 to 6010 Freight out, 4 to 5000 Clay and glazes',
    );
    const [ground] = proposal?.grounds ?? [];
    expect(ground && groundWords(ground, name)).toBe(
      '31 of 35 look-alikes went to 6010 Freight out.',
    );
  });

  it('doubts an account that is switched off', () => {
    const off = proposeFromHabit([past('6010', 3, { isAccountOn: false })]);
    expect(off?.doubts).toEqual([{ kind: 'accountOff', accountId: '6010' }]);
  });
});
