import { describe, expect, it } from 'vitest';
import { type CutWords, cutWordsOf } from './cutWords.ts';

const shown = (text: string) => ({
  words: text.split(' '),
  numbers: [],
  amount: -4_850,
  bankAccountId: 'everyday',
  monthDay: 3,
  weekday: 1,
});
/** Learns from lines; an account stands behind an arrow, where it isn't the usual one. */
const learned = (...lines: readonly string[]): CutWords =>
  cutWordsOf(
    lines.map((line) => {
      const [text = '', accountId = 'freight'] = line.split(' → ');
      return { ...shown(text), accountId };
    }),
  );
const whole = (cut: CutWords, text: string) => cut.madeWhole(shown(text)).words.join(' ');

describe('a word that is cut off at the end', () => {
  const cut = learned(
    'TIDEMARK FREIGHT IMPORT',
    'TIDEMARK FREIGHT IMPORT',
    'TIDEMARK FREIGHT EXPORT',
    'TIDEMARK FREIGHT EXPORT',
    'TIDEMARK FREIGHT EXPRESS',
    'TIDEMARK FREIGHT EXPRESS',
    'TIDEMARK FREIGHT IMP',
  );

  it('is the only one that it begins', () => {
    expect(whole(cut, 'TIDEMARK FREIGHT IM')).toBe('TIDEMARK FREIGHT IMPORT');
    expect(whole(cut, 'TIDEMARK FREIGHT IMP')).toBe('TIDEMARK FREIGHT IMPORT');
    expect(cut.maybe(shown('TIDEMARK FREIGHT IM'))).toEqual([]);
  });

  it('stays as it is where it begins several, which are said', () => {
    expect(whole(cut, 'TIDEMARK FREIGHT EXP')).toBe('TIDEMARK FREIGHT EXP');
    expect(cut.maybe(shown('TIDEMARK FREIGHT EXP'))).toEqual(['EXPORT', 'EXPRESS']);
  });

  it('is not looked for at other places, nor in a wording of one word', () => {
    expect(whole(cut, 'TIDEMARK IM FREIGHT')).toBe('TIDEMARK IM FREIGHT');
    expect(whole(cut, 'TIDEM')).toBe('TIDEM');
    expect(whole(cut, 'TIDEMARK FREIGHT CLAY')).toBe('TIDEMARK FREIGHT CLAY');
  });

  it('is the longest of those that are cut off too', () => {
    const often = learned('SHOP TIMBER', 'SHOP TIMBER', 'SHOP TIMB', 'SHOP TIMB', 'SHOP TIM');
    expect(whole(often, 'SHOP TIM')).toBe('SHOP TIMBER');
  });

  it('is a word by itself where it stands elsewhere than at the end', () => {
    const tins = learned('SHOP TIN LYNMO', 'SHOP TINWARE', 'SHOP TINWARE', 'SHOP TIN');
    expect(whole(tins, 'SHOP TIN')).toBe('SHOP TIN');
  });

  it('is a word by itself where it went elsewhere', () => {
    const both = ['COUNCIL TAX → rates', 'COUNCIL TAXI → travel'];
    const council = learned(...both, ...both);
    expect(whole(council, 'COUNCIL TAX')).toBe('COUNCIL TAX');
    expect(council.maybe(shown('COUNCIL TA'))).toEqual(['TAX', 'TAXI']);
  });

  it('is of several the one that went where it did', () => {
    const both = ['SHOP TIMBER → wood', 'SHOP TIMETABLE → print'];
    const shop = learned(...both, ...both, 'SHOP TIM → print');
    expect(whole(shop, 'SHOP TIM')).toBe('SHOP TIMETABLE');
    expect(shop.maybe(shown('SHOP TIME'))).toEqual([]);
    expect(shop.maybe(shown('SHOP TI'))).toEqual(['TIMBER', 'TIMETABLE']);
  });

  it('is not made one that was written but once', () => {
    expect(whole(learned('SHOP TIMBER', 'SHOP GLAZE'), 'SHOP TIM')).toBe('SHOP TIM');
  });
});
