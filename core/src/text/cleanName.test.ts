import { describe, expect, it } from 'vitest';
import { cleanName } from './cleanName.ts';

describe('a clean name', () => {
  it('has capitals where words begin, and leaves abbreviations as they are', () => {
    expect(cleanName('ROOKHOPE TIMBER YARD')).toBe('Rookhope Timber Yard');
    expect(cleanName('TIDEMARK FRT')).toBe('Tidemark FRT');
    expect(cleanName('CAFÉ LÖWE')).toBe('Café Löwe');
    expect(cleanName('')).toBe('');
  });

  it.each([
    ['PAYMENT TO ORRIN BELL #', 'Orrin Bell'],
    ['CARD PURCHASE AT LINNET POST', 'Linnet Post'],
    ['ORRIN BELL RECEIVED THANK YOU', 'Orrin Bell'],
    ['PAYMENT RECEIVED THANK YOU', 'Payment'],
    ['TRANSFER TO # CARD', 'Card'],
    ['TRANSFER TO', 'Transfer To'],
    ['CARD WORKSHOP', 'Card Workshop'],
    ['# #', ''],
  ])('of %s is %s', (stem, name) => {
    expect(cleanName(stem)).toBe(name);
  });
});
