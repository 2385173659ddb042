import { describe, expect, it } from 'vitest';
import { parseSearch } from './parseSearch.ts';
import { plainWording } from './plainWording.ts';
import { stemOf } from './stemOf.ts';

const stem = (description: string, payee: string | null = null) =>
  stemOf({ description, payee, reference: null });

describe('the stem of a wording', () => {
  it('stays the same when terminals, references, dates, case and spaces change', () => {
    const wordings = [
      'CRD PUR TIDEMARK FRT 20318',
      'Card purchase  Tidemark  Frt. 20344 03MAR',
      'TIDEMARK FRT 2026-03-17 REF 881',
      'XXXX 0916 tidemark frt EUR 41.70',
    ];
    expect(new Set(wordings.map((wording) => stem(wording)))).toEqual(new Set(['TIDEMARK FRT']));
  });

  it('keeps payees apart that share a leading word', () => {
    expect(stem('NORTH BANK FOODS 12')).not.toBe(stem('NORTH BANK GARAGE 12'));
  });

  it('is taken from the payee where the description says nothing, and is never empty', () => {
    expect(stem('CARD PAYMENT 0916', 'Cobble Café')).toBe('COBBLE CAFE');
    expect(stem('CARD PAYMENT 0916')).toBe('CARD PAYMENT #');
    expect(stem('')).toBe('—');
  });
});

describe('search', () => {
  it('tells amounts from text', () => {
    expect(parseSearch('48.50', 'EUR')).toEqual({ kind: 'amount', from: 4850, to: 4850 });
    expect(parseSearch('40 .. 60', 'EUR')).toEqual({ kind: 'amount', from: 4000, to: 6000 });
    expect(parseSearch('>500', 'EUR')).toMatchObject({ kind: 'amount', from: 50001 });
    expect(parseSearch('< 5', 'EUR')).toEqual({ kind: 'amount', from: 0, to: 499 });
    expect(parseSearch('kiln 2', 'EUR')).toEqual({ kind: 'text', text: 'kiln 2' });
    expect(parseSearch('a..b', 'EUR')).toEqual({ kind: 'text', text: 'a..b' });
    expect(parseSearch('  ', 'EUR')).toEqual({ kind: 'all' });
  });

  it('compares without case, accents and punctuation', () => {
    expect(plainWording('Crd  Pur. Café-Löwe 12')).toBe('CRD PUR CAFE LOWE 12');
    expect(plainWording('STRAẞE ﬁn ＡＢ')).toBe(plainWording('Straße FIN ab'));
    expect(plainWording('ΟΔΟΣ ΝΈΑ')).toBe(plainWording('οδος νέα'));
    expect(plainWording('İSTANBUL')).toBe(plainWording('istanbul'));
    expect(plainWording('ﷺ'.repeat(500)).length).toBeLessThanOrEqual(600);
  });
});
