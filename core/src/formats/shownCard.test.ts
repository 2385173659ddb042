import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { shownCard } from './shownCard.ts';

describe('whose card it is', () => {
  it.each([
    ['5581 7000 0000 0916', '•• 0916'],
    ['558170xxxxxx0916', '•• 0916'],
    ['**** **** **** 0916', '•• 0916'],
    ['0916', '•• 0916'],
    ['I Varga', 'I Varga'],
    ['Card 2', 'Card 2'],
    ['••', '••'],
    ['', null],
    [null, null],
  ])('%s is kept as %s', (named, kept) => {
    expect(shownCard(named)).toBe(kept);
  });

  it('never keeps a whole card number, however it is written', () => {
    const digits = fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 12, maxLength: 19 });
    fc.assert(
      fc.property(digits, fc.constantFrom('', ' ', '-'), (number, between) => {
        const kept = shownCard(number.join(between)) ?? '';
        expect(kept.replace(/\D/g, '')).toBe(number.slice(-4).join(''));
      }),
    );
  });
});
