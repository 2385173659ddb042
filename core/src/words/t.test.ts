import { beforeEach, describe, expect, it, vi } from 'vitest';

/** A language with another order of words and four forms of what is counted. */
const catalogue = vi.hoisted(() => ({
  language: 'pl',
  texts: {
    Cancel: 'Anuluj',
    'Undo step {0} of {1}': '{1}: cofnij krok {0}',
    'Posted {0}': 'Zaksięgowano {0}',
    'The amount is missing.': 'Brakuje kwoty.',
    March: 'marzec',
    '“{text}” has more than {digits} decimals, more than {currency} has.':
      '{currency}: „{text}” ma więcej niż {digits} miejsca.',
  },
  counted: { lines: { one: 'wiersz', few: 'wiersze', many: 'wierszy', other: 'wiersza' } },
}));
vi.mock('./catalogue.ts', () => ({ catalogue }));

describe('a text in another language', () => {
  let words: typeof import('./t.ts');
  beforeEach(async () => {
    words = await import('./t.ts');
  });

  it('is found by its English, with its values where that language has them', () => {
    const { t } = words;
    expect(t`Cancel`).toBe('Anuluj');
    expect(t`Undo step ${12} of ${'Ida'}`).toBe('Ida: cofnij krok 12');
  });

  it('is English where it is not translated', () => {
    const { t, counted } = words;
    expect(t`Save ${'bill'}`).toBe('Save bill');
    expect(counted(2, 'rule', 'rules')).toBe('2 rules');
  });

  it('leaves what somebody typed alone', () => {
    const { t } = words;
    expect(t`Undo step ${1} of ${'{0} Cancel'}`).toBe('{0} Cancel: cofnij krok 1');
    expect(t`Nothing says ${null}`).toBe('Nothing says ');
  });

  it('counts as that language does', () => {
    const { counted, nounOf } = words;
    expect([1, 3, 5, 22].map((count) => counted(count, 'line', 'lines'))).toEqual([
      '1 wiersz',
      '3 wiersze',
      '5 wierszy',
      '22 wiersze',
    ]);
    expect(counted(2_340, 'line', 'lines', '2 340')).toBe('2 340 wierszy');
    expect(nounOf(4, 'line', 'lines')).toBe('wiersze');
  });

  it('goes for steps, errors and months too', async () => {
    const { linesSaid, saidWords, say } = await import('./say.ts');
    expect(saidWords(say`Posted ${linesSaid(3)}`)).toBe('Zaksięgowano 3 wiersze');
    const { formatMonth } = await import('../dates/calendarDate.ts');
    expect(formatMonth('2026-03')).toBe('marzec 2026');
    const { messageOf } = await import('../errors.ts');
    expect(messageOf('AMOUNT_MISSING')).toBe('Brakuje kwoty.');
    expect(messageOf('AMOUNT_TOO_FINE', { text: '1.234', digits: 2, currency: 'EUR' })).toBe(
      'EUR: „1.234” ma więcej niż 2 miejsca.',
    );
  });
});
