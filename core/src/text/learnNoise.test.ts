import { describe, expect, it } from 'vitest';
import { learnNoise } from './learnNoise.ts';
import { stemOf } from './stemOf.ts';

const NAMES = [
  'ADLER HOF',
  'BIRKE BAU',
  'DROSSEL DRUCK',
  'EIBE GARTEN',
  'FINK FLUG',
  'GIMPEL GLAS',
  'HASEL HOLZ',
  'ILTIS INN',
  'KIEFER KUNST',
  'LERCHE LACK',
  'MEISE MARKT',
  'NELKE NETZ',
] as const;
const line = (description: string, reference: string | null = null) => ({
  description,
  payee: null,
  reference,
});
const each = (make: (name: string) => ReturnType<typeof line>) => NAMES.map(make);

describe('words that say how money moved', () => {
  it('are those that many different names come after', () => {
    const noise = learnNoise([
      ...each((name) => line(`GUTSCHRIFT ${name}`)),
      ...each((name) => line(name)),
    ]);
    expect([...noise]).toEqual(['GUTSCHRIFT']);
    expect(stemOf(line('GUTSCHRIFT ADLER HOF 88'), noise)).toBe('ADLER HOF');
  });

  it('are phrases too, and words behind such words', () => {
    const lines = [
      ...each((name) => line(`PAIEMENT CB ${name}`)),
      ...each((name) => line(`ACHAT CB ${name}`)),
    ];
    const noise = learnNoise(lines);
    expect(noise).toEqual(new Set(['PAIEMENT', 'CB', 'ACHAT']));
    expect(stemOf(line('ACHAT CB ADLER HOF'), noise)).toBe('ADLER HOF');
  });

  it('are found where the names stand in the reference', () => {
    const noise = learnNoise(each((name) => line('LASTSCHRIFT', name)));
    expect(stemOf(line('LASTSCHRIFT', 'ADLER HOF'), noise)).toBe('ADLER HOF');
    // Where there is nothing else, the word itself stays.
    expect(stemOf(line('LASTSCHRIFT 4471'), noise)).toBe('LASTSCHRIFT');
  });

  it('are not a payee’s name, its trade, or what begins a few names only', () => {
    const hedgerow = Array.from({ length: 40 }, (_, at) => line(`HEDGEROW CARDS PAYOUT ${at}`));
    const trades = NAMES.map((name) => line(`${name.split(' ')[0]} MADERAS ${name.split(' ')[1]}`));
    const few = NAMES.slice(0, 6).flatMap((name) => [
      line(`HARROW ${name}`),
      line(`HARROW ${name}`),
    ]);
    expect(learnNoise([...hedgerow, ...trades, ...few])).toEqual(new Set());
  });
});
