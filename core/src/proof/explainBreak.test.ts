import { describe, expect, it } from 'vitest';
import { type BreakLine, explainBreak } from './explainBreak.ts';

const line = (id: string, amount: number, change: Partial<BreakLine> = {}): BreakLine => ({
  id,
  date: '2026-03-09',
  amount,
  description: 'TIDEMARK FRT 1',
  isWeighed: true,
  isDoubted: false,
  ...change,
});

const others = [line('rent', -40_000, { description: 'RENT' }), line('sale', 12_222)];

describe('a balance that is not reached', () => {
  it('is explained by a line that is in twice', () => {
    const found = explainBreak(4_850, [...others, line('a', -4_850), line('b', -4_850)]);
    expect(found).toMatchObject({ reason: 'inTwice', lineId: 'a' });
  });

  it('is explained by a line that is doubted already, though its original is older', () => {
    const doubted = line('b', -4_850, { description: 'Tidemark', isDoubted: true });
    expect(explainBreak(4_850, [...others, doubted])).toMatchObject({ lineId: 'b' });
  });

  it('is not explained so by one line alone, or by one that weighs nothing', () => {
    expect(explainBreak(4_850, [...others, line('a', -4_850)])).toBeNull();
    const copy = line('b', -4_850, { isWeighed: false });
    expect(explainBreak(4_850, [...others, line('a', -4_850), copy])).toBeNull();
  });

  it('is explained by a real line that was excluded', () => {
    const out = line('out', -4_850, { isWeighed: false });
    expect(explainBreak(-4_850, [...others, out])).toMatchObject({ reason: 'keptOut' });
  });

  it('is explained by a sign turned round: the difference is twice the amount', () => {
    expect(explainBreak(-9_700, [...others, line('a', 4_850)])).toMatchObject({
      reason: 'turned',
      lineId: 'a',
    });
  });

  it('is explained by two digits swapped', () => {
    expect(explainBreak(5_400 - 4_500, [...others, line('a', 4_500)])).toMatchObject({
      reason: 'transposed',
      lineId: 'a',
    });
  });

  it('is not explained by digits swapped where several lines would do', () => {
    const two = [...others, line('a', 4_500), line('b', 12_345)];
    expect(explainBreak(900, two)).toBeNull();
  });

  it('is left unexplained where no single line would do it', () => {
    expect(explainBreak(777, others)).toBeNull();
  });
});
